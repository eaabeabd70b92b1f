import type { Instant } from "../time/instants";
import type { AllowanceTerms } from "./allowance-terms";

/** Whom an allowance is given to. */
export type Recipient =
  | { readonly personId: string; readonly name: string }
  | { readonly sectionId: string; readonly name: string };

/** An allowance as its instructor sees it. */
export interface AllowanceLine {
  readonly id: string;
  readonly to: Recipient;
  /** The quiz that it is for; null: it holds throughout the course. */
  readonly quiz: { readonly id: string; readonly title: string } | null;
  readonly terms: AllowanceTerms;
  /** What was given, in words. */
  readonly words: readonly string[];
  readonly reason: string;
  /** Who gave it; null: it was so from the beginning. */
  readonly by: string | null;
  readonly at: Instant;
  /** When, by whom and why it ended; null: it holds. Without a reason another took its place. */
  readonly ended: { readonly at: Instant; readonly by: string | null; readonly reason: string | null } | null;
}

/** A running attempt whose end moves. */
export interface MovedEnd {
  readonly name: string;
  /** Its quiz. */
  readonly title: string;
  /** Null: it has no end. */
  readonly from: Instant | null;
  readonly to: Instant | null;
}

/** What a change of times does, known before it is made. */
export interface TimesEffect {
  /** Running attempts whose end moves. */
  readonly moved: readonly MovedEnd[];
  /** How many students are told. */
  readonly told: number;
  /** What one of them reads first on the brief of a quiz, as it will be. */
  readonly reads: { readonly name: string; readonly title: string; readonly line: string } | null;
  /** What should be looked at before it is done, in sentences. */
  readonly warnings: readonly string[];
  /** Names the state that it was worked out for. */
  readonly expects: string;
}

/** What holds at a quiz for everyone who was given nothing. */
export interface EveryonesTimes {
  readonly opens: Instant | null;
  readonly due: Instant | null;
  readonly closes: Instant | null;
  /** Minutes; null: no limit. */
  readonly timeLimit: number | null;
  /** Null: as many as one likes. */
  readonly attempts: number | null;
  readonly closingCutsClock: boolean;
  /** The students who may take it; null: everyone in the course. */
  readonly onlyFor: readonly string[] | null;
}

/** A page on which times are set: of a quiz, or throughout a course. */
export interface TimesView {
  readonly course: { readonly slug: string; readonly title: string };
  /** Null: it is about the whole course. */
  readonly quiz: { readonly id: string; readonly title: string } | null;
  readonly everyone: EveryonesTimes | null;
  /** The allowances that hold; those that ended, last ones first. */
  readonly held: readonly AllowanceLine[];
  readonly past: readonly AllowanceLine[];
  readonly students: readonly { readonly id: string; readonly name: string }[];
  readonly sections: readonly {
    readonly id: string;
    readonly name: string;
    readonly members: readonly string[];
  }[];
}
