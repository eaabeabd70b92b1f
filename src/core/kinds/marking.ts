import { exact, ZERO } from "../numbers/exact";
import type { AttemptSeed } from "../numbers/seeded";
import type { UnitMeanings } from "../numbers/unit-names";
import { type Said, said } from "../said";
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
import { agreed } from "./trusted-type";
import { uploadMarking } from "./upload/mark";
import { wholeWithCredit } from "./whole-mark";

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

/**
 * The marking half of a kind.
 * @example marking("essay").byHand → true
 */
export const marking = (kind: KindName) =>
  agreed<MarkingKind<Question, PresentedQuestion, Answer>>(KINDS[kind]);

/**
 * The parts that are checked with a part, because it builds on them; by their places.
 * @example checkedWith({ id: "q", kind: "essay", text: "Why?", marks: 6 }, 0) → []
 */
export const checkedWith = (question: Question, part: number): readonly number[] =>
  marking(question.kind).buildsOn?.(question, part) ?? [];

/**
 * How the marks of a question are given, in a sentence; "" where that is plain.
 * @example scoringOf({ id: "q", kind: "essay", text: "Why?", marks: 6 }) → "Marked by your instructor."
 */
export const scoringOf = (question: Question): Said => marking(question.kind).scoring?.(question) ?? "";

/** The name of a recording of the quiz within an attempt. */
export const recordingName = (seed: AttemptSeed, id: string): string => seed.picture(`recording ${id}`);

/** @example present({ id: "q", kind: "true-or-false", text: "It ebbs.", marks: 1, right: true }, null).marks → "1" */
export function present(question: Question, seed: AttemptSeed): PresentedQuestion {
  const presented = marking(question.kind).present(question, seed);
  const scoring = scoringOf(question);
  const { figure, stimulus, recorded, language, answerLanguage } = question;
  return {
    ...presented,
    ...(language === undefined ? {} : { language }),
    ...(answerLanguage === undefined ? {} : { answerLanguage }),
    ...(figure === undefined ? {} : { figure: seed.picture(figure) }),
    ...(recorded === undefined ? {} : { recording: { ...recorded, id: recordingName(seed, recorded.id) } }),
    ...(stimulus === undefined
      ? {}
      : {
          stimulus: stimulus.figure ? { ...stimulus, figure: seed.picture(stimulus.figure) } : stimulus,
        }),
    ...(scoring === "" ? {} : { scoring }),
  };
}

/**
 * Marks a question. Where no rule can, because the question is faulty, it awaits a person, and says why.
 * @example markQuestion({ id: "q", kind: "true-or-false", text: "It ebbs.", marks: 1, right: true }, null, { value: true }).marks → "1"
 */
export function markQuestion(question: Question, seed: AttemptSeed, answer: Answer | null): MarkedQuestion {
  try {
    return marking(question.kind).mark(question, seed, answer);
  } catch (error) {
    const why = said("kinds.marking.no-rule-can-mark-it-your");
    const whole = wholeWithCredit(exact(question.marks), ZERO, { written: "", right: "", why }, "awaits");
    const fault = error instanceof Error ? error.message : "unknown";
    return { ...whole, parts: whole.parts.map((part) => ({ ...part, fault })) };
  }
}

/**
 * An answer that gets full marks; null where a person marks, or where the question has none in this attempt.
 * @example rightAnswerTo({ id: "q", kind: "true-or-false", text: "It ebbs.", marks: 1, right: true }, null) → { value: true }
 */
export function rightAnswerTo(question: Question, seed: AttemptSeed): Answer | null {
  try {
    return marking(question.kind).rightAnswer(question, seed);
  } catch {
    return null;
  }
}

/**
 * Whether a question can be shown and marked in an attempt: an attempt is started only with such questions.
 * @example isSound({ id: "q", kind: "true-or-false", text: "It ebbs.", marks: 1, right: true }, null) → true
 */
export function isSound(question: Question, seed: AttemptSeed): boolean {
  try {
    present(question, seed);
    return marking(question.kind).byHand || rightAnswerTo(question, seed) !== null;
  } catch {
    return false;
  }
}

/**
 * Whether an answer asks that its quiz stand in for other work, or no longer; null when it says nothing of it.
 * @example standsInBy({ id: "q", kind: "true-or-false", text: "It ebbs.", marks: 1, right: true }, null) → null
 */
export const standsInBy = (question: Question, answer: Answer | null): boolean | null =>
  marking(question.kind).standsIn?.(question, answer) ?? null;

/**
 * Whether any answer to a question could say something of standing in.
 * @example maySayOfStandingIn({ id: "q", kind: "essay", text: "Why?", marks: 6 }) → false
 */
export const maySayOfStandingIn = (question: Question): boolean =>
  marking(question.kind).standsIn !== undefined;

/**
 * A text of the author with this attempt's own values in it.
 * @example filledIn({ id: "q", kind: "essay", text: "Why?", marks: 6 }, null, "as it is") → "as it is"
 */
export const filledIn = (question: Question, seed: AttemptSeed, text: string): string =>
  marking(question.kind).fillIn?.(question, seed, text) ?? text;

/**
 * A question with what units mean in its quiz and course, as far as it does not say itself.
 * @example withMeanings({ id: "q", kind: "essay", text: "Why?", marks: 6 }, { nm: "nauticalmile" }).kind → "essay"
 */
export const withMeanings = (question: Question, meanings: UnitMeanings): Question =>
  marking(question.kind).meaning?.(question, meanings) ?? question;

/**
 * What the author of a question should look at again.
 * @example warningsOf({ id: "q", kind: "essay", text: "Why?", marks: 6 }) → []
 */
export const warningsOf = (question: Question): Said[] => marking(question.kind).warnings?.(question) ?? [];
