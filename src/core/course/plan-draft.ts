/** What stands in a part of a course's plan: a quiz, something to read, or a word of the instructor. */
export type DraftEntry =
  | { readonly id: string; readonly kind: "quiz"; readonly quizId: string }
  /** Rich text. */
  | { readonly id: string; readonly kind: "reading" | "note"; readonly text: string };

/** A week or a topic of a course's plan, as it is written. */
export interface DraftSection {
  readonly id: string;
  readonly title: string;
  /** Its first day, "2026-11-30"; null: a topic without one. */
  readonly starts: string | null;
  readonly entries: readonly DraftEntry[];
}

/** The plan of a course, as it is written. */
export type PlanDraft = readonly DraftSection[];

/**
 * A list in which one has changed places with its neighbour; the same list where there is none.
 * @example movedIn(["a", "b", "c"], 2, -1) → ["a", "c", "b"]
 */
export function movedIn<T>(list: readonly T[], place: number, by: 1 | -1): readonly T[] {
  const other = place + by;
  const [one, neighbour] = [list[place], list[other]];
  if (one === undefined || neighbour === undefined) return list;
  return list.map((each, i) => (i === place ? neighbour : i === other ? one : each));
}

/**
 * The place of the section in which a day is: the one that began last; null: none has begun.
 * @example sectionAt([{ starts: "2026-11-02" }, { starts: null }, { starts: "2026-11-09" }], "2026-11-08") → 0
 */
export function sectionAt(sections: readonly Pick<DraftSection, "starts">[], day: string): number | null {
  let found: number | null = null;
  for (const [place, { starts }] of sections.entries()) {
    const best = found === null ? null : (sections[found]?.starts ?? null);
    if (starts !== null && starts <= day && (best === null || starts >= best)) found = place;
  }
  return found;
}
