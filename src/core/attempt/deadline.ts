import { type Instant, MINUTE } from "../time/instants";

/** A moment of a student's own window: "none" is without one, null as everyone. */
export type OwnMoment = Instant | "none" | null;

/** What a student is allowed at one quiz, by all that was given to them and to their sections. */
export interface Allowance {
  /** The limit is multiplied by it; 1 or more. */
  readonly factor: number;
  readonly extraMinutes: number;
  readonly extraAttempts: number;
  readonly opens: OwnMoment;
  readonly due: OwnMoment;
  readonly closes: OwnMoment;
}

export const NO_ALLOWANCE: Allowance = {
  factor: 1,
  extraMinutes: 0,
  extraAttempts: 0,
  opens: null,
  due: null,
  closes: null,
};

/**
 * The time allowed once started, in milliseconds: `L*f + e`; null without a limit.
 * @example timeAllowed(20, { factor: 1.5, extraMinutes: 5 }) → 2_100_000
 */
export function timeAllowed(
  limitMinutes: number | null,
  allowance: Pick<Allowance, "factor" | "extraMinutes">,
) {
  return limitMinutes === null ? null : (limitMinutes * allowance.factor + allowance.extraMinutes) * MINUTE;
}

/**
 * Whether an allowance gives more time than the limit.
 * @example hasMoreTime({ factor: 1, extraMinutes: 10 }) → true
 */
export const hasMoreTime = ({ factor, extraMinutes }: Pick<Allowance, "factor" | "extraMinutes">): boolean =>
  factor > 1 || extraMinutes > 0;

/**
 * The instant at which an attempt ends: `start + L*f + e`, and with "closing cuts the clock" also no later than the
 * closing. No limit: the closing, or null. Time that an instructor has added since comes on top of all that.
 * @example deadlineOf({ start: 0, limitMinutes: 20, allowance: { factor: 1.5, extraMinutes: 0 }, closes: 1_200_000, closingCuts: true }) → 1_200_000
 */
export function deadlineOf(terms: {
  readonly start: Instant;
  readonly limitMinutes: number | null;
  readonly allowance: Pick<Allowance, "factor" | "extraMinutes">;
  readonly closes: Instant | null;
  readonly closingCuts: boolean;
  /** The sum of the time that was added to this attempt, in milliseconds. */
  readonly added?: number;
}): Instant | null {
  const allowed = timeAllowed(terms.limitMinutes, terms.allowance);
  const whole = allowed === null ? null : terms.start + allowed;
  const cut = terms.closingCuts || whole === null ? terms.closes : null;
  const end = whole === null ? cut : cut === null ? whole : Math.min(whole, cut);
  return end === null ? null : end + (terms.added ?? 0);
}
