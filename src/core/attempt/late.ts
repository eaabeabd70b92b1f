import { atLeast, type Exact, exact, shown, ZERO } from "../numbers/exact";
import { type Said, said } from "../said";
import { DAY, type Instant } from "../time/instants";

/**
 * How many days late a hand-in is; a started day counts as one. 0: in time, or no due time.
 * @example daysLate(Date.UTC(2026, 10, 26, 0, 0, 1), Date.UTC(2026, 10, 25)) → 2
 */
export const daysLate = (handedInAt: Instant, due: Instant | null): number =>
  due === null || handedInAt <= due ? 0 : Math.ceil((handedInAt - due) / DAY);

/**
 * Marks after the cost of lateness: per cent of the maximum for each started day, never below zero.
 * @example afterLateCost(exact(8), exact(10), 2, 10) → exact("6")
 */
export const afterLateCost = (
  earned: Exact,
  maximum: Exact,
  days: number,
  costPerDay: number | string,
): Exact => atLeast(earned.sub(maximum.mul(exact(costPerDay)).mul(days).div(100)), ZERO);

/** The totals of a handed-in attempt as they count: with what lateness costs taken off. */
export interface CountingTotals {
  readonly earned: Exact;
  /** What still waits, at the most that it can bring. */
  readonly awaited: Exact;
  readonly maximum: Exact;
  readonly daysLate: number;
  /** "1 day late: 10 % of the maximum (3.3 marks) is lost", "late"; null: in time. */
  readonly lateWords: Said | null;
}

export function countingTotals(terms: {
  readonly earned: Exact | string;
  readonly awaited: Exact | string;
  readonly maximum: Exact | string;
  readonly handedInAt: Instant;
  readonly due: Instant | null;
  readonly costPerDay: number | string | null;
  /** Time that the instructor added to this attempt, in milliseconds. */
  readonly added?: number;
}): CountingTotals {
  const earned = exact(terms.earned);
  const awaited = exact(terms.awaited);
  const maximum = exact(terms.maximum);
  // The instructor's added time moves the due time of this attempt with it.
  const due = terms.due === null ? null : terms.due + (terms.added ?? 0);
  const days = daysLate(terms.handedInAt, due);
  if (days === 0) return { earned, awaited, maximum, daysLate: 0, lateWords: null };
  if (terms.costPerDay === null)
    return { earned, awaited, maximum, daysLate: days, lateWords: said("attempt.late.late") };
  const after = (marks: Exact) => afterLateCost(marks, maximum, days, terms.costPerDay ?? 0);
  const low = after(earned);
  const share = exact(terms.costPerDay).mul(days);
  const lost = share.compare(100) > 0 ? exact(100) : share;
  const marks = maximum.mul(lost).div(100);
  return {
    earned: low,
    maximum,
    awaited: after(earned.add(awaited)).sub(low),
    daysLate: days,
    lateWords: said("attempt.late.other-late-of-the-maximum-other", {
      days,
      lost: shown(lost),
      marks: Number(shown(marks)),
    }),
  };
}
