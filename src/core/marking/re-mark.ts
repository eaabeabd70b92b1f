import type { MarkedQuestion } from "../kinds/kind";
import { type Exact, exact, sum, written, ZERO } from "../numbers/exact";
import type { QuizFile } from "../quiz/quiz-file";
import { markAttempt, type SlotWork } from "./mark-attempt";

/** A question that turned out faulty: its marks go to all, or leave the maximum. */
export type Dropped = "marks-to-all" | "out-of-the-maximum";

/** A change to marking after attempts were handed in. */
export interface ReMarking {
  /** The quiz with its keys and accepted answers as they should have been. Same questions, same ids. */
  readonly quiz: QuizFile;
  /** Dropped questions, by id. */
  readonly dropped: ReadonlyMap<string, Dropped>;
}

/** An attempt as it was marked, with what was written. */
export interface AttemptToReMark {
  readonly id: string;
  readonly seed: string;
  readonly work: ReadonlyMap<number, SlotWork>;
  readonly earned: Exact;
  readonly awaited: Exact;
  readonly maximum: Exact;
  /** Marks that a person gave, by slot: these stay. */
  readonly byHand: ReadonlyMap<number, MarkedQuestion>;
}

export interface ReMarked {
  readonly id: string;
  readonly before: { readonly earned: Exact; readonly awaited: Exact; readonly maximum: Exact };
  readonly after: { readonly earned: Exact; readonly awaited: Exact; readonly maximum: Exact };
  /** The new marks of each slot; a dropped one without marks of its own is absent. */
  readonly slots: ReadonlyMap<number, MarkedQuestion>;
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
    why: "question dropped; its marks to all",
  })),
});

function reMarkOne(attempt: AttemptToReMark, { quiz, dropped }: ReMarking): ReMarked {
  const again = markAttempt(quiz, attempt.seed, attempt.work);
  const slots = new Map<number, MarkedQuestion>();
  for (const { slot, question, marked } of again.slots) {
    const fate = dropped.get(question.id);
    if (fate === "out-of-the-maximum") continue;
    slots.set(slot, fate === "marks-to-all" ? fullMarks(marked) : (attempt.byHand.get(slot) ?? marked));
  }
  const total = (pick: (marked: MarkedQuestion) => string) =>
    sum([...slots.values()].map((marked) => exact(pick(marked))));
  const after = {
    earned: total((marked) => marked.marks),
    awaited: total((marked) => marked.awaiting),
    maximum: total((marked) => marked.maximum),
  };
  const before = { earned: attempt.earned, awaited: attempt.awaited, maximum: attempt.maximum };
  const same = (["earned", "awaited", "maximum"] as const).every((what) => before[what].equals(after[what]));
  return { id: attempt.id, before, after, slots, changed: !same };
}

/** What re-marking would change, attempt by attempt: shown before it is done. Marks by hand stay. */
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
