import { agreed } from "./agreed";
import type { Answer, KindName, PresentedQuestion } from "./answering";
import type { MarkedQuestion, MarkingKind } from "./kind";
import { type Numeric, numericMarking } from "./numeric/mark";
import { type OneOfSeveral, oneOfSeveralMarking } from "./one-of-several/mark";
import { type SeveralOfSeveral, severalOfSeveralMarking } from "./several-of-several/mark";

/** A question with its key, as the quiz holds it. */
export type Question = OneOfSeveral | SeveralOfSeveral | Numeric;

const KINDS = {
  "one-of-several": oneOfSeveralMarking,
  "several-of-several": severalOfSeveralMarking,
  numeric: numericMarking,
} as const satisfies { [K in KindName]: { name: K } };

export const KIND_NAMES = Object.keys(KINDS) as KindName[];

/** The marking half of a kind. */
export const marking = (kind: KindName) =>
  agreed<MarkingKind<Question, PresentedQuestion, Answer>>(KINDS[kind]);

export const present = (question: Question, seed: string): PresentedQuestion =>
  marking(question.kind).present(question, seed);

export const markQuestion = (question: Question, seed: string, answer: Answer | null): MarkedQuestion =>
  marking(question.kind).mark(question, seed, answer);
