import type { PileLine, PileView } from "@/core/desk/room-view";

/** An answer of the pile: a slot of a paper. */
export interface Place {
  readonly paper: number;
  readonly slot: number;
}

/** @example keyOf({ paper: 12, slot: 3 }) → "12 3" */
export const keyOf = ({ paper, slot }: Place): string => `${paper} ${slot}`;

/** What of the pile is looked at. */
export interface PileFilter {
  readonly question: string;
  readonly show: "all" | "waiting" | "late" | "mine";
  readonly section: string | null;
}

/** Whether an answer still has something to decide. */
export const isWaiting = ({ state }: PileLine): boolean => state === "awaits" || state === "begun";

/** The answers that are looked at, in the order of the pile: one question across students, or all of one student together. */
export function shownLines(
  { lines, byStudent }: Pick<PileView, "lines" | "byStudent">,
  { question, show, section }: PileFilter,
): PileLine[] {
  return lines.filter(
    (line) =>
      (byStudent || line.question === question) &&
      (show !== "waiting" || isWaiting(line)) &&
      (show !== "late" || line.late !== null || line.lateWriting) &&
      (show !== "mine" || line.mine) &&
      (section === null || line.sections.includes(section)),
  );
}

interface Looking {
  readonly pile: Pick<PileView, "lines" | "byStudent">;
  readonly filter: PileFilter;
}

/** The answer beside one in the pile, as it is looked at; null at its end. */
export function beside({ pile, filter }: Looking, here: Place, by: 1 | -1): PileLine | null {
  const lines = shownLines(pile, filter);
  const at = lines.findIndex((line) => keyOf(line) === keyOf(here));
  return lines[at + by] ?? null;
}

/**
 * The next answer that awaits and that nobody else has open, after one; from the beginning again at the end. Null: none is left.
 */
export function nextWaiting({ pile, filter }: Looking, here: Place): PileLine | null {
  // What was just marked leaves a list of what waits: where it stood is found in the whole pile.
  const all = shownLines(pile, { ...filter, show: filter.show === "waiting" ? "all" : filter.show });
  const at = all.findIndex((line) => keyOf(line) === keyOf(here));
  const around = [...all.slice(at + 1), ...all.slice(0, Math.max(0, at))];
  return around.find((line) => isWaiting(line) && line.openAt === null) ?? null;
}
