import { planAttempt, type Slot } from "../attempt/plan";
import type { MarkedQuestion } from "../kinds/kind";
import type { Question } from "../kinds/marking";
import { type Exact, exact, sum, written, ZERO } from "../numbers/exact";
import type { AttemptSeed } from "../numbers/seeded";
import type { QuizContent } from "../quiz/quiz-file";
import { said } from "../said";
import { markSlots, type SlotWork } from "./mark-attempt";

/** A question that turned out faulty: its marks go to all, or leave the maximum. */
export type Dropped = "marks-to-all" | "out-of-the-maximum";

/** A change to marking after attempts were handed in. */
export interface ReMarking {
  /** The version that the attempts were written on. */
  readonly writtenOn: QuizContent;
  /** The quiz with its keys and accepted answers as they should have been. Questions keep their ids. */
  readonly quiz: QuizContent;
  /** Dropped questions, by id. */
  readonly dropped: ReadonlyMap<string, Dropped>;
}

/** An attempt as it was marked, with what was written. */
export interface AttemptToReMark {
  readonly id: string;
  readonly seed: AttemptSeed;
  readonly work: ReadonlyMap<number, SlotWork>;
  /** The marks that hold now, by slot. */
  readonly marked: ReadonlyMap<number, MarkedQuestion>;
  /** Marks that a person gave, by slot: these stay. */
  readonly byHand: ReadonlyMap<number, MarkedQuestion>;
}

/** Earned, awaited and maximum of an attempt. */
interface Totals {
  readonly earned: Exact;
  readonly awaited: Exact;
  readonly maximum: Exact;
}

/** A slot whose mark would change, by how much; a gain and a loss in one attempt are two changes, not none. */
export interface SlotChange {
  readonly slot: number;
  readonly before: string | null;
  readonly after: string | null;
}

export interface ReMarked {
  readonly id: string;
  readonly before: Totals;
  readonly after: Totals;
  /** The new marks of each slot; a question dropped out of the maximum is absent. */
  readonly slots: ReadonlyMap<number, MarkedQuestion>;
  readonly changes: readonly SlotChange[];
  readonly changed: boolean;
}

const fullMarks = (marked: MarkedQuestion): MarkedQuestion => ({
  ...marked,
  marks: marked.maximum,
  awaiting: "0",
  state: "full",
  parts: marked.parts.map((part) => ({
    ...part,
    marks: part.maximum,
    state: "full",
    why: said("marking.re-mark.question-dropped-its-marks-to-all"),
  })),
});

const totalsOf = (slots: Iterable<MarkedQuestion>): Totals => {
  const all = [...slots];
  const total = (pick: (marked: MarkedQuestion) => string) => sum(all.map((each) => exact(pick(each))));
  return {
    earned: total(({ marks }) => marks),
    awaited: total(({ awaiting }) => awaiting),
    maximum: total(({ maximum }) => maximum),
  };
};

/** The slots of an attempt as it was drawn, each with its question as it should have been; one that is gone stays as it was. */
function slotsAgain({ writtenOn, quiz }: ReMarking, seed: AttemptSeed): Slot[] {
  const corrected = new Map(
    quiz.sections.flatMap(({ questions }) => questions.map((each): [string, Question] => [each.id, each])),
  );
  return planAttempt(writtenOn, seed).map(({ slot, question }) => ({
    slot,
    question: corrected.get(question.id) ?? question,
  }));
}

const sameMark = (a: MarkedQuestion | undefined, b: MarkedQuestion | undefined): boolean =>
  a === b ||
  (a !== undefined &&
    b !== undefined &&
    (["marks", "awaiting", "maximum"] as const).every((what) => exact(a[what]).equals(exact(b[what]))));

function reMarkOne(attempt: AttemptToReMark, change: ReMarking): ReMarked {
  const slots = new Map<number, MarkedQuestion>();
  const again = markSlots(
    slotsAgain(change, attempt.seed),
    change.quiz.rules.tries,
    attempt.seed,
    attempt.work,
  );
  for (const { slot, question, marked } of again) {
    const fate = change.dropped.get(question.id);
    if (fate === "out-of-the-maximum") continue;
    slots.set(slot, fate === "marks-to-all" ? fullMarks(marked) : (attempt.byHand.get(slot) ?? marked));
  }
  const all = new Set([...attempt.marked.keys(), ...slots.keys()]);
  const changes = [...all]
    .sort((a, b) => a - b)
    .filter((slot) => !sameMark(attempt.marked.get(slot), slots.get(slot)))
    .map((slot) => ({
      slot,
      before: attempt.marked.get(slot)?.marks ?? null,
      after: slots.get(slot)?.marks ?? null,
    }));
  return {
    id: attempt.id,
    before: totalsOf(attempt.marked.values()),
    after: totalsOf(slots.values()),
    slots,
    changes,
    changed: changes.length > 0,
  };
}

/** What re-marking would change, attempt by attempt: shown before it is done. Marks by hand, and each draw, stay. */
export const planReMarking = (attempts: readonly AttemptToReMark[], change: ReMarking): ReMarked[] =>
  attempts.map((attempt) => reMarkOne(attempt, change));

/** By how much the marks would change at most, up and down, and for how many. */
export function reMarkingSummary(plan: readonly ReMarked[]): {
  readonly changed: number;
  readonly up: string;
  readonly down: string;
} {
  const changes = plan.map(({ before, after }) => after.earned.sub(before.earned));
  const most = (better: (a: Exact, b: Exact) => boolean) =>
    written(changes.reduce((held, each) => (better(each, held) ? each : held), ZERO));
  return {
    changed: plan.filter((each) => each.changed).length,
    up: most((a, b) => a.compare(b) > 0),
    down: most((a, b) => a.compare(b) < 0),
  };
}
