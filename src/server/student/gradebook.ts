import { and, asc, desc, eq } from "drizzle-orm";
import { windowState } from "@/core/attempt/window";
import { countedMark } from "@/core/gradebook/counts";
import { type ItemMark, itemMark } from "@/core/gradebook/item";
import { needIn } from "@/core/gradebook/need";
import { type Category, type CourseStanding, courseStanding, type Item } from "@/core/gradebook/standing";
import { type Exact, exact, shown, ZERO } from "@/core/numbers/exact";
import type { Instant } from "@/core/time/instants";
import { dayOnly } from "@/core/time/words";
import { database } from "@/data/database";
import { adjustment, gradebookCategory, gradebookItem } from "@/data/schema";
import { now } from "../clock";
import { config } from "../config";
import type { Viewer } from "../viewer";
import { type CourseOfPerson, courseOf } from "./courses";
import { attemptsRemain } from "./lines";
import { type GroupEnds, type QuizOfPerson, quizzesOf, revelationsOf } from "./quizzes-of";

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
    /** Shares of the maximum, 0 to 1, for the bar. */
    readonly earnedShare: number;
    readonly awaitedShare: number;
  } | null;
  readonly maximum: string;
  /** The share of the course, as a figure, "dropped", or "excused". */
  readonly weight: string;
  readonly dropped: boolean;
  readonly why: string;
}

export interface GradebookView {
  readonly course: CourseOfPerson;
  readonly standing: {
    readonly markedSoFar: string | null;
    readonly range: string | null;
    readonly stillToCome: string;
  };
  readonly categories: readonly {
    readonly title: string;
    readonly weight: string;
    readonly remark: string;
    readonly rows: readonly GradebookRow[];
  }[];
  /** How the course stood when marks were shown, oldest first. */
  readonly history: readonly { readonly at: Instant; readonly percent: number; readonly figure: string }[];
  /** "What do I need here?" */
  readonly need: NeedView;
  /** Quizzes of the course that stay outside. */
  readonly practice: readonly {
    readonly quizId: string;
    readonly title: string;
    readonly attempts: number;
  }[];
}

export interface NeedView {
  /** Work whose mark is still to come. */
  readonly choices: readonly { readonly id: string; readonly title: string }[];
  /** The sentence that answers, or says what would be right to ask; null: nothing was asked. */
  readonly answer: string | null;
}

/** What is asked of the gradebook: a piece of work and the course's per cent to come to, as they were typed. */
export interface NeedAsked {
  readonly work: string;
  readonly target: string;
}

const COUNTS_WORDS = {
  best: "best counts",
  latest: "latest counts",
  first: "first counts",
  mean: "their mean counts",
} as const;

const share = (part: Exact, whole: Exact) => (whole.n === 0n ? 0 : part.div(whole).valueOf());
const percentage = (value: Exact) => `${shown(value.mul(100))} %`;

interface Entry {
  readonly item: Item;
  /** When its mark was shown to the student; null: there is none. */
  readonly shownAt: Instant | null;
  readonly row: Omit<GradebookRow, "weight" | "dropped">;
}

type ItemRow = typeof gradebookItem.$inferSelect;
type AdjustmentRow = typeof adjustment.$inferSelect;

function stateWords(quiz: QuizOfPerson): string {
  const handedIn = quiz.attempts
    .flatMap((each) => (each.handedInAt ? [each.handedInAt.getTime()] : []))
    .at(-1);
  if (quiz.standing.state === "running") return "running now";
  if (handedIn !== undefined) return `handed in ${dayOnly(handedIn, config.zone)}`;
  if (quiz.window.closes !== null) return `closes ${dayOnly(quiz.window.closes, config.zone)}`;
  return quiz.window.due === null ? "no closing" : `due ${dayOnly(quiz.window.due, config.zone)}`;
}

const whenShown = (when: string): string =>
  when === "not shown" ? "Marks of this work are not shown." : `Handed in. Marks are shown ${when}.`;

/** How a mark comes about, in words: what was set by hand and what the work itself gave, or which attempt counts. */
function whyThisMark({ source, reason, computed, earned, awaited }: ItemMark, attempts: number): string {
  if (source === "adjusted") {
    const itself = computed ? ` The quiz itself gave ${shown(computed.low)}.` : "";
    return `Set by your instructor: “${reason ?? ""}”${itself}`;
  }
  if (awaited.compare(ZERO) > 0) {
    return `${shown(awaited)} marks awaiting marking: ends between ${shown(earned)} and ${shown(earned.add(awaited))}.`;
  }
  if (attempts <= 1) return "Your only attempt.";
  return typeof computed?.attempt === "number"
    ? `Attempt ${computed.attempt + 1} of ${attempts} counts.`
    : `Mean of ${attempts} attempts.`;
}

/** One piece of work for one student: what counts, and why. Marks that are not revealed yet are in no figure. */
function entryOf(
  row: ItemRow,
  quiz: (QuizOfPerson & { ends: GroupEnds }) | undefined,
  set: AdjustmentRow | undefined,
): Entry {
  const maximum = exact(row.maximum);
  const handedIn = quiz?.attempts.filter((each) => each.handedInAt !== null) ?? [];
  const visible = quiz
    ? handedIn.filter(
        (each) => revelationsOf(each, quiz.facts, quiz.ends, attemptsRemain(quiz)).total.visible,
      )
    : [];
  const hidden = handedIn.length - visible.length;
  const marks = visible.map((each) => ({
    earned: exact(each.earned ?? "0"),
    awaited: exact(each.awaited ?? "0"),
  }));
  const counted = quiz && hidden === 0 ? countedMark(quiz.facts.counts, marks) : null;
  const mark = itemMark({
    maximum,
    counted,
    ...(set && { adjustment: { marks: set.excused ? null : set.marks, reason: set.reason } }),
  });
  const made = mark === "excused" ? null : mark;
  const earned = made?.earned ?? null;
  const awaited = made?.awaited ?? ZERO;
  const over = quiz ? windowState(quiz.window, now()) === "closed" : false;
  const lastHandIn = handedIn.at(-1);
  const why =
    mark === "excused"
      ? `Excused: “${set?.reason ?? ""}”`
      : made
        ? whyThisMark(made, marks.length)
        : quiz && lastHandIn
          ? whenShown(revelationsOf(lastHandIn, quiz.facts, quiz.ends, attemptsRemain(quiz)).total.when)
          : quiz?.standing.state === "running"
            ? "Nothing to mark until you hand in."
            : over
              ? "Nothing was handed in."
              : "Nothing to mark yet.";

  const moments = visible.map((each) => (each.returnedAt ?? each.handedInAt)?.getTime() ?? 0);
  if (set) moments.push(set.createdAt.getTime());

  return {
    shownAt: made && moments.length > 0 ? Math.max(...moments) : null,
    item: {
      id: row.id,
      maximum,
      mark: earned ? { earned, awaited } : null,
      excused: mark === "excused",
      over: over && handedIn.length === 0,
    },
    row: {
      id: row.id,
      title: row.title,
      quizId: row.quizId,
      attemptId: handedIn.at(-1)?.id ?? null,
      state: quiz ? stateWords(quiz) : "marked outside Shizuka",
      attempts: marks.map((each, i) => ({
        figure:
          each.awaited.compare(ZERO) > 0
            ? `${each.earned.n === 0n ? "" : `${shown(each.earned)} + `}?`
            : shown(each.earned),
        counts: counted?.attempt === i,
      })),
      countsWords: quiz && quiz.facts.attempts !== 1 ? COUNTS_WORDS[quiz.facts.counts] : "only attempt",
      mark: earned
        ? {
            figure:
              awaited.compare(ZERO) > 0 ? `${earned.n === 0n ? "" : `${shown(earned)} + `}?` : shown(earned),
            maximum: shown(maximum),
            earnedShare: share(earned, maximum),
            awaitedShare: share(awaited, maximum),
          }
        : null,
      maximum: shown(maximum),
      why,
    },
  };
}

function weightOf(category: Category, item: Item, whole: Exact): string {
  const items = category.items.filter((each) => !each.excused);
  const points = items.reduce((total, each) => total.add(each.maximum), ZERO);
  const part =
    category.mean === "equal"
      ? exact(`1/${Math.max(1, items.length)}`)
      : item.maximum.div(points.n === 0n ? 1 : points);
  return percentage(category.weight.div(whole.n === 0n ? 1 : whole).mul(part));
}

/** How the course stood at each moment at which a mark was shown. */
function historyOf(categories: readonly Category[], entries: readonly Entry[]): GradebookView["history"] {
  const shownAt = new Map(entries.map(({ item, shownAt: at }) => [item.id, at]));
  const moments = [...new Set(entries.flatMap(({ shownAt: at }) => (at === null ? [] : [at])))].sort(
    (a, b) => a - b,
  );
  return moments.flatMap((at) => {
    const then = categories.map((category) => ({
      ...category,
      items: category.items.map((item) => {
        const since = shownAt.get(item.id) ?? null;
        return since !== null && since <= at ? item : { ...item, mark: null, over: false };
      }),
    }));
    const { markedSoFar } = courseStanding(then);
    return markedSoFar === null
      ? []
      : [{ at, percent: markedSoFar.mul(100).valueOf(), figure: percentage(markedSoFar) }];
  });
}

function needOf(
  categories: readonly Category[],
  entries: readonly Entry[],
  asked: NeedAsked | undefined,
): NeedView {
  const choices = entries
    .filter(({ item }) => !item.excused && !item.over && (item.mark === null || item.mark.awaited.n !== 0n))
    .map(({ row }) => ({ id: row.id, title: row.title }));
  if (!asked) return { choices, answer: null };
  const work = choices.find(({ id }) => id === asked.work);
  const target = /^\s*(\d{1,3}(?:[.,]\d{1,2})?)\s*%?\s*$/.exec(asked.target)?.[1]?.replace(",", ".");
  if (!work) return { choices, answer: "Choose a piece of work whose mark is still to come." };
  if (target === undefined || Number(target) > 100) {
    return { choices, answer: "Write the per cent of the course to come to, from 0 to 100." };
  }
  const item = categories.flatMap((category) => category.items).find(({ id }) => id === work.id);
  const need = needIn(categories, work.id, exact(target).div(100));
  const of = shown(item?.maximum ?? ZERO);
  if (need.answer === "already-there") {
    return {
      choices,
      answer: `Already there: whatever “${work.title}” brings, the course ends at ${target} % or more.`,
    };
  }
  return need.answer === "out-of-reach"
    ? {
        choices,
        answer: `Out of reach: even all ${of} marks in “${work.title}” bring the course to ${percentage(need.best)}.`,
      }
    : {
        choices,
        answer: `At least ${shown(need.marks)} of ${of} marks in “${work.title}” bring the course to ${target} %.`,
      };
}

/** A course's gradebook as one student reads it; with `asked`, what is needed in one piece of work. */
export async function gradebookOf(viewer: Viewer, slug: string, asked?: NeedAsked): Promise<GradebookView> {
  const course = await courseOf(viewer, slug);
  const [quizzes, items, adjustments] = await Promise.all([
    quizzesOf(viewer, course.id),
    database()
      .select({ category: gradebookCategory, item: gradebookItem })
      .from(gradebookCategory)
      .leftJoin(gradebookItem, eq(gradebookItem.categoryId, gradebookCategory.id))
      .where(eq(gradebookCategory.courseId, course.id))
      .orderBy(asc(gradebookCategory.position), asc(gradebookItem.position)),
    database()
      .selectDistinctOn([adjustment.itemId], { adjustment })
      .from(adjustment)
      .innerJoin(gradebookItem, eq(gradebookItem.id, adjustment.itemId))
      .innerJoin(gradebookCategory, eq(gradebookCategory.id, gradebookItem.categoryId))
      .where(and(eq(adjustment.personId, viewer.id), eq(gradebookCategory.courseId, course.id)))
      .orderBy(asc(adjustment.itemId), desc(adjustment.id)),
  ]);
  const categoryRows = [...new Map(items.map(({ category }) => [category.id, category])).values()];
  const entries = new Map(
    categoryRows.map((category) => [
      category.id,
      items.flatMap(({ category: { id }, item }) =>
        item && id === category.id
          ? [
              entryOf(
                item,
                quizzes.find((each) => each.quiz.id === item.quizId),
                adjustments.find((each) => each.adjustment.itemId === item.id)?.adjustment,
              ),
            ]
          : [],
      ),
    ]),
  );
  const categories: Category[] = categoryRows.map((category) => ({
    id: category.id,
    weight: exact(category.weight),
    mean: category.mean,
    dropLowest: category.dropLowest,
    items: (entries.get(category.id) ?? []).map((entry) => entry.item),
  }));
  const standing = courseStanding(categories);
  const whole = categories.reduce((total, category) => total.add(category.weight), ZERO);
  const all = [...entries.values()].flat();
  return {
    course,
    standing: standingWords(standing),
    history: historyOf(categories, all),
    need: needOf(categories, all, asked),
    categories: categories.map((category, i) => {
      const dropped = standing.categories[i]?.dropped ?? new Set<string>();
      const count = category.items.length;
      return {
        title: categoryRows[i]?.title ?? "",
        weight: percentage(whole.n === 0n ? ZERO : category.weight.div(whole)),
        remark:
          category.dropLowest > 0
            ? `the lowest ${category.dropLowest === 1 ? "one" : category.dropLowest} of ${count} dropped`
            : "",
        rows: (entries.get(category.id) ?? []).map(({ item, row }) => ({
          ...row,
          dropped: dropped.has(item.id),
          weight: item.excused
            ? "excused"
            : dropped.has(item.id)
              ? "dropped"
              : weightOf(category, item, whole),
          why: dropped.has(item.id) ? `Your lowest of the ${count}. ${row.why}` : row.why,
        })),
      };
    }),
    practice: quizzes
      .filter((each) => each.facts.practice)
      .map((each) => ({ quizId: each.quiz.id, title: each.quiz.title, attempts: each.attempts.length })),
  };
}

function standingWords(standing: CourseStanding): GradebookView["standing"] {
  const { markedSoFar, low, high, stillToCome } = standing;
  const range =
    low && high
      ? low.equals(high)
        ? percentage(low)
        : `${shown(low.mul(100))} – ${percentage(high)}`
      : null;
  return {
    markedSoFar: markedSoFar ? percentage(markedSoFar) : null,
    range,
    stillToCome: percentage(stillToCome),
  };
}
