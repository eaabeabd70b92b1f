import type { ObjectSchema } from "yup";
import type { AttemptSeed } from "../numbers/seeded";
import type { UnitMeanings } from "../numbers/unit-names";
import type { Said } from "../said";
import type { FieldUses } from "./fields";

/** What the questions of a section are about together: a passage, a chart, a table. */
export interface Stimulus {
  /** The same for all questions that it belongs to. */
  readonly id: string;
  /** Rich text. */
  readonly text: string;
  /** A picture below the text: the id of one of the quiz's pictures, or its name in the attempt. */
  readonly figure?: string | undefined;
}

/** A sound or a film that a question asks about, with its words for who does not hear or see it. */
export interface Recording {
  /** Its id in the quiz, or its name in the attempt. */
  readonly id: string;
  readonly kind: "sound" | "film";
  readonly title: string;
  /** What is heard or seen, in order; rich text; must not give an answer away. */
  readonly transcript: string;
  /** Of a film: width through height, so that its place is kept while it comes. */
  readonly aspect?: number | undefined;
}

/** What every question of a quiz has, whatever its kind. Holds the key; never leaves the server. */
export interface QuestionCommon {
  /** Stays the same through the versions of a quiz. */
  readonly id: string;
  readonly kind: string;
  /** Rich text (a small, sanitised part of HTML). */
  readonly text: string;
  /** A picture below the text: the id of one of the quiz's pictures. */
  readonly figure?: string | undefined;
  /** A sound or a film below the text: the id of one of the quiz's recordings. */
  readonly recording?: string | undefined;
  /** What its section is about, and the recording whole: put beside it when an attempt is planned, never part of its file. */
  readonly stimulus?: Stimulus | undefined;
  readonly recorded?: Recording | undefined;
  /** An exact number: 6, "1/3". */
  readonly marks: number | string;
  /** The worked answer, rich text, shown when the reveal rules allow. */
  readonly worked?: string | undefined;
  /** Where to read more, rich text, shown together with the worked answer. */
  readonly readMore?: string | undefined;
  /** The language of its texts, where it is another than the quiz's, as a tag (BCP 47). */
  readonly language?: string | undefined;
  /** The language in which it is answered, where that is another than the question's. */
  readonly answerLanguage?: string | undefined;
}

/** What a student gets of a question. By construction it has no place for a key. */
export interface PresentedCommon {
  readonly kind: string;
  readonly text: string;
  /** A picture below the text, by its name in the attempt. */
  readonly figure?: string;
  readonly recording?: Recording;
  readonly stimulus?: Stimulus;
  /** The language of its texts, where it is another than the quiz's, as a tag (BCP 47). */
  readonly language?: string;
  /** The language in which it is answered, where that is another than the question's. */
  readonly answerLanguage?: string;
  /** The maximum, as people see it: "6". */
  readonly marks: string;
  /** How marks are given, where that is not plain: said at the question, in the brief and on the paper. */
  readonly scoring?: Said;
}

/** How far a question is answered, as the row of questions and the final look show it. */
export interface Fill {
  readonly state: "empty" | "part" | "full";
  /** How much of it is there, between 0 and 1; where it is partly. */
  readonly share?: number;
  /** "1 of 2 picked", "2 of 3 parts answered", "empty", "answered". */
  readonly words: Said;
}

export type AnswerReading<A> =
  | { readonly ok: true; readonly answer: A | null }
  | { readonly ok: false; readonly problem: Said };

/** The half of a kind that the desk uses too: knows the presented question and the answer, no key. */
export interface AnsweringKind<P extends PresentedCommon, A> {
  readonly name: P["kind"];
  /** What the fields of a presented question hold. */
  readonly fields: FieldUses;
  /** What the fields of an answer hold, where that is more than plain text. */
  readonly answerFields?: FieldUses;
  /** The question as a heading, where its text is part of the answering itself, as with gaps. */
  heading?(presented: P): string;
  /** One short sentence: what to do here. */
  instruction(presented: P): Said;
  /** Any JSON as an answer to this question; null is an empty one. What does not fit is refused with a sentence. */
  readAnswer(presented: P, raw: unknown): AnswerReading<A>;
  fill(presented: P, answer: A | null): Fill;
  /** The answer in one line of plain text; "" when empty. */
  summary(presented: P, answer: A | null): Said;
  /** An answer with one of its parts, by its place, as it is in another one; for kinds that have parts. */
  withPart?(presented: P, answer: A | null, part: number, from: A | null): A | null;
}

export type MarkState = "full" | "part" | "none" | "empty" | "awaits" | "dropped";

/**
 * Whether marks were lost; a question that awaits has lost none yet.
 * @example isMissed("part") → true
 */
export const isMissed = (state: MarkState | undefined): boolean =>
  state === "part" || state === "none" || state === "empty";

/** One line of a marked question: the whole of it, or one of its parts. Exact numbers as text. */
export interface MarkedPart {
  /** "a", "b" ... or null when the question has no parts. */
  readonly label: Said | null;
  readonly written: Said;
  readonly right: Said;
  readonly marks: string;
  readonly maximum: string;
  readonly state: MarkState;
  /** How the mark came about, in words. */
  readonly why: Said;
  /** What the author says to this answer; rich text. */
  readonly feedback?: string;
  /** What only differs from the right answer in its writing, in words; it says something of the key. */
  readonly difference?: Said;
  /** The same for answers that are the same, however they are written; what was written by default. */
  readonly identity?: string;
  /** What an answer still lacks that is asked for, as a sentence: such an answer is not a try. */
  readonly incomplete?: Said;
  /** Why no rule can mark it: a person has to, and has to be told. */
  readonly fault?: Said;
}

/**
 * What makes answers the same, however they are written.
 * @example identityOf({ label: null, written: "Ebb", right: "ebb", marks: "1", maximum: "1", state: "full", why: "", identity: "ebb" }) → "ebb"
 */
export const identityOf = (part: MarkedPart): string =>
  part.identity ?? (typeof part.written === "string" ? part.written : JSON.stringify(part.written));

export interface MarkedQuestion {
  readonly marks: string;
  readonly maximum: string;
  /** The marks that still wait for a person: in no total until then. */
  readonly awaiting: string;
  readonly state: MarkState;
  readonly parts: readonly MarkedPart[];
}

/** An answer that is to be the right one, as it was marked. */
export interface GivenAsKey {
  /** The place of the part that it answers, from 0. */
  readonly part: number;
  readonly identity: string;
  /** As it was written. */
  readonly written: string;
}

/** The half of a kind that holds keys: server and command line only. */
export interface MarkingKind<Q extends QuestionCommon, P extends PresentedCommon, A> {
  readonly name: Q["kind"];
  /** Whether a person marks it. */
  readonly byHand?: true;
  /** What the fields of a question hold. */
  readonly fields: FieldUses;
  /** Checks a question of a quiz file; its messages say where and what. */
  readonly shape: ObjectSchema<Q>;
  /** The only way from a question to what a student sees. The seed is the attempt's. */
  present(question: Q, seed: AttemptSeed): P;
  mark(question: Q, seed: AttemptSeed, answer: A | null): MarkedQuestion;
  /** The parts that a part builds on, by their places: they are checked with it, or an easy start could be made up for it. */
  buildsOn?(question: Q, part: number): readonly number[];
  /** How marks are given, in a sentence; "" where that is plain. The same for all attempts. */
  scoring?(question: Q): Said;
  /** An answer that gets full marks; null for kinds that a person marks, and where there is none. */
  rightAnswer(question: Q, seed: AttemptSeed): A | null;
  /**
   * Whether an answer asks that this quiz stand in for other work in the gradebook, or no longer; null when it says
   * nothing of it.
   */
  standsIn?(question: Q, answer: A | null): boolean | null;
  /** A text of the author (worked answer, feedback) with this attempt's own values in it; for kinds with variables. */
  fillIn?(question: Q, seed: AttemptSeed, text: string): string;
  /** The question with what units mean in its quiz and course, as far as it does not say itself; for kinds with units. */
  meaning?(question: Q, meanings: UnitMeanings): Q;
  /**
   * The question with an answer that was given as its right one, in the place of the one it has; null where that cannot be: of a
   * key that is worked out anew for each attempt there is no one answer. For kinds that can.
   */
  keyedBy?(question: Q, given: GivenAsKey): Q | null;
  /** What an author should look at again: right as a file, and yet likely to be unfair or not what is meant. */
  warnings?(question: Q): Said[];
}
