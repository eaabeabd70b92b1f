import { type Exact, exact } from "../numbers/exact";

/** Fewer marks than this would show a single person's. */
export const LEAST_FOR_A_CLASS = 5;

const STEPS = 10;

/** How many of a class reached which tenth of the maximum. */
export interface ClassStep {
  /** In per cent: from (with it) to (without it, but for the last). */
  readonly from: number;
  readonly to: number;
  readonly count: number;
  /** Whether the reader's own mark is among them. */
  readonly own: boolean;
}

const stepOf = (share: Exact): number => Math.min(STEPS - 1, Math.max(0, Number(share.mul(STEPS).floor().n)));

/**
 * Marks as shares of the maximum, in ten steps; null where there are too few to be shown.
 * @example classSteps([exact("1/4"), exact("1/2")], exact("1/2")) → null
 */
export function classSteps(shares: readonly Exact[], own: Exact): ClassStep[] | null {
  if (shares.length < LEAST_FOR_A_CLASS) return null;
  const steps = shares.map(stepOf);
  return Array.from({ length: STEPS }, (_, i) => ({
    from: i * STEPS,
    to: (i + 1) * STEPS,
    count: steps.filter((step) => step === i).length,
    own: stepOf(own) === i,
  }));
}

/**
 * The middle one of the shares; of two middle ones the mean.
 * @example medianOf([exact("1/4"), exact("1/2"), exact("3/4"), exact(1)]) → exact("5/8")
 */
export function medianOf(shares: readonly Exact[]): Exact {
  const sorted = [...shares].sort((a, b) => a.compare(b));
  const at = (i: number) => sorted[i] ?? exact(0);
  const middle = Math.floor(sorted.length / 2);
  return sorted.length % 2 === 1
    ? at(middle)
    : at(middle - 1)
        .add(at(middle))
        .div(2);
}
