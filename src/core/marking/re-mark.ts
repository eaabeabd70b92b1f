import type { MarkedQuestion } from "../kinds/kind";
import { type Exact, exact, sum, ZERO } from "../numbers/exact";
import type { AttemptSeed } from "../numbers/seeded";
import type { QuizContent } from "../quiz/quiz-file";
import { type KeyOf, markSlot, planWithKeys, type SlotWork, termsOf } from "./mark-attempt";

/** A change to the marking of one question after attempts were handed in. */
export interface ReMarking {
  readonly questionId: string;
  /** The version with its key, and what was put right, as it should have been. Questions keep their ids. */
  readonly quiz: QuizContent;
}

/** An attempt as it was marked, with what was written. */
export interface AttemptToReMark {
  readonly id: string;
  /** The version that it was written on: its draw stays, whatever else a later version changed. */
  readonly writtenOn: QuizContent;
  readonly seed: AttemptSeed;
  readonly work: ReadonlyMap<number, SlotWork>;
  /** The marks that hold now, by slot. */
  readonly marked: ReadonlyMap<number, MarkedQuestion>;
  /** Slots whose marks a person gave: these stay. */
  readonly byHand: ReadonlySet<number>;
}

/** Earned, awaited and maximum of an attempt. */
export interface Totals {
  readonly earned: Exact;
  readonly awaited: Exact;
  readonly maximum: Exact;
}

/** A slot whose mark would change, by how much; a gain and a loss in one attempt are two changes, not none. */
export interface SlotChange {
  readonly slot: number;
  /** What it is marked as; null: it was not marked. */
  readonly before: MarkedQuestion | null;
  readonly after: MarkedQuestion;
}

export interface ReMarked {
  readonly id: string;
  readonly before: Totals;
  readonly after: Totals;
  readonly changes: readonly SlotChange[];
}

const totalsOf = (slots: Iterable<MarkedQuestion>): Totals => {
  const all = [...slots];
  const total = (pick: (marked: MarkedQuestion) => string) => sum(all.map((each) => exact(pick(each))));
  return {
    earned: total(({ marks }) => marks),
    awaited: total(({ awaiting }) => awaiting),
    maximum: total(({ maximum }) => maximum),
  };
};

/** Whether two marks are worth the same, and of the same. */
export const sameMark = (
  a: MarkedQuestion | null | undefined,
  b: MarkedQuestion | null | undefined,
): boolean =>
  a === b ||
  (a != null &&
    b != null &&
    (["marks", "awaiting", "maximum"] as const).every((what) => exact(a[what]).equals(exact(b[what]))));

/** An attempt with some of its marks in the place of those that it has. */
export function reMarkedWith(
  { id, marked }: Pick<AttemptToReMark, "id" | "marked">,
  after: ReadonlyMap<number, MarkedQuestion>,
): ReMarked {
  const slots = new Map([...marked, ...after]);
  const changes = [...after]
    .sort(([a], [b]) => a - b)
    .flatMap(([slot, mark]): SlotChange[] => {
      const before = marked.get(slot) ?? null;
      return sameMark(before, mark) ? [] : [{ slot, before, after: mark }];
    });
  return { id, before: totalsOf(marked.values()), after: totalsOf(slots.values()), changes };
}

/**
 * What re-marking would change in an attempt: shown before it is done. Only the question it is about is marked again; marks
 * by hand, and the draw, stay. A question that is dropped leaves nothing to a hand.
 */
export function reMarkAttempt(attempt: AttemptToReMark, { questionId, quiz }: ReMarking): ReMarked {
  const keyOf: KeyOf = (id) => (id === questionId ? quiz : undefined);
  const terms = termsOf(attempt.writtenOn, keyOf);
  const isDropped = quiz.corrections?.[questionId]?.dropped !== undefined;
  const after = new Map<number, MarkedQuestion>();
  for (const slot of planWithKeys(attempt.writtenOn, attempt.seed, keyOf)) {
    if (slot.question.id !== questionId) continue;
    if (attempt.byHand.has(slot.slot) && !isDropped) continue;
    after.set(slot.slot, markSlot(slot, terms, attempt.seed, attempt.work.get(slot.slot)).marked);
  }
  return reMarkedWith(attempt, after);
}

/** What a re-marking comes to over all attempts. */
export interface ReMarkingSummary {
  /** Attempts in which at least one mark changes. */
  readonly changed: number;
  /** How many gain and how many lose; who does both counts in both. */
  readonly gain: number;
  readonly lose: number;
  /** The mean of the totals; null without an attempt. */
  readonly meanBefore: Exact | null;
  readonly meanAfter: Exact | null;
}

const moves = ({ before, after }: SlotChange): number =>
  exact(after.marks)
    .sub(exact(before?.marks ?? ZERO))
    .compare(ZERO);

/** @example summaryOfReMarking([]).changed → 0 */
export function summaryOfReMarking(plan: readonly ReMarked[]): ReMarkingSummary {
  const mean = (totals: readonly Totals[]) =>
    totals.length === 0 ? null : sum(totals.map(({ earned }) => earned)).div(totals.length);
  return {
    changed: plan.filter(({ changes }) => changes.length > 0).length,
    gain: plan.filter(({ changes }) => changes.some((each) => moves(each) > 0)).length,
    lose: plan.filter(({ changes }) => changes.some((each) => moves(each) < 0)).length,
    meanBefore: mean(plan.map(({ before }) => before)),
    meanAfter: mean(plan.map(({ after }) => after)),
  };
}
