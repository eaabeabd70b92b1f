import { type CheckedAnswer, markedWithTries } from "../attempt/attempt-progress";
import { maximumOf, planAttempt, type Slot } from "../attempt/plan";
import { type Answer, fillOf, readAnswer } from "../kinds/answering";
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

function markSlot(
  { slot, question }: Slot,
  tries: TryRules | undefined,
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
    marked: markedWithTries(question, seed, answer, tries, work?.checks ?? []),
  };
}

/** Marks some slots by the rules. */
export const markSlots = (
  plan: readonly Slot[],
  tries: TryRules | undefined,
  seed: AttemptSeed,
  work: ReadonlyMap<number, SlotWork>,
): MarkedSlotOf[] => plan.map((slot) => markSlot(slot, tries, seed, work.get(slot.slot)));

/** Marks a whole attempt by the rules: its questions follow from the quiz and the seed. Totals add unrounded marks. */
export function markAttempt(
  quiz: QuizContent,
  seed: AttemptSeed,
  work: ReadonlyMap<number, SlotWork>,
): MarkedAttempt {
  const plan = planAttempt(quiz, seed);
  const slots = markSlots(plan, quiz.rules.tries, seed, work);
  return {
    slots,
    earned: sum(slots.map(({ marked }) => exact(marked.marks))),
    awaited: sum(slots.map(({ marked }) => exact(marked.awaiting))),
    maximum: maximumOf(plan),
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
