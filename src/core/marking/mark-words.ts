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

/** "5 marks wait for Captain Ines Marsh": the same words wherever something is not marked yet. */
export const waitsWords = (awaited: Exact | string, who: string): string =>
  exact(awaited).equals(1) ? `1 mark waits for ${who}` : `${shown(awaited)} marks wait for ${who}`;

/** What waits, for whom, and between which two figures the mark will end; null when nothing waits. */
export function rangeWords(
  { earned, awaited }: Pick<MarkTotals, "earned" | "awaited">,
  who: string,
): string | null {
  const waiting = exact(awaited);
  if (waiting.compare(ZERO) <= 0) return null;
  return `${waitsWords(waiting, who)}. Your mark will be between ${shown(earned)} and ${shown(exact(earned).add(waiting))}.`;
}

/** "85 %": a mark as a share of its maximum; null while some of it waits, or without a maximum. */
export function percentOf({ earned, awaited, maximum }: MarkTotals): string | null {
  const whole = exact(maximum);
  if (exact(awaited).compare(ZERO) > 0 || whole.compare(ZERO) <= 0) return null;
  return `${shown(exact(earned).div(whole).mul(100))} %`;
}

/**
 * What came of a hand-in, large, and a line below it: "17 of 20", "85 %"; or "5 of 12 marks wait for Captain Ines Marsh",
 * "So far 6 of 7".
 */
export function resultWords(
  totals: MarkTotals,
  who: string,
): { readonly large: string; readonly below: string } {
  const { earned, awaited, maximum } = totals;
  const waiting = exact(awaited);
  if (waiting.compare(ZERO) <= 0) {
    return { large: `${shown(earned)} of ${shown(maximum)}`, below: percentOf(totals) ?? "" };
  }
  const marked = exact(maximum).sub(waiting);
  return {
    large: `${shown(waiting)} of ${shown(maximum)} marks wait for ${who}`,
    below: marked.compare(ZERO) > 0 ? `So far ${shown(earned)} of ${shown(marked)}.` : "",
  };
}
