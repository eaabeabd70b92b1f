import { and, asc, desc, eq } from "drizzle-orm";
import { windowState } from "@/core/attempt/window";
import { type ItemMark, type ItemTerms, itemMark } from "@/core/gradebook/item";
import { onScale } from "@/core/gradebook/scales";
import type { Category, Item } from "@/core/gradebook/standing";
import { type Exact, exact, shown, ZERO } from "@/core/numbers/exact";
import type { Instant } from "@/core/time/instants";
import { dayAndTime, dayOnly } from "@/core/time/words";
import { database } from "@/data/database";
import { adjustment, gradebookCategory, gradebookItem, person, standIn } from "@/data/schema";
import { now } from "../clock";
import { config } from "../config";
import type { GroupEnds } from "../quizzes/group-ends";
import type { Viewer } from "../viewer";
import { type CourseOfPerson, courseOf } from "./courses";
import { attemptsRemain, COUNTS_WORDS, type Counting, countingAttempts } from "./lines";
import { type QuizOfPerson, quizzesOf, revelationsOf } from "./quizzes-of";

type ItemRow = typeof gradebookItem.$inferSelect;
type OwnQuiz = QuizOfPerson & { readonly ends: GroupEnds };
interface SetByHand {
  readonly row: typeof adjustment.$inferSelect;
  readonly by: string;
}

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

export interface GradebookWork {
  readonly course: CourseOfPerson;
  readonly quizzes: readonly OwnQuiz[];
  readonly categories: readonly {
    readonly row: typeof gradebookCategory.$inferSelect;
    readonly category: Category;
    readonly entries: readonly Entry[];
  }[];
}

const NOTHING_COUNTS: Counting = { visible: [], totals: [], counted: null };
const share = (part: Exact, whole: Exact) => (whole.n === 0n ? 0 : part.div(whole).valueOf());

/** "12", "12 + ?", "?": what waits is never shown as a number. */
const figureOf = (earned: Exact, awaited: Exact): string =>
  awaited.compare(ZERO) > 0 ? `${earned.n === 0n ? "" : `${shown(earned)} + `}?` : shown(earned);

function stateWords(quiz: QuizOfPerson): string {
  const handedIn = quiz.attempts
    .flatMap((each) => (each.handedInAt ? [each.handedInAt.getTime()] : []))
    .at(-1);
  if (quiz.standing.state === "running") return "running now";
  if (handedIn !== undefined) return `handed in ${dayOnly(handedIn, config.zone)}`;
  if (quiz.standing.state === "not-assigned") return "not assigned to you";
  if (quiz.window.closes !== null) {
    const verb = quiz.window.closes <= now() ? "closed" : "closes";
    return `${verb} ${dayOnly(quiz.window.closes, config.zone)}`;
  }
  return quiz.window.due === null ? "no closing" : `due ${dayOnly(quiz.window.due, config.zone)}`;
}

const whenShown = (when: string): string =>
  when === "not shown" ? "Marks of this work are not shown." : `Handed in. Marks are shown ${when}.`;

/** How a mark comes about, in one sentence: what was set by hand and what the work itself gave, or which attempt counts. */
function whyThisMark(
  { source, reason, computed, earned, awaited }: ItemMark,
  totals: Counting["totals"],
): string {
  const itself = computed
    ? ` The work itself gave ${computed.low.equals(computed.high) ? shown(computed.low) : `${shown(computed.low)} to ${shown(computed.high)}`}.`
    : "";
  if (source === "adjusted") return `Set by your instructor: “${reason ?? ""}”${itself}`;
  if (source === "stands-in") return `${reason ?? ""}.${itself}`;
  if (source === "taking-part") return `Full marks for taking part.${itself}`;
  const late = totals[computed?.attempt ?? 0]?.lateWords;
  const lateToo = late ? ` It was handed in ${late}.` : "";
  if (awaited.compare(ZERO) > 0) {
    return `${shown(awaited)} marks awaiting marking: ends between ${shown(earned)} and ${shown(earned.add(awaited))}.${lateToo}`;
  }
  if (totals.length <= 1) return `Your only attempt.${lateToo}`;
  return typeof computed?.attempt === "number"
    ? `Attempt ${computed.attempt + 1} of ${totals.length} counts.${lateToo}`
    : `Mean of ${totals.length} attempts.`;
}

function makingOf(
  { visible, totals }: Counting,
  quiz: OwnQuiz | undefined,
  set: SetByHand | undefined,
): string[] {
  const attempts = visible.map((row, i) => {
    const total = totals[i];
    if (!total) return "";
    const before = figureOf(exact(row.earned ?? "0"), exact(row.awaited ?? "0"));
    const after = figureOf(total.earned, total.awaited);
    const of = shown(row.maximum);
    return after === before
      ? `Attempt ${row.number}: ${before} / ${of}${total.lateWords ? `, ${total.lateWords}` : ""}.`
      : `Attempt ${row.number}: ${before} / ${of}; ${total.lateWords}: ${after} / ${of}.`;
  });
  const rule =
    quiz && quiz.facts.attempts !== 1 && visible.length > 0 ? [COUNTS_WORDS[quiz.facts.counts]] : [];
  const hand = set
    ? [
        `${set.row.marks === null ? "Excused" : `Set to ${shown(set.row.marks)}`} by ${set.by}, ${dayAndTime(set.row.createdAt.getTime(), config.zone)}: “${set.row.reason}”`,
      ]
    : [];
  return [...attempts, ...rule.map((words) => `Of these the ${words}.`), ...hand];
}

interface EntryTerms {
  readonly row: ItemRow;
  readonly quiz: OwnQuiz | undefined;
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
    ...(set && { adjustment: { marks: set.row.excused ? null : set.row.marks, reason: set.row.reason } }),
    ...(standIn?.chosen && { standsIn: standIn }),
  });
}

/** One piece of work for one student: what counts, and why. Marks that are not revealed yet are in no figure. */
function entryOf(terms: EntryTerms): Entry {
  const { row, quiz, set, missingCountsZero } = terms;
  const maximum = exact(row.maximum);
  const handedIn = quiz?.attempts.filter((each) => each.handedInAt !== null) ?? [];
  const counting = quiz ? countingAttempts(quiz) : NOTHING_COUNTS;
  const { visible, totals, counted } = counting;
  const mark = markOf(terms, counting);
  const made = mark === "excused" ? null : mark;
  const isOver = quiz ? windowState(quiz.window, now()) === "closed" : false;
  const isAssigned = quiz?.standing.state !== "not-assigned";
  const isMissed = isOver && isAssigned && handedIn.length === 0 && made === null && mark !== "excused";
  const earned = made?.earned ?? (isMissed && missingCountsZero ? ZERO : null);
  const awaited = made?.awaited ?? ZERO;
  const lastHandIn = handedIn.at(-1);
  const why =
    mark === "excused"
      ? `Excused: “${set?.row.reason ?? ""}”`
      : made
        ? whyThisMark(made, totals)
        : quiz && lastHandIn
          ? whenShown(revelationsOf(lastHandIn, quiz.facts, quiz.ends, attemptsRemain(quiz)).total.when)
          : quiz?.standing.state === "running"
            ? "Nothing to mark until you hand in."
            : !isAssigned
              ? "Not assigned to you; it is in no figure."
              : isMissed
                ? missingCountsZero
                  ? "Nothing was handed in before it closed: it counts as 0 in this course."
                  : "Nothing was handed in; it is left out of your figures."
                : "Nothing to mark yet.";
  const moments = visible.map((each) => (each.returnedAt ?? each.handedInAt)?.getTime() ?? 0);
  if (set) moments.push(set.row.createdAt.getTime());
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
      state: quiz ? stateWords(quiz) : "marked outside Shizuka",
      attempts: totals.map((each, i) => ({
        figure: figureOf(each.earned, each.awaited),
        counts: counted?.attempt === i,
      })),
      countsWords: quiz && quiz.facts.attempts !== 1 ? COUNTS_WORDS[quiz.facts.counts] : "only attempt",
      mark: earned
        ? {
            figure: figureOf(earned, awaited),
            maximum: shown(maximum),
            onScale:
              scale && awaited.n === 0n && maximum.n !== 0n ? onScale(earned.div(maximum), scale) : null,
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

/** All work that counts in a course, as it stands for one student: four queries beside those of the quizzes. */
export async function gradebookWork(viewer: Viewer, slug: string): Promise<GradebookWork> {
  const course = await courseOf(viewer, slug);
  const inCourse = eq(gradebookCategory.courseId, course.id);
  const [quizzes, rows, adjustments, choices] = await Promise.all([
    quizzesOf(viewer, course.id),
    database()
      .select({ category: gradebookCategory, item: gradebookItem })
      .from(gradebookCategory)
      .leftJoin(gradebookItem, eq(gradebookItem.categoryId, gradebookCategory.id))
      .where(inCourse)
      .orderBy(asc(gradebookCategory.position), asc(gradebookItem.position)),
    database()
      .selectDistinctOn([adjustment.itemId], { row: adjustment, by: person.name })
      .from(adjustment)
      .innerJoin(gradebookItem, eq(gradebookItem.id, adjustment.itemId))
      .innerJoin(gradebookCategory, eq(gradebookCategory.id, gradebookItem.categoryId))
      .innerJoin(person, eq(person.id, adjustment.setBy))
      .where(and(eq(adjustment.personId, viewer.id), inCourse))
      .orderBy(asc(adjustment.itemId), desc(adjustment.id)),
    database()
      .select({ itemId: standIn.itemId })
      .from(standIn)
      .innerJoin(gradebookItem, eq(gradebookItem.standsInForId, standIn.itemId))
      .innerJoin(gradebookCategory, eq(gradebookCategory.id, gradebookItem.categoryId))
      .where(and(eq(standIn.personId, viewer.id), inCourse)),
  ]);
  const quizById = new Map(quizzes.map((each) => [each.quiz.id, each]));
  const setById = new Map(adjustments.map((each) => [each.row.itemId, each]));
  const chosen = new Set(choices.map(({ itemId }) => itemId));
  const itemRows = rows.flatMap(({ item }) => (item ? [item] : []));
  const termsOf = (row: ItemRow): Omit<EntryTerms, "standIn"> => ({
    row,
    quiz: row.quizId === null ? undefined : quizById.get(row.quizId),
    set: setById.get(row.id),
    missingCountsZero: course.missingCountsZero,
  });
  const standingIn = new Map(
    itemRows.flatMap((row) => (row.standsInForId === null ? [] : [[row.standsInForId, row] as const])),
  );
  const entryFor = (row: ItemRow): Entry => {
    const other = standingIn.get(row.id);
    if (!other) return entryOf({ ...termsOf(row), standIn: undefined });
    // What stands in has its own mark, never one that stands in for it in turn.
    const own = { ...termsOf(other), standIn: undefined };
    const mark = markOf(own, own.quiz ? countingAttempts(own.quiz) : NOTHING_COUNTS);
    return entryOf({
      ...termsOf(row),
      standIn: {
        title: other.title,
        chosen: chosen.has(row.id),
        maximum: exact(other.maximum),
        mark: mark === "excused" ? null : mark,
      },
    });
  };
  const categories = [...new Map(rows.map(({ category }) => [category.id, category])).values()];
  return {
    course,
    quizzes,
    categories: categories.map((row) => {
      const entries = itemRows.filter(({ categoryId }) => categoryId === row.id).map(entryFor);
      return {
        row,
        entries,
        category: {
          id: row.id,
          weight: exact(row.weight),
          mean: row.mean,
          dropLowest: row.dropLowest,
          items: entries.map(({ item }) => item),
        },
      };
    }),
  };
}
