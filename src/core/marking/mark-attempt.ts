import { type CheckedAnswer, markedWithTries } from "../attempt/attempt-progress";
import { planAttempt, type Slot } from "../attempt/plan";
import { type Answer, fillOf, readAnswer } from "../kinds/answering";
import { type QuestionCorrection, withCorrection } from "../kinds/correction";
import type { AnswerReading, MarkedQuestion } from "../kinds/kind";
import { maySayOfStandingIn, present, standsInBy } from "../kinds/marking";
import { type Exact, exact, sum } from "../numbers/exact";
import type { AttemptSeed } from "../numbers/seeded";
import type { QuizContent } from "../quiz/quiz-file";
import type { TryRules } from "../quiz/rules";
import { type Said, said } from "../said";

/** What stood in a slot when the attempt was handed in, and what was checked before, in order. */
export interface SlotWork {
  /** Any JSON; what does not fit its question is refused, never marked wrong silently. */
  readonly answer: unknown;
  readonly checks?: readonly CheckedAnswer[];
}

export interface MarkedSlotOf extends Slot {
  readonly answer: Answer | null;
  /** Why the answer was refused, or null. A refused one counts as empty. */
  readonly refused: Said | null;
  /** Answered whole, as the desk counts it: not in part. */
  readonly isAnswered: boolean;
  readonly marked: MarkedQuestion;
}

export interface MarkedAttempt {
  readonly slots: readonly MarkedSlotOf[];
  readonly earned: Exact;
  /** The maximum of what still awaits a person. */
  readonly awaited: Exact;
  readonly maximum: Exact;
  /** What was declared last of standing in for other work; null when nothing was. */
  readonly standsIn: boolean | null;
  /** Whether it has a question in which standing in can be declared. */
  readonly declares: boolean;
  /** Slots that no rule can mark, with why: a person has to be told. */
  readonly faults: readonly { readonly slot: number; readonly why: Said }[];
}

/** What was written, as its question reads it; a question that cannot even be shown reads nothing. */
function readingOf(question: Slot["question"], seed: AttemptSeed, raw: unknown): AnswerReading<Answer> {
  try {
    return readAnswer(present(question, seed), raw);
  } catch {
    return { ok: false, problem: said("marking.mark-attempt.the-question-is-faulty") };
  }
}

/** As the row of questions counts: answered whole. */
const isAnswered = (question: Slot["question"], seed: AttemptSeed, answer: Answer | null): boolean =>
  answer !== null && fillOf(present(question, seed), answer).state === "full";

/** The slots that are counted as answered or not: a declaration stands apart. */
export const countedSlots = (slots: readonly MarkedSlotOf[]): readonly MarkedSlotOf[] =>
  slots.filter(({ question }) => question.kind !== "declaration");

/** By what a slot is marked: its question is the one with the key that holds. */
export interface MarkingTerms {
  readonly tries: TryRules | undefined;
  /** What was put right in the marking of a question, by its id. */
  readonly correction: (questionId: string) => QuestionCorrection | undefined;
}

/** Marks a slot by the rules. */
export function markSlot(
  { slot, question }: Slot,
  { tries, correction }: MarkingTerms,
  seed: AttemptSeed,
  work: SlotWork | undefined,
): MarkedSlotOf {
  const reading = readingOf(question, seed, work?.answer ?? null);
  const answer = reading.ok ? reading.answer : null;
  return {
    slot,
    question,
    answer,
    refused: reading.ok ? null : reading.problem,
    isAnswered: isAnswered(question, seed, answer),
    marked: withCorrection(
      markedWithTries(question, seed, answer, tries, work?.checks ?? []),
      correction(question.id),
    ),
  };
}

/** The key that holds for the questions of an attempt, where it is no longer that of the version it was written on. */
export type KeyOf = (questionId: string) => QuizContent | undefined;

/** A question of a quiz, by its id. */
export const questionIn = (quiz: QuizContent, id: string): Slot["question"] | undefined => {
  for (const { questions } of quiz.sections) {
    const found = questions.find((each) => each.id === id);
    if (found) return found;
  }
  return undefined;
};

/** The slots of an attempt as it was drawn, each with its question by the key that holds; one that is gone stays as it was. */
export const planWithKeys = (quiz: QuizContent, seed: AttemptSeed, keyOf: KeyOf = () => undefined): Slot[] =>
  planAttempt(quiz, seed).map((slot) => {
    const by = keyOf(slot.question.id);
    const question = by && questionIn(by, slot.question.id);
    if (!by || !question) return slot;
    // What stands beside it (a passage, a recording, words of pictures) is that of the version it was written on.
    const { stimulus, recorded } = slot.question;
    return {
      slot: slot.slot,
      question: { ...question, ...(stimulus ? { stimulus } : {}), ...(recorded ? { recorded } : {}) },
    };
  });

/** By what the slots of an attempt are marked. */
export const termsOf = (quiz: QuizContent, keyOf: KeyOf = () => undefined): MarkingTerms => ({
  tries: quiz.rules.tries,
  correction: (id) => (keyOf(id) ?? quiz).corrections?.[id],
});

/** Marks a whole attempt by the rules: its questions follow from the quiz and the seed. Totals add unrounded marks. */
export function markAttempt(
  quiz: QuizContent,
  seed: AttemptSeed,
  work: ReadonlyMap<number, SlotWork>,
  keyOf?: KeyOf,
): MarkedAttempt {
  const plan = planWithKeys(quiz, seed, keyOf);
  const terms = termsOf(quiz, keyOf);
  const slots = plan.map((slot) => markSlot(slot, terms, seed, work.get(slot.slot)));
  return {
    slots,
    earned: sum(slots.map(({ marked }) => exact(marked.marks))),
    awaited: sum(slots.map(({ marked }) => exact(marked.awaiting))),
    maximum: sum(slots.map(({ marked }) => exact(marked.maximum))),
    standsIn: slots.reduce<boolean | null>(
      (declared, { question, answer }) => standsInBy(question, answer) ?? declared,
      null,
    ),
    declares: plan.some(({ question }) => maySayOfStandingIn(question)),
    faults: slots.flatMap(({ slot, marked }) =>
      marked.parts.flatMap(({ fault }) => (fault === undefined ? [] : [{ slot, why: fault }])).slice(0, 1),
    ),
  };
}
