const MOST_KEPT = 5_000;

/**
 * What was made of a key before, or is made now and kept; when there is too much, all is forgotten and made anew.
 * @example memo(new Map([["a", 1]]), "a", () => 2) → 1
 */
export function memo<K, V>(values: Map<K, V>, key: K, make: () => V, most = MOST_KEPT): V {
  const known = values.get(key);
  if (known !== undefined) return known;
  const made = make();
  if (values.size >= most) values.clear();
  values.set(key, made);
  return made;
}
