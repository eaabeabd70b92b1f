import { and, asc, desc, eq } from "drizzle-orm";
import { windowState } from "@/core/attempt/window";
import { countedMark } from "@/core/gradebook/counts";
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
  const adjusted = set?.marks ? exact(set.marks) : null;
  const earned = adjusted ?? counted?.low ?? null;
  const awaited = adjusted ? ZERO : counted ? counted.high.sub(counted.low) : ZERO;
  const over = quiz ? windowState(quiz.window, now()) === "closed" : false;

  const reasons: string[] = [];
  if (set?.excused) reasons.push(`Excused: “${set.reason}”`);
  else if (adjusted) {
    reasons.push(`Set by your instructor: “${set?.reason}”`);
    if (counted) reasons.push(`The quiz itself gave ${shown(counted.low)}.`);
  } else if (hidden > 0 && quiz) {
    const last = handedIn.at(-1);
    const when = last ? revelationsOf(last, quiz.facts, quiz.ends, attemptsRemain(quiz)).total.when : "";
    reasons.push(
      when === "not shown" ? "Marks of this work are not shown." : `Handed in. Marks are shown ${when}.`,
    );
  } else if (awaited.compare(ZERO) > 0 && earned) {
    reasons.push(
      `${shown(awaited)} marks awaiting marking: ends between ${shown(earned)} and ${shown(earned.add(awaited))}.`,
    );
  } else if (counted && marks.length > 1) {
    reasons.push(
      counted.attempt === null
        ? `Mean of ${marks.length} attempts.`
        : `Attempt ${counted.attempt + 1} of ${marks.length} counts.`,
    );
  } else if (counted) reasons.push("Your only attempt.");
  else if (quiz?.standing.state === "running") reasons.push("Nothing to mark until you hand in.");
  else reasons.push(over ? "Nothing was handed in." : "Nothing to mark yet.");

  return {
    item: {
      id: row.id,
      maximum,
      mark: earned ? { earned, awaited } : null,
      excused: set?.excused ?? false,
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
      why: reasons.join(" "),
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
