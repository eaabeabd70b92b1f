import { type Exact, exact, shown, ZERO } from "../numbers/exact";
import { type Said, said } from "../said";

/** Exact numbers, or text that reads as one. */
export interface MarkTotals {
  readonly earned: Exact | string;
  readonly awaited: Exact | string;
  readonly maximum: Exact | string;
}

/**
 * A mark as a figure: "17.5 / 20", or "12 + ? / 20" while some of it waits. What waits is never shown as zero.
 * @example markFigure({ earned: exact(12), awaited: exact(3), maximum: exact(20) }) → "12 + ? / 20"
 */
export function markFigure({ earned, awaited, maximum }: MarkTotals): string {
  const waits = exact(awaited).compare(ZERO) > 0;
  if (!waits) return `${shown(earned)} / ${shown(maximum)}`;
  const known = exact(earned).compare(ZERO) > 0 ? `${shown(earned)} + ?` : "?";
  return `${known} / ${shown(maximum)}`;
}

/**
 * "5 marks wait for Captain Ines Marsh": the same words wherever something is not marked yet.
 * @example waitsWords(exact(3), "Captain Marsh") → "3 marks wait for Captain Marsh"
 */
export const waitsWords = (awaited: Exact | string, who: Said): Said =>
  exact(awaited).equals(1)
    ? said("marking.mark-words.1-mark-waits-for", { who })
    : said("marking.mark-words.marks-wait-for", { awaited: shown(awaited), who });

/**
 * What waits, for whom, and between which two figures the mark will end; null when nothing waits.
 * @example rangeWords({ earned: exact(12), awaited: exact(3) }, "Captain Marsh") → "3 marks wait for Captain Marsh. Your mark will be between 12 and 15."
 */
export function rangeWords(
  { earned, awaited }: Pick<MarkTotals, "earned" | "awaited">,
  who: Said,
): Said | null {
  const waiting = exact(awaited);
  if (waiting.compare(ZERO) <= 0) return null;
  return said("marking.mark-words.range", {
    waits: waitsWords(waiting, who),
    least: shown(earned),
    most: shown(exact(earned).add(waiting)),
  });
}

/**
 * "85 %": a mark as a share of its maximum; null while some of it waits, or without a maximum.
 * @example percentOf({ earned: exact(17), awaited: exact(0), maximum: exact(20) }) → "85 %"
 */
export function percentOf({ earned, awaited, maximum }: MarkTotals): string | null {
  const whole = exact(maximum);
  if (exact(awaited).compare(ZERO) > 0 || whole.compare(ZERO) <= 0) return null;
  return `${shown(exact(earned).div(whole).mul(100))} %`;
}

/**
 * What came of a hand-in, large, and a line below it: "17 of 20", "85 %"; or "5 of 12 marks wait for Captain Ines Marsh",
 * "So far 6 of 7".
 * @example resultWords({ earned: exact(12), awaited: exact(0), maximum: exact(20) }, "Captain Marsh").large → "12 of 20"
 */
export function resultWords(totals: MarkTotals, who: Said): { readonly large: Said; readonly below: Said } {
  const { earned, awaited, maximum } = totals;
  const waiting = exact(awaited);
  if (waiting.compare(ZERO) <= 0) {
    return {
      large: said("marking.mark-words.earned-of", { earned: shown(earned), maximum: shown(maximum) }),
      below: percentOf(totals) ?? "",
    };
  }
  const marked = exact(maximum).sub(waiting);
  return {
    large: said("marking.mark-words.of-marks-wait-for", {
      waiting: shown(waiting),
      maximum: shown(maximum),
      who,
    }),
    below:
      marked.compare(ZERO) > 0
        ? said("marking.mark-words.so-far-of", { earned: shown(earned), marked: shown(marked) })
        : "",
  };
}
