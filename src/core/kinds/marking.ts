import { agreed } from "./agreed";
import type { Answer, KindName, PresentedQuestion } from "./answering";
import { declarationMarking } from "./declaration/mark";
import { essayMarking } from "./essay/mark";
import { gapsMarking } from "./gaps/mark";
import type { MarkedQuestion, MarkingKind } from "./kind";
import { matchingMarking } from "./matching/mark";
import { numericMarking } from "./numeric/mark";
import { oneOfSeveralMarking } from "./one-of-several/mark";
import { orderingMarking } from "./ordering/mark";
import { pointOnPictureMarking } from "./point-on-picture/mark";
import { severalOfSeveralMarking } from "./several-of-several/mark";
import { shortTextMarking } from "./short-text/mark";
import { trueOrFalseMarking } from "./true-or-false/mark";
import { uploadMarking } from "./upload/mark";

/** The kinds of questions, in the half that holds keys: a line for each. */
const KINDS = {
  "one-of-several": oneOfSeveralMarking,
  "several-of-several": severalOfSeveralMarking,
  "true-or-false": trueOrFalseMarking,
  "short-text": shortTextMarking,
  gaps: gapsMarking,
  matching: matchingMarking,
  ordering: orderingMarking,
  numeric: numericMarking,
  "point-on-picture": pointOnPictureMarking,
  essay: essayMarking,
  upload: uploadMarking,
  declaration: declarationMarking,
} as const satisfies { [K in KindName]: { name: K } };

type Kinds = typeof KINDS;
type QuestionIn<K> = K extends MarkingKind<infer Q, infer _, infer __> ? Q : never;

/** A question with its key, as the quiz holds it. */
export type Question = { [K in KindName]: QuestionIn<Kinds[K]> }[KindName];

/** The marking half of a kind. */
export const marking = (kind: KindName) =>
  agreed<MarkingKind<Question, PresentedQuestion, Answer>>(KINDS[kind]);

export const present = (question: Question, seed: string): PresentedQuestion =>
  marking(question.kind).present(question, seed);

export const markQuestion = (question: Question, seed: string, answer: Answer | null): MarkedQuestion =>
  marking(question.kind).mark(question, seed, answer);

export const rightAnswerTo = (question: Question, seed: string): Answer | null =>
  marking(question.kind).rightAnswer(question, seed);

/** Whether an answer asks that its quiz stand in for other work, or no longer; null when it says nothing of it. */
export const standsInBy = (question: Question, answer: Answer | null): boolean | null =>
  marking(question.kind).standsIn?.(question, answer) ?? null;

/** A text of the author with this attempt's own values in it. */
export const filledIn = (question: Question, seed: string, text: string): string =>
  marking(question.kind).fillIn?.(question, seed, text) ?? text;
