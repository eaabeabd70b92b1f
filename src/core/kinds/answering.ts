import { agreed } from "./agreed";
import type { AnsweringKind, PresentedCommon } from "./kind";
import { type NumericAnswer, numericAnswering, type PresentedNumeric } from "./numeric/answer";
import {
  type OneOfSeveralAnswer,
  oneOfSeveralAnswering,
  type PresentedOneOfSeveral,
} from "./one-of-several/answer";
import {
  type PresentedSeveralOfSeveral,
  type SeveralOfSeveralAnswer,
  severalOfSeveralAnswering,
} from "./several-of-several/answer";

/** What a student gets of any question: a union of types that cannot hold a key. */
export type PresentedQuestion = PresentedOneOfSeveral | PresentedSeveralOfSeveral | PresentedNumeric;
export type Answer = OneOfSeveralAnswer | SeveralOfSeveralAnswer | NumericAnswer;
export type KindName = PresentedQuestion["kind"];

const KINDS = {
  "one-of-several": oneOfSeveralAnswering,
  "several-of-several": severalOfSeveralAnswering,
  numeric: numericAnswering,
} as const satisfies { [K in KindName]: { name: K } };

/** The answering half of the kind of a question. */
export const answering = (kind: KindName) => agreed<AnsweringKind<PresentedCommon, Answer>>(KINDS[kind]);

export const readAnswer = (question: PresentedQuestion, raw: unknown) =>
  answering(question.kind).readAnswer(question, raw);

export const fillOf = (question: PresentedQuestion, answer: Answer | null) =>
  answering(question.kind).fill(question, answer);

export const summaryOf = (question: PresentedQuestion, answer: Answer | null) =>
  answering(question.kind).summary(question, answer);
