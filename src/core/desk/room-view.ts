import type { Written } from "../journal/merge";
import type { Recording, Stimulus } from "../kinds/kind";
import type { Rubric } from "../kinds/rubric";
import type { UploadedFile } from "../kinds/upload/answer";
import type { HandWork } from "../marking/hand-work";
import type { Said } from "../said";
import type { WordRange } from "../text/word-count";
import type { Instant } from "../time/instants";
import type { PictureView, RefusedEntry } from "./desk-view";

/** How far an answer of the pile is: nothing decided, something, all; returned, or changed since it was. */
export type PileState = "awaits" | "begun" | "marked" | "returned" | "changed";

/** An answer of the pile. Nothing of it tells whose it is, unless names are shown. */
export interface PileLine {
  /** Its paper's number, drawn by lot. */
  readonly paper: number;
  readonly slot: number;
  /** The question's id within the quiz. */
  readonly question: string;
  /** How much was written: "152 words", "2 files". */
  readonly size: Said;
  readonly state: PileState;
  /** What it comes to so far, as people see it; null: nothing is decided. */
  readonly marks: string | null;
  readonly maximum: string;
  /** The student's name; null: names are hidden. */
  readonly name: string | null;
  /** "1 day late"; null: in time, or names are hidden. */
  readonly late: string | null;
  /** Whether something that was written in time and came late is to be decided. */
  readonly lateWriting: boolean;
  /** Who else has it open now. */
  readonly openAt: string | null;
  /** Whether it was given to the one who looks. */
  readonly mine: boolean;
  /** The ids of its student's sections; empty where names are hidden and the section would tell. */
  readonly sections: readonly string[];
}

/** A question that persons mark, with how far its pile is. */
export interface PileQuestion {
  readonly id: string;
  /** Its first words. */
  readonly title: string;
  readonly awaiting: number;
  readonly all: number;
}

/** Pile and terms of the marking room. */
export interface PileView {
  readonly quizId: string;
  readonly title: string;
  readonly course: { readonly title: string; readonly slug: string };
  readonly namesHidden: boolean;
  readonly byStudent: boolean;
  readonly questions: readonly PileQuestion[];
  readonly lines: readonly PileLine[];
  /** How many answers were left empty: nobody has to mark those. */
  readonly empty: number;
  readonly sections: readonly { readonly id: string; readonly title: string }[];
  /** The remarks that may be brought in. */
  readonly remarks: readonly RemarkLine[];
  readonly serverNow: Instant;
  /** Whether the one who looks may return work. */
  readonly mayReturn: boolean;
}

/** A sentence that is kept to be used again. */
export interface RemarkLine {
  readonly id: string;
  readonly short: string;
  readonly text: string;
  readonly used: number;
  readonly own: boolean;
  readonly shared: boolean;
  /** Who wrote it. */
  readonly author: string;
}

/** What somebody has an answer open. */
export interface Holder {
  readonly name: string;
  /** Whether it is the same person, at another page. */
  readonly isSelf: boolean;
}

/** What is stored of a marker's work. */
export interface StandingWork {
  readonly work: HandWork;
  readonly version: number;
  readonly device: string;
  readonly revision: number;
  readonly writtenAt: Instant;
  readonly author: string;
}

/** An answer as its student saw it, with all that a marker needs beside it. */
export interface AnswerView {
  readonly paper: number;
  readonly slot: number;
  readonly question: string;
  readonly name: string | null;
  /** "handed in Wed 18 Nov, 00:01"; null where names are hidden. */
  readonly handedIn: string | null;
  readonly late: string | null;
  readonly language: string;
  readonly answerLanguage: string;
  /** The question as its student saw it; rich text. */
  readonly text: string;
  readonly stimulus: Stimulus | null;
  readonly recording: Recording | null;
  readonly figure: string | null;
  readonly pictures: readonly PictureView[];
  /** Where pictures and files of this paper lie. */
  readonly base: string;
  readonly maximum: string;
  readonly words: WordRange | null;
  readonly size: Said;
  readonly rubric: Rubric | null;
  readonly model: string | null;
  readonly answer:
    | { readonly kind: "rich"; readonly rich: string }
    | { readonly kind: "files"; readonly files: readonly RoomFile[]; readonly beside: string }
    /** What a rule could not mark: its parts in lines. */
    | { readonly kind: "lines"; readonly lines: readonly Said[] };
  /** What was written to the same question in earlier attempts, and what was said of it. */
  readonly earlier: readonly EarlierAnswer[];
  readonly standing: StandingWork | null;
  /** The version that was returned last; null: none. */
  readonly returnedVersion: number | null;
  readonly holder: Holder | null;
  /** What was said about its mark: how many lines, and whether one waits for an answer. */
  readonly talk: { readonly lines: number; readonly waits: boolean };
  readonly lateWriting: boolean;
  /** Digest of what was written: what is decided is decided of these words. */
  readonly answerDigest: string;
}

/** A file of an answer; its name tells nothing where names are hidden. */
export interface RoomFile extends UploadedFile {
  /** As its content says: "application/pdf". */
  readonly type: string;
}

export interface EarlierAnswer {
  readonly number: number;
  readonly rich: string;
  readonly marks: string | null;
  readonly feedback: string | null;
}

/** A change that a marker's page writes down: the newest state of one slot of a paper; slot 0 is the paper as a whole. */
export interface MarkingEntry extends Written {
  readonly work: HandWork;
  /** The version of the stored state that it was written on; 0: there was none. */
  readonly base: number;
  /** Digest of the answer that it was written of; "" for the paper as a whole. */
  readonly answerDigest: string;
}

/** What the server answers to a save of markers' work. */
export interface MarkingReceipt {
  readonly serverNow: Instant;
  readonly saved: readonly (Pick<Written, "slot" | "device" | "revision"> & { readonly version: number })[];
  readonly refused: readonly RefusedEntry[];
  /** What stands where something was refused because another wrote meanwhile. */
  readonly standing: readonly (StandingWork & { readonly slot: number })[];
  readonly newer: readonly never[];
}
