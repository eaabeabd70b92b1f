import { declarationAnswering } from "./declaration/answer";
import { essayAnswering } from "./essay/answer";
import { gapsAnswering } from "./gaps/answer";
import type { AnsweringKind, PresentedCommon } from "./kind";
import { matchingAnswering } from "./matching/answer";
import { numericAnswering } from "./numeric/answer";
import { oneOfSeveralAnswering } from "./one-of-several/answer";
import { orderingAnswering } from "./ordering/answer";
import { pointOnPictureAnswering } from "./point-on-picture/answer";
import { severalOfSeveralAnswering } from "./several-of-several/answer";
import { shortTextAnswering } from "./short-text/answer";
import { trueOrFalseAnswering } from "./true-or-false/answer";
import { agreed } from "./trusted-type";
import { uploadAnswering } from "./upload/answer";

/** The kinds of questions, in the half that the desk uses too: a line for each. */
const KINDS = {
  "one-of-several": oneOfSeveralAnswering,
  "several-of-several": severalOfSeveralAnswering,
  "true-or-false": trueOrFalseAnswering,
  "short-text": shortTextAnswering,
  gaps: gapsAnswering,
  matching: matchingAnswering,
  ordering: orderingAnswering,
  numeric: numericAnswering,
  "point-on-picture": pointOnPictureAnswering,
  essay: essayAnswering,
  upload: uploadAnswering,
  declaration: declarationAnswering,
} as const;

type Kinds = typeof KINDS;
type PresentedIn<K> = K extends AnsweringKind<infer P, infer _> ? P : never;
type AnswerIn<K> = K extends AnsweringKind<infer _, infer A> ? A : never;

export type KindName = keyof Kinds;
/** What a student gets of any question: a union of types that cannot hold a key. */
export type PresentedQuestion = { [K in KindName]: PresentedIn<Kinds[K]> }[KindName];
export type Answer = { [K in KindName]: AnswerIn<Kinds[K]> }[KindName];

export const KIND_NAMES = Object.keys(KINDS) as KindName[];

/** The answering half of the kind of a question. */
export const answering = (kind: KindName) => agreed<AnsweringKind<PresentedCommon, Answer>>(KINDS[kind]);

/**
 * The question's own words, for headings and lists.
 * @example headingOf({ kind: "short-text", text: "Which?", marks: "2" }) → "Which?"
 */
export const headingOf = (question: PresentedQuestion): string =>
  answering(question.kind).heading?.(question) ?? question.text;

/**
 * Whether the answer's view shows the text itself.
 * @example showsItsText({ kind: "short-text", text: "Which?", marks: "2" }) → false
 */
export const showsItsText = (question: PresentedQuestion): boolean =>
  answering(question.kind).heading !== undefined;

/** @example readAnswer({ kind: "short-text", text: "Which?", marks: "2" }, { text: "ebb" }) → { ok: true, answer: { text: "ebb" } } */
export const readAnswer = (question: PresentedQuestion, raw: unknown) =>
  answering(question.kind).readAnswer(question, raw);

/** @example fillOf({ kind: "short-text", text: "Which?", marks: "2" }, { text: "ebb" }).state → "full" */
export const fillOf = (question: PresentedQuestion, answer: Answer | null) =>
  answering(question.kind).fill(question, answer);

/** @example summaryOf({ kind: "short-text", text: "Which?", marks: "2" }, { text: "ebb" }) → "ebb" */
export const summaryOf = (question: PresentedQuestion, answer: Answer | null) =>
  answering(question.kind).summary(question, answer);
