import type { JournalEntry } from "../journal/merge";
import type { PresentedQuestion } from "../kinds/answering";
import type { RuleSentence } from "../quiz/sentences";
import type { Instant } from "../time/instants";

/** The times of an attempt and what the clock shows. */
export interface ClockView {
  /** The server's time when this was made. */
  readonly serverNow: Instant;
  readonly startedAt: Instant;
  /** Null: nothing ends the attempt but its writer. */
  readonly deadline: Instant | null;
}

/** Everything the desk needs, and nothing that must not be on a student's device. */
export interface DeskView {
  readonly attemptId: string;
  readonly quizId: string;
  readonly title: string;
  readonly course: string;
  readonly student: string;
  readonly number: number;
  /** Attempts allowed; null: unlimited. */
  readonly allowed: number | null;
  readonly zone: string;
  readonly clock: ClockView;
  /** Whether the clock is already confirmed; else the desk does so once the question is on the screen. */
  readonly confirmed: boolean;
  /** Minutes; null: no limit. */
  readonly limitMinutes: number | null;
  /** Times left at which a notice is due, in milliseconds, longest first. */
  readonly notices: readonly number[];
  readonly questions: readonly PresentedQuestion[];
  readonly answers: readonly JournalEntry[];
  readonly here: number;
  readonly fold: boolean;
  /** Rich text, or null. */
  readonly reference: string | null;
  /** Rich text, or null. */
  readonly brief: string | null;
  readonly rules: readonly RuleSentence[];
}

/** The state of an attempt as the desk asks for it while it runs. */
export interface AttemptPulse {
  readonly serverNow: Instant;
  readonly deadline: Instant | null;
  readonly handedInAt: Instant | null;
}

/** What the server answers to a save. */
export interface SaveReceipt extends AttemptPulse {
  /** The revisions that are safe now. */
  readonly saved: readonly { readonly slot: number; readonly device: string; readonly revision: number }[];
  /** Slots in which another device wrote later; that stands, the sent one is in the log. */
  readonly newer: readonly JournalEntry[];
}
