import type { HandedInBy } from "../attempt/answered-words";
import { type Instant, MINUTE, SECOND } from "../time/instants";

/** What is known of one student's sitting of a quiz that runs. */
export interface Sitting {
  readonly attemptId: string;
  readonly personId: string;
  readonly name: string;
  /** Of an attempt that a student may make several of. */
  readonly number: number;
  readonly startedAt: Instant;
  /** Null: nothing ends it but its writer. */
  readonly deadline: Instant | null;
  readonly handedInAt: Instant | null;
  readonly handedInBy: HandedInBy | null;
  /** The question that was on the screen last. */
  readonly here: number;
  /** How many questions have something written to them, of how many. */
  readonly answered: number;
  readonly questions: number;
  /** When the server took in the last change; null: none. */
  readonly savedAt: Instant | null;
  /** Since when no desk of it is open; null: one is, or none was yet. */
  readonly awaySince: Instant | null;
  /** How many questions got their first words in each part of its time (`TRACE_PARTS` of them). */
  readonly trace: readonly number[];
  /** What is particular about it: codes, for words. */
  readonly particular: readonly Particular[];
}

/** Something that sets one sitting apart from the others. */
export type Particular =
  | { readonly kind: "more-time"; readonly factor: number; readonly minutes: number }
  | { readonly kind: "time-added"; readonly minutes: number }
  | { readonly kind: "joined-late"; readonly minutes: number }
  | { readonly kind: "came-late"; readonly at: Instant }
  | { readonly kind: "taken-back" };

/** So many parts has the trace of an attempt's time. */
export const TRACE_PARTS = 24;
/** Nothing was written for so long: it may be thinking, and it may be trouble. */
const STILL_AFTER = 5 * MINUTE;
/** So near to its end, an attempt with empty questions may need a word. */
const NEAR_END = 2 * MINUTE;
/** A change that arrives so long after it was written had no connection. */
export const LATE_AFTER = 30 * SECOND;

/** What happens now: no desk open, nothing new for a while, nearly over with empty questions, writing, handed in. */
export type Happening = "away" | "still" | "near-end" | "writing" | "handed-in";

/**
 * What happens now in a sitting.
 * @example happening({ handedInAt: 1, awaySince: null, savedAt: null, startedAt: 0, deadline: null, answered: 0, questions: 2 }, 5) → "handed-in"
 */
export function happening(
  sitting: Pick<
    Sitting,
    "handedInAt" | "awaySince" | "savedAt" | "startedAt" | "deadline" | "answered" | "questions"
  >,
  now: Instant,
): Happening {
  const { handedInAt, awaySince, savedAt, startedAt, deadline, answered, questions } = sitting;
  if (handedInAt !== null) return "handed-in";
  if (awaySince !== null) return "away";
  if (deadline !== null && deadline - now <= NEAR_END && answered < questions) return "near-end";
  return now - Math.max(savedAt ?? 0, startedAt) >= STILL_AFTER ? "still" : "writing";
}

const URGENCY: { readonly [H in Happening]: number } = {
  away: 0,
  still: 1,
  "near-end": 1,
  writing: 2,
  "handed-in": 3,
};

/** Those who may need help first; then by name. */
export function inNeed(now: Instant): (a: Sitting, b: Sitting) => number {
  return (a, b) =>
    URGENCY[happening(a, now)] - URGENCY[happening(b, now)] ||
    a.name.localeCompare(b.name) ||
    a.number - b.number;
}

/**
 * The part of an attempt's time in which a moment lies, from 0; without an end its time is taken as three hours.
 * @example partOf(50, { startedAt: 0, deadline: 100 }) → 12
 */
export function partOf(
  at: Instant,
  { startedAt, deadline }: Pick<Sitting, "startedAt" | "deadline">,
): number {
  const whole = Math.max(1, deadline === null ? 180 * MINUTE : deadline - startedAt);
  return Math.min(TRACE_PARTS - 1, Math.max(0, Math.floor(((at - startedAt) / whole) * TRACE_PARTS)));
}
