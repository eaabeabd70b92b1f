import { and, asc, desc, eq } from "drizzle-orm";
import { windowState } from "@/core/attempt/window";
import { countedMark } from "@/core/gradebook/counts";
import { type ItemMark, itemMark } from "@/core/gradebook/item";
import { type Category, type CourseStanding, courseStanding, type Item } from "@/core/gradebook/standing";
import { type Exact, exact, shown, ZERO } from "@/core/numbers/exact";
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
  /** Quizzes of the course that stay outside. */
  readonly practice: readonly {
    readonly quizId: string;
    readonly title: string;
    readonly attempts: number;
  }[];
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

  return {
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

/** A course's gradebook as one student reads it. */
export async function gradebookOf(viewer: Viewer, slug: string): Promise<GradebookView> {
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
  return {
    course,
    standing: standingWords(standing),
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
