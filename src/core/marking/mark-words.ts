import { type Exact, exact, shown, ZERO } from "../numbers/exact";

/** Exact numbers, or text that reads as one. */
export interface MarkTotals {
  readonly earned: Exact | string;
  readonly awaited: Exact | string;
  readonly maximum: Exact | string;
}

/** A mark as a figure: "17.5 / 20", or "12 + ? / 20" while some of it waits. What waits is never shown as zero. */
export function markFigure({ earned, awaited, maximum }: MarkTotals): string {
  const waits = exact(awaited).compare(ZERO) > 0;
  if (!waits) return `${shown(earned)} / ${shown(maximum)}`;
  const known = exact(earned).compare(ZERO) > 0 ? `${shown(earned)} + ?` : "?";
  return `${known} / ${shown(maximum)}`;
}

/** What waits and between which two figures the mark will end; null when nothing waits. */
export function rangeWords({ earned, awaited }: Pick<MarkTotals, "earned" | "awaited">): string | null {
  const waiting = exact(awaited);
  if (waiting.compare(ZERO) <= 0) return null;
  const marks = waiting.equals(1) ? "1 mark is" : `${shown(waiting)} marks are`;
  return `${marks} still with your instructor. Your mark will be between ${shown(earned)} and ${shown(exact(earned).add(waiting))}.`;
}
