import { type Exact, exact, sum, written, ZERO } from "../numbers/exact";
import type { MarkedPart, MarkedQuestion, MarkState } from "./kind";

/** The state of a whole from its marks and the states of its parts. */
function stateOf(marks: Exact, maximum: Exact, parts: readonly MarkedPart[]): MarkState {
  if (parts.some((part) => part.state === "awaits")) return "awaits";
  if (parts.every((part) => part.state === "empty")) return "empty";
  if (marks.equals(maximum)) return "full";
  return marks.equals(ZERO) ? "none" : "part";
}

/** A marked question from its marked parts: unrounded marks add up, and what awaits is in no total. */
export function wholeOf(maximum: Exact, parts: readonly MarkedPart[]): MarkedQuestion {
  const settled = parts.filter((part) => part.state !== "awaits");
  const marks = sum(settled.map((part) => exact(part.marks)));
  const awaiting = sum(parts.filter((part) => part.state === "awaits").map((part) => exact(part.maximum)));
  return {
    marks: written(marks),
    maximum: written(maximum),
    awaiting: written(awaiting),
    state: stateOf(marks, maximum, parts),
    parts,
  };
}

/**
 * A marked question without parts, from its credit.
 * @example wholeWithCredit(exact(2), exact("1/2"), { written: "ebb", right: "flood", why: "near" }).state → "part"
 */
export function wholeWithCredit(
  maximum: Exact,
  credit: Exact,
  line: Pick<MarkedPart, "written" | "right" | "why"> &
    Partial<Pick<MarkedPart, "feedback" | "identity" | "difference">>,
  state?: MarkState,
): MarkedQuestion {
  const reached = credit.equals(1) ? "full" : credit.equals(ZERO) ? "none" : "part";
  return wholeOf(maximum, [
    {
      label: null,
      marks: written(maximum.mul(credit)),
      maximum: written(maximum),
      state: state ?? reached,
      ...line,
    },
  ]);
}
