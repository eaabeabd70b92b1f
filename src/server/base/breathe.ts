/** Lets others have their turn: work on a whole class is a lot in one piece, and a save waits for it. */
export const breathe = (): Promise<void> => new Promise((go) => setImmediate(go));

/** So many at once are worked on between two turns of others. */
const AT_ONCE = 20;

/** The same as `map`, with turns for others in between. */
export async function mapInTurns<T, R>(
  list: readonly T[],
  make: (each: T, index: number) => R,
): Promise<R[]> {
  const made: R[] = [];
  for (const [i, each] of list.entries()) {
    if (i > 0 && i % AT_ONCE === 0) await breathe();
    made.push(make(each, i));
  }
  return made;
}
