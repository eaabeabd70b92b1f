import { windowState } from "@/core/attempt/window";
import { type ItemTerms, itemMark } from "@/core/gradebook/item-mark";
import { onScale } from "@/core/gradebook/scales";
import type { Item } from "@/core/gradebook/standing";
import { percentOf } from "@/core/marking/mark-words";
import { type Exact, exact, shown, ZERO } from "@/core/numbers/exact";
import type { Instant } from "@/core/time/instants";
import { say, t } from "@/words/t";
import { now } from "../base/clock";
import { type Counting, countingAttempts } from "../reveal/counting-attempts";
import type { QuizOfPerson } from "../reveal/quizzes-of-person";
import { countsWordsOf, figureOf, makingOf, stateWords, whyWords } from "./item-words";
import type { ItemRow, OwnItem, SetByHand } from "./own-items";

export interface GradebookRow {
  readonly id: string;
  readonly title: string;
  readonly quizId: string | null;
  /** The newest attempt to look at, or null. */
  readonly attemptId: string | null;
  /** "handed in 24 Nov", "closes 4 December", ... */
  readonly state: string;
  readonly attempts: readonly { readonly figure: string; readonly counts: boolean }[];
  readonly countsWords: string;
  /** Null: no mark to show yet, and `why` says why. */
  readonly mark: {
    readonly figure: string;
    readonly maximum: string;
    /** "85 %"; null while some of it waits. */
    readonly percent: string | null;
    /** On the item's own scale, where it has one: "B", "reached"; null while some of it waits. */
    readonly onScale: string | null;
    /** Shares of the maximum, 0 to 1, for the bar. */
    readonly earnedShare: number;
    readonly awaitedShare: number;
  } | null;
  readonly maximum: string;
  /** In one sentence. */
  readonly why: string;
  /** Step by step: each attempt, what was taken off it, what was set by hand. */
  readonly making: readonly string[];
  /** Work that may stand in for this one, and whether it does by the student's choice; null: none may. */
  readonly standIn: { readonly title: string; readonly chosen: boolean } | null;
}

/** A piece of work that counts, as it stands for one student. */
export interface Entry {
  readonly item: Item;
  /** Whether it is this student's at all; else it leaves the calculation. */
  readonly isAssigned: boolean;
  /** When its mark was shown to the student; null: there is none. */
  readonly shownAt: Instant | null;
  readonly row: GradebookRow;
}

const NOTHING_COUNTS: Counting = { visible: [], totals: [], counted: null };
const share = (part: Exact, whole: Exact) => (whole.n === 0n ? 0 : part.div(whole).valueOf());

interface EntryTerms {
  readonly row: ItemRow;
  readonly quiz: QuizOfPerson | undefined;
  readonly set: SetByHand | undefined;
  readonly missingCountsZero: boolean;
  /** Work that may stand in for this one: whether it was chosen, and its mark. */
  readonly standIn: (NonNullable<ItemTerms["standsIn"]> & { readonly chosen: boolean }) | undefined;
}

/** What an item's attempts and adjustment make of it, before anything stands in. */
function markOf({ row, set, standIn }: EntryTerms, { counted }: Counting) {
  return itemMark({
    maximum: exact(row.maximum),
    counted,
    fullForTakingPart: row.fullForTakingPart,
    ...(set && { adjustment: { marks: set.excused ? null : set.marks, reason: set.reason } }),
    ...(standIn?.chosen && { standsIn: standIn }),
  });
}

/** One piece of work for one student: what counts, and why. Marks that are not revealed yet are in no figure. */
function entryOf(terms: EntryTerms): Entry {
  const { row, quiz, set, missingCountsZero } = terms;
  const maximum = exact(row.maximum);
  const handedIn = quiz?.attempts.filter((each) => each.handedInAt !== null) ?? [];
  const counting = quiz ? countingAttempts(quiz, maximum) : NOTHING_COUNTS;
  const { visible, totals, counted } = counting;
  const mark = markOf(terms, counting);
  const made = mark === "excused" ? null : mark;
  const isOver = quiz ? windowState(quiz.window, now()) === "closed" : false;
  const isAssigned = quiz?.status.state !== "not-assigned";
  const isMissed = isOver && isAssigned && handedIn.length === 0 && made === null && mark !== "excused";
  const earned = made?.earned ?? (isMissed && missingCountsZero ? ZERO : null);
  const awaited = made?.awaited ?? ZERO;
  const why = whyWords({ mark, totals, quiz, set, isAssigned, isMissed, missingCountsZero });
  const moments = visible.map((each) => (each.returnedAt ?? each.handedInAt)?.getTime() ?? 0);
  if (set) moments.push(set.at);
  if (isMissed && quiz?.window.closes) moments.push(quiz.window.closes);
  const { scale } = row;
  return {
    isAssigned,
    shownAt: earned && moments.length > 0 ? Math.max(...moments) : null,
    item: {
      id: row.id,
      maximum,
      mark: made ? { earned: made.earned, awaited } : null,
      excused: mark === "excused" || !isAssigned,
      over: isOver && handedIn.length === 0,
    },
    row: {
      id: row.id,
      title: row.title,
      quizId: row.quizId,
      attemptId: handedIn.at(-1)?.id ?? null,
      state: quiz ? stateWords(quiz) : t("server.gradebook.entries.marked-outside-shizuka"),
      attempts: totals.map((each, i) => ({
        figure: figureOf(each.earned, each.awaited),
        counts: counted?.attempt === i,
      })),
      countsWords: countsWordsOf(quiz),
      mark: earned
        ? {
            figure: figureOf(earned, awaited),
            maximum: shown(maximum),
            percent: percentOf({ earned, awaited, maximum }),
            onScale:
              scale && awaited.n === 0n && maximum.n !== 0n ? say(onScale(earned.div(maximum), scale)) : null,
            earnedShare: share(earned, maximum),
            awaitedShare: share(awaited, maximum),
          }
        : null,
      maximum: shown(maximum),
      why,
      making: makingOf(counting, quiz, set),
      standIn: terms.standIn ? { title: terms.standIn.title, chosen: terms.standIn.chosen } : null,
    },
  };
}

/** Each piece of work for one student, by its id: the one place in which its mark is worked out. */
export function entriesOf(
  items: readonly OwnItem[],
  quizzes: readonly QuizOfPerson[],
  missingCountsZero: (courseId: string) => boolean,
): Map<string, Entry> {
  const quizById = new Map(quizzes.map((each) => [each.quiz.id, each]));
  const own = items.flatMap(({ item, ...rest }) => (item ? [{ ...rest, row: item }] : []));
  const standingIn = new Map(
    own.flatMap((each) => (each.row.standsInForId === null ? [] : [[each.row.standsInForId, each] as const])),
  );
  const termsOf = ({ row, set, category }: (typeof own)[number]): Omit<EntryTerms, "standIn"> => ({
    row,
    quiz: row.quizId === null ? undefined : quizById.get(row.quizId),
    set: set ?? undefined,
    missingCountsZero: missingCountsZero(category.courseId),
  });
  const entryFor = (each: (typeof own)[number]): Entry => {
    const other = standingIn.get(each.row.id);
    if (!other) return entryOf({ ...termsOf(each), standIn: undefined });
    // What stands in has its own mark, never one that stands in for it in turn.
    const theirs = { ...termsOf(other), standIn: undefined };
    const maximum = exact(other.row.maximum);
    const mark = markOf(theirs, theirs.quiz ? countingAttempts(theirs.quiz, maximum) : NOTHING_COUNTS);
    return entryOf({
      ...termsOf(each),
      standIn: {
        title: other.row.title,
        chosen: each.chosen,
        maximum,
        mark: mark === "excused" ? null : mark,
      },
    });
  };
  return new Map(own.map((each) => [each.row.id, entryFor(each)]));
}
