import { type Exact, exact, ZERO } from "../numbers/exact";
import type { Counts } from "../quiz/rules";

/** A mark that may still grow: it ends between `low` and `high`, which are equal once nothing is awaited. */
export interface Range {
  readonly low: Exact;
  readonly high: Exact;
}

/** A handed-in attempt, in the order of its number. */
export interface AttemptMark {
  readonly earned: Exact;
  /** The maximum of what still awaits marking. */
  readonly awaited: Exact;
  /** What the attempt itself was out of: versions may differ, and questions be dropped. */
  readonly maximum: Exact;
}

export interface CountedMark extends Range {
  /** The index of the attempt that counts; null for a mean, or while the best cannot be told yet. */
  readonly attempt: number | null;
}

/** The range of an attempt, its share of its own maximum brought to another one. */
function rangeOf({ earned, awaited, maximum: own }: AttemptMark, maximum: Exact): Range {
  const scaled = (marks: Exact) =>
    own.equals(maximum) ? marks : own.n === 0n ? ZERO : marks.mul(maximum).div(own);
  return { low: scaled(earned), high: scaled(earned.add(awaited)) };
}
const larger = (a: Exact, b: Exact): Exact => (a.compare(b) >= 0 ? a : b);

/**
 * The mark out of `maximum` that some handed-in attempts make, as a range while marking goes on; null without an attempt.
 * @example countedMark("best", [{ earned: exact(6), awaited: exact(0), maximum: exact(10) }, { earned: exact(7), awaited: exact(0), maximum: exact(10) }], exact(10)) → { low: exact("7"), high: exact("7"), attempt: 1 }
 */
export function countedMark(
  rule: Counts,
  attempts: readonly AttemptMark[],
  maximum: Exact,
): CountedMark | null {
  const ranges = attempts.map((each) => rangeOf(each, maximum));
  const [first] = ranges;
  const last = ranges.at(-1);
  if (!first || !last) return null;
  if (rule === "first") return { ...first, attempt: 0 };
  if (rule === "latest") return { ...last, attempt: ranges.length - 1 };
  if (rule === "mean") {
    const mean = (pick: (range: Range) => Exact) =>
      ranges.reduce((total, range) => total.add(pick(range)), exact(0)).div(ranges.length);
    return { low: mean((range) => range.low), high: mean((range) => range.high), attempt: null };
  }
  const low = ranges.map((range) => range.low).reduce(larger);
  const high = ranges.map((range) => range.high).reduce(larger);
  const best = ranges.findIndex((range) => range.low.equals(low) && range.high.equals(high));
  return { low, high, attempt: best === -1 ? null : best };
}
