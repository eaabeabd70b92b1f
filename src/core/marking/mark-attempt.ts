import { maximumOf, planAttempt, type Slot } from "../attempt/plan";
import { type Answer, readAnswer } from "../kinds/answering";
import type { MarkedQuestion } from "../kinds/kind";
import { markQuestion, present, standsInBy } from "../kinds/marking";
import { type Exact, exact, sum } from "../numbers/exact";
import type { QuizFile } from "../quiz/quiz-file";
import { triesOf, withTries } from "./tries";

/** What stood in a slot when the attempt was handed in, and what was checked before, in order. */
export interface SlotWork {
  /** Any JSON; what does not fit its question is refused, never marked wrong silently. */
  readonly answer: unknown;
  readonly checks?: readonly unknown[];
}

export interface MarkedSlotOf extends Slot {
  readonly answer: Answer | null;
  /** Why the answer was refused, or null. A refused one counts as empty. */
  readonly refused: string | null;
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
}

function markSlot(
  { slot, question }: Slot,
  quiz: QuizFile,
  seed: string,
  work: SlotWork | undefined,
): MarkedSlotOf {
  const presented = present(question, seed);
  const reading = readAnswer(presented, work?.answer ?? null);
  const answer = reading.ok ? reading.answer : null;
  const marked = markQuestion(question, seed, answer);
  const { tries } = quiz.rules;
  const checked = (work?.checks ?? []).flatMap((raw) => {
    const read = readAnswer(presented, raw);
    return read.ok ? [markQuestion(question, seed, read.answer)] : [];
  });
  return {
    slot,
    question,
    answer,
    refused: reading.ok ? null : reading.problem,
    marked: tries && checked.length > 0 ? withTries(marked, triesOf(checked, tries)) : marked,
  };
}

/** Marks a whole attempt by the rules: its questions follow from the quiz and the seed. Totals add unrounded marks. */
export function markAttempt(
  quiz: QuizFile,
  seed: string,
  work: ReadonlyMap<number, SlotWork>,
): MarkedAttempt {
  const plan = planAttempt(quiz, seed);
  const slots = plan.map((slot) => markSlot(slot, quiz, seed, work.get(slot.slot)));
  return {
    slots,
    earned: sum(slots.map(({ marked }) => exact(marked.marks))),
    awaited: sum(slots.map(({ marked }) => exact(marked.awaiting))),
    maximum: maximumOf(plan),
    standsIn: slots.reduce<boolean | null>(
      (declared, { question, answer }) => standsInBy(question, answer) ?? declared,
      null,
    ),
  };
}
