import type { AttemptProgress } from "../attempt/attempt-progress";
import type { OrderRule } from "../attempt/order";
import type { RuleSentence } from "../brief/phrases";
import type { JournalEntry, Written } from "../journal/merge";
import type { KindName } from "../kinds/answering";
import type { TryRules } from "../quiz/rules";
import type { Said } from "../said";
import type { Instant } from "../time/instants";

/** The times of an attempt and what the clock shows. */
export interface ClockView {
  /** The server's time when this was made. */
  readonly serverNow: Instant;
  readonly startedAt: Instant;
  /** Null: nothing ends the attempt but its writer. */
  readonly deadline: Instant | null;
}

/** A picture of a question: for who does not see it, and its size in pixels, so that nothing jumps when it comes. */
export interface PictureView {
  readonly id: string;
  readonly alt: string;
  readonly width: number;
  readonly height: number;
}

/** What an instructor said to everybody who is taking a quiz. */
export interface DeskMessage {
  readonly id: string;
  readonly text: string;
  readonly from: string;
  readonly at: Instant;
}

/** How turning pages goes, and what it does. */
export interface DeskOrder {
  readonly rule: OrderRule;
  /** The slots of each page. */
  readonly pages: readonly (readonly number[])[];
  /** Every question of a page has to be answered before moving on. */
  readonly answerFirst: boolean;
  readonly tellAtOnce: boolean;
  /** The server turns the pages: moving on closes, tells or opens something. */
  readonly byServer: boolean;
}

/** What of an attempt's questions may be on a student's device now. Turning a page may change it. */
export interface DeskPages {
  readonly progress: AttemptProgress;
  /** What the server holds for the questions that were sent. */
  readonly answers: readonly JournalEntry[];
  readonly pictures: readonly PictureView[];
}

/** Everything the desk needs, and nothing that must not be on a student's device. */
export interface DeskView extends DeskPages {
  readonly attemptId: string;
  readonly quizId: string;
  readonly title: string;
  /** The language of what the author wrote, as a tag (BCP 47). */
  readonly language: string;
  readonly course: string;
  readonly student: string;
  readonly email: string;
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
  readonly warnings: readonly number[];
  readonly order: DeskOrder;
  /** The sections that have a title or a page of their own, in order: how many slots each has. */
  readonly sections: readonly { readonly title: string | null; readonly slots: number }[];
  /** The kinds of questions that this quiz has. */
  readonly kinds: readonly KindName[];
  readonly here: number;
  /** Whether ribbons may be laid. */
  readonly ribbons: boolean;
  readonly tries: TryRules | null;
  readonly calculator: "none" | "plain" | "scientific";
  readonly readAloud: boolean;
  /** Whether a hand-in can be taken back before it is due. */
  readonly takeBack: boolean;
  /** Rich text, or null. */
  readonly reference: string | null;
  /** Rich text, or null. */
  readonly brief: string | null;
  readonly rules: readonly RuleSentence[];
}

/** What other desks of an attempt may have changed: asked together with how it stands. */
export interface AttemptTraces {
  /** What stands in each slot that something was written into. */
  readonly answers: readonly Written[];
  /** How often an answer was checked, or a question told: grows. */
  readonly turns: number;
  /** How many desks of the attempt are open. */
  readonly desks: number;
}

/** The state of an attempt as the desk asks for it while it runs. */
export interface AttemptPulse {
  readonly serverNow: Instant;
  readonly deadline: Instant | null;
  readonly handedInAt: Instant | null;
  /** The page that was reached: another device may have turned it. */
  readonly page: number;
  /** Absent where they were not asked for. */
  readonly messages?: readonly DeskMessage[];
  /** Absent where they were not asked for. */
  readonly traces?: AttemptTraces;
}

/** An entry that the server did not take: another one holds nothing up, and this one stays on the device. */
export interface RefusedEntry {
  readonly slot: number;
  readonly device: string;
  readonly revision: number;
  /** "closed", "number-taken", "bad-input". */
  readonly type: string;
  /** Why, and what would be right. */
  readonly sentence: Said;
}

/** What the server answers to a save. */
export interface SaveReceipt extends AttemptPulse {
  /** The revisions that are safe now. */
  readonly saved: readonly { readonly slot: number; readonly device: string; readonly revision: number }[];
  /** What was not saved, each with why. */
  readonly refused: readonly RefusedEntry[];
  /** Slots in which another device wrote later; that stands, the sent one is in the log. */
  readonly newer: readonly JournalEntry[];
}
