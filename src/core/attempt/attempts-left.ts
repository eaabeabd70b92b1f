import type { Instant } from "../time/instants";
import type { Allowance } from "./deadline";

/**
 * How many attempts a student may make: the quiz's and those of the allowance; null: as many as one likes.
 * @example attemptsAllowed(2, { extraAttempts: 1 }) → 3
 */
export const attemptsAllowed = (
  ofQuiz: number | null | undefined,
  { extraAttempts }: Pick<Allowance, "extraAttempts">,
): number | null => (ofQuiz === null || ofQuiz === undefined ? null : ofQuiz + extraAttempts);

/**
 * How many of them are left, a running one being used; null: as many as one likes.
 * @example attemptsLeft(3, 1) → 2
 */
export const attemptsLeft = (allowed: number | null, used: number): number | null =>
  allowed === null ? null : Math.max(0, allowed - used);

/**
 * Whether a student may still write in a quiz: in the attempt that runs, or in another one, now or later. What is shown
 * only after the last attempt waits for it.
 * @example attemptsRemain({ running: false, left: 1, assigned: true, closes: 1_000, now: 2_000 }) → false
 */
export const attemptsRemain = (terms: {
  readonly running: boolean;
  readonly left: number | null;
  /** Whether the student is among those who may take it. */
  readonly assigned: boolean;
  /** The student's own closing. */
  readonly closes: Instant | null;
  readonly now: Instant;
}): boolean =>
  terms.running ||
  (terms.assigned && terms.left !== 0 && (terms.closes === null || terms.now < terms.closes));
