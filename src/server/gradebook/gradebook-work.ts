import { and, asc, eq, sql } from "drizzle-orm";
import { windowState } from "@/core/attempt/window";
import { type ItemMark, type ItemTerms, itemMark } from "@/core/gradebook/item-mark";
import { onScale } from "@/core/gradebook/scales";
import type { Category, Item } from "@/core/gradebook/standing";
import { percentOf, rangeWords } from "@/core/marking/mark-words";
import { type Exact, exact, shown, ZERO } from "@/core/numbers/exact";
import type { Revelation } from "@/core/reveal/reveal";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { enrolment, gradebookCategory, gradebookItem, standIn } from "@/data/schema";
import { say, t } from "@/words/t";
import { dayAndTime, dayOnly } from "@/words/times";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { config } from "../base/config";
import { COUNTS_WORDS } from "../quizzes/rule-words";
import { type Counting, countingAttempts } from "../reveal/counting-attempts";
import { type QuizOfPerson, quizzesOf, revelationsOf } from "../reveal/quizzes-of-person";

type ItemRow = typeof gradebookItem.$inferSelect;

/** What an instructor set by hand, as it is read: the newest of it. */
interface SetByHand {
  readonly marks: string | null;
  readonly excused: boolean;
  readonly reason: string;
  readonly by: string;
  readonly at: Instant;
}

/** A piece of work of a gradebook, with what was set by hand and chosen for one student. */
interface OwnItem {
  readonly category: typeof gradebookCategory.$inferSelect;
  readonly item: ItemRow | null;
  readonly set: SetByHand | null;
  /** Whether its student chose that other work stands in for it. */
  readonly chosen: boolean;
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

export interface GradebookWork {
  readonly course: CourseOfPerson;
  readonly quizzes: readonly QuizOfPerson[];
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
  if (quiz.status.state === "running") return t("server.gradebook.gradebook-work.running-now");
  if (handedIn !== undefined)
    return t("server.gradebook.gradebook-work.handed-in", { dayOnly: dayOnly(handedIn, config.zone) });
  if (quiz.status.state === "not-assigned") return t("server.gradebook.gradebook-work.not-set-for-you");
  if (quiz.window.closes !== null) {
    const day = dayOnly(quiz.window.closes, config.zone);
    return quiz.window.closes <= now()
      ? t("server.gradebook.gradebook-work.closed", { day })
      : t("server.gradebook.gradebook-work.closes", { day });
  }
  return quiz.window.due === null
    ? t("server.gradebook.gradebook-work.no-closing")
    : t("server.gradebook.gradebook-work.due", { day: dayOnly(quiz.window.due, config.zone) });
}

const whenShown = ({ isNever, when }: Revelation): string =>
  isNever
    ? t("server.gradebook.gradebook-work.marks-of-this-work-are-not")
    : t("server.gradebook.gradebook-work.handed-in-marks-are-shown", { when });

/** How a mark comes about, in one sentence: what was set by hand and what the work itself gave, or which attempt counts. */
function whyThisMark(
  { source, reason, computed, earned, awaited }: ItemMark,
  totals: Counting["totals"],
  who: string,
): string {
  const itself = computed
    ? t("server.gradebook.gradebook-work.the-work-itself-gave", {
        part: computed.low.equals(computed.high)
          ? shown(computed.low)
          : t("server.gradebook.gradebook-work.from-to", {
              from: shown(computed.low),
              to: shown(computed.high),
            }),
      })
    : "";
  if (source === "adjusted")
    return t("server.gradebook.gradebook-work.set-by-your-instructor", { reason: reason ?? "", itself });
  if (source === "stands-in") return `${say(reason ?? "")}.${itself}`;
  if (source === "taking-part")
    return t("server.gradebook.gradebook-work.full-marks-for-taking-part", { itself });
  const late = totals[computed?.attempt ?? 0]?.lateWords;
  const lateToo = late ? t("server.gradebook.gradebook-work.it-was-handed-in", { late }) : "";
  if (awaited.compare(ZERO) > 0) {
    return `${say(rangeWords({ earned, awaited }, who) ?? "")}${lateToo}`;
  }
  if (totals.length <= 1) return t("server.gradebook.gradebook-work.your-only-attempt", { lateToo });
  return typeof computed?.attempt === "number"
    ? t("server.gradebook.gradebook-work.attempt-of-counts", {
        attempt: computed.attempt + 1,
        totalsCount: totals.length,
        lateToo,
      })
    : t("server.gradebook.gradebook-work.mean-of-attempts", { totalsCount: totals.length });
}

function makingOf(
  { visible, totals }: Counting,
  quiz: QuizOfPerson | undefined,
  set: SetByHand | undefined,
): string[] {
  const attempts = visible.map((row, i) => {
    const total = totals[i];
    if (!total) return "";
    const before = figureOf(exact(row.earned ?? "0"), exact(row.awaited ?? "0"));
    const after = figureOf(total.earned, total.awaited);
    const of = shown(row.maximum);
    return after === before
      ? t("server.gradebook.gradebook-work.attempt", {
          number: row.number,
          before,
          of,
          part: total.lateWords ? `, ${say(total.lateWords)}` : "",
        })
      : t("server.gradebook.gradebook-work.attempt-2", {
          number: row.number,
          before,
          of,
          lateWords: total.lateWords ?? "",
          after,
        });
  });
  const rule =
    quiz && quiz.quiz.settings.attempts !== 1 && visible.length > 0
      ? [say(COUNTS_WORDS[quiz.quiz.settings.counts])]
      : [];
  const hand = set
    ? [
        t("server.gradebook.gradebook-work.by", {
          part: set.excused
            ? t("server.gradebook.gradebook-work.excused")
            : t("server.gradebook.gradebook-work.set-to", { marks: shown(set.marks ?? "0") }),
          by: set.by,
          at: dayAndTime(set.at, config.zone),
          reason: set.reason,
        }),
      ]
    : [];
  return [
    ...attempts,
    ...rule.map((words) => t("server.gradebook.gradebook-work.of-these-the", { words })),
    ...hand,
  ];
}

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
  const lastHandIn = handedIn.at(-1);
  const why =
    mark === "excused"
      ? t("server.gradebook.gradebook-work.excused-2", { reason: set?.reason ?? "" })
      : made
        ? whyThisMark(made, totals, quiz?.instructor ?? t("server.gradebook.gradebook-work.your-instructor"))
        : quiz && lastHandIn
          ? whenShown(revelationsOf(quiz, lastHandIn).total)
          : quiz?.status.state === "running"
            ? t("server.gradebook.gradebook-work.nothing-to-mark-until-you-hand")
            : !isAssigned
              ? t("server.gradebook.gradebook-work.not-set-for-you-it-is")
              : isMissed
                ? missingCountsZero
                  ? t("server.gradebook.gradebook-work.nothing-was-handed-in-before-it")
                  : t("server.gradebook.gradebook-work.nothing-was-handed-in-it-is")
                : t("server.gradebook.gradebook-work.nothing-to-mark-yet");
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
      state: quiz ? stateWords(quiz) : t("server.gradebook.gradebook-work.marked-outside-shizuka"),
      attempts: totals.map((each, i) => ({
        figure: figureOf(each.earned, each.awaited),
        counts: counted?.attempt === i,
      })),
      countsWords:
        quiz && quiz.quiz.settings.attempts !== 1
          ? say(COUNTS_WORDS[quiz.quiz.settings.counts])
          : t("server.gradebook.gradebook-work.only-attempt"),
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

/** The pieces of work of a person's courses, or of one, with what was set by hand and chosen for them: one query. */
async function itemsOf(viewer: Pick<Viewer, "id">, courseId?: string): Promise<OwnItem[]> {
  const newest = sql<{
    marks: string | null;
    excused: boolean;
    reason: string;
    by: string;
    at: string;
  } | null>`(select jsonb_build_object('marks', a.marks::text, 'excused', a.excused, 'reason', a.reason,
      'by', p.name, 'at', a.created_at)
    from adjustment a join person p on p.id = a.set_by
    where a.item_id = ${gradebookItem.id} and a.person_id = ${viewer.id} order by a.added desc limit 1)`;
  const rows = await database()
    .select({
      category: gradebookCategory,
      item: gradebookItem,
      set: newest,
      chosen: sql<boolean>`exists (select 1 from ${standIn} where ${standIn.itemId} = ${gradebookItem.id} and ${standIn.personId} = ${viewer.id})`,
    })
    .from(enrolment)
    .innerJoin(gradebookCategory, eq(gradebookCategory.courseId, enrolment.courseId))
    .leftJoin(gradebookItem, eq(gradebookItem.categoryId, gradebookCategory.id))
    .where(
      and(eq(enrolment.personId, viewer.id), courseId ? eq(gradebookCategory.courseId, courseId) : undefined),
    )
    .orderBy(asc(gradebookCategory.position), asc(gradebookItem.position));
  return rows.map(({ set, ...row }) => ({
    ...row,
    set: set && { ...set, excused: set.excused || set.marks === null, at: Date.parse(set.at) },
  }));
}

/** Each piece of work for one student, by its id: the one place in which its mark is worked out. */
function entriesOf(
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

/** The marks that a person's quizzes have in their gradebooks, by the quiz; for lists, which tell the same. One query. */
export async function marksOfQuizzes(
  viewer: Pick<Viewer, "id">,
  quizzes: readonly QuizOfPerson[],
): Promise<Map<string, GradebookRow>> {
  const courses = new Map(quizzes.map(({ course }) => [course.id, course.missingCountsZero]));
  const entries = entriesOf(await itemsOf(viewer), quizzes, (id) => courses.get(id) ?? false);
  return new Map(
    [...entries.values()].flatMap(({ row }) => (row.quizId === null ? [] : [[row.quizId, row] as const])),
  );
}

/** All work that counts in a course, as it stands for one student: one query beside those of the quizzes and the course. */
export async function gradebookWork(viewer: Viewer, slug: string): Promise<GradebookWork> {
  const course = await courseOf(viewer, slug);
  const [quizzes, items] = await Promise.all([quizzesOf(viewer, course.id), itemsOf(viewer, course.id)]);
  return workIn(course, quizzes, items);
}

/** The same of several courses: two queries, however many there are. */
export async function gradebookWorks(
  viewer: Viewer,
  courses: readonly CourseOfPerson[],
): Promise<GradebookWork[]> {
  const [quizzes, items] = await Promise.all([quizzesOf(viewer), itemsOf(viewer)]);
  return courses.map((course) =>
    workIn(
      course,
      quizzes.filter((each) => each.course.id === course.id),
      items.filter(({ category }) => category.courseId === course.id),
    ),
  );
}

function workIn(
  course: CourseOfPerson,
  quizzes: readonly QuizOfPerson[],
  items: readonly OwnItem[],
): GradebookWork {
  const entries = entriesOf(items, quizzes, () => course.missingCountsZero);
  const categories = [...new Map(items.map(({ category }) => [category.id, category])).values()];
  return {
    course,
    quizzes,
    categories: categories.map((row) => {
      const own = items.flatMap(({ item }) => {
        const entry = item?.categoryId === row.id ? entries.get(item.id) : undefined;
        return entry ? [entry] : [];
      });
      return {
        row,
        entries: own,
        category: {
          id: row.id,
          weight: exact(row.weight),
          mean: row.mean,
          dropLowest: row.dropLowest,
          items: own.map(({ item }) => item),
        },
      };
    }),
  };
}
