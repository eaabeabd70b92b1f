import { and, desc, eq, isNotNull } from "drizzle-orm";
import { neededOnAverage, needIn, possibleStanding } from "@/core/gradebook/needed-marks";
import { onScale, rangeOnScale } from "@/core/gradebook/scales";
import {
  type Category,
  type CourseStanding,
  courseStanding,
  markedOverTime,
} from "@/core/gradebook/standing";
import { type WrittenCategory, writtenCategory } from "@/core/gradebook/what-if";
import { type Exact, exact, shown, ZERO } from "@/core/numbers/exact";
import { startOfDay } from "@/core/time/days";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { gradebookVersion } from "@/data/schema";
import { say, t } from "@/words/t";
import type { CourseOfPerson } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { config } from "../base/config";
import { type ClassMarksView, classMarksOf } from "./class-marks";
import type { Entry, GradebookRow } from "./entries";
import { gradebookWork } from "./gradebook-work";

/** A row of the ledger, with its place in the course. */
export interface LedgerRow extends GradebookRow {
  /** The share of the course, as a figure, "dropped", or "excused". */
  readonly weight: string;
  readonly dropped: boolean;
}

export interface GradebookView {
  readonly course: CourseOfPerson;
  readonly standing: {
    readonly markedSoFar: string | null;
    /** Between what it ends, of all that is handed in. */
    readonly range: string | null;
    readonly stillToCome: string;
    /** The worst and the best that the course can still become; null: nothing is to come, so the range says it. */
    readonly possible: string | null;
    /** Both on the course's own scale, where it has one. */
    readonly onScale: { readonly markedSoFar: string | null; readonly range: string | null } | null;
  };
  readonly categories: readonly {
    readonly title: string;
    readonly weight: string;
    readonly remark: string;
    readonly rows: readonly LedgerRow[];
  }[];
  /** How the course stood when marks were shown, oldest first. */
  readonly history: readonly { readonly at: Instant; readonly percent: number; readonly figure: string }[];
  /** What counts, for what is worked out in the browser: marks that may be shown, and nothing else. */
  readonly counting: { readonly categories: readonly WrittenCategory[]; readonly missingCountsZero: boolean };
  /** "What do I need here?" */
  readonly need: NeedView;
  /** Marks against the class; null: the course does not show them. */
  readonly classMarks: ClassMarksView | null;
  /** When what counts was changed last, and why; null: it never was. */
  readonly changed: { readonly at: Instant; readonly reason: string } | null;
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

const percentage = (value: Exact) => `${shown(value.mul(100))} %`;

/** How the course stood at the end of each day on which a mark was shown. */
function historyOf(
  categories: readonly Category[],
  entries: readonly Entry[],
  options: { readonly missingCountsZero: boolean },
): GradebookView["history"] {
  const shownAt = new Map(entries.flatMap(({ item, shownAt: at }) => (at === null ? [] : [[item.id, at]])));
  const moments = [...shownAt.values()].sort((a, b) => a - b);
  const lastOfEachDay = [...new Map(moments.map((at) => [startOfDay(at, config.zone), at])).values()];
  const standings = markedOverTime(categories, lastOfEachDay, shownAt, options);
  return lastOfEachDay.flatMap((at, i) => {
    const markedSoFar = standings[i];
    return markedSoFar
      ? [{ at, percent: markedSoFar.mul(100).valueOf(), figure: percentage(markedSoFar) }]
      : [];
  });
}

function needOf(
  categories: readonly Category[],
  entries: readonly Entry[],
  asked: NeedAsked | undefined,
  options: { readonly missingCountsZero: boolean },
): NeedView {
  const choices = entries
    .filter(({ item }) => !item.excused && !item.over && (item.mark === null || item.mark.awaited.n !== 0n))
    .map(({ row }) => ({ id: row.id, title: row.title }));
  if (!asked) return { choices, answer: null };
  const work = choices.find(({ id }) => id === asked.work);
  const target = /^\s*(\d{1,3}(?:[.,]\d{1,2})?)\s*%?\s*$/.exec(asked.target)?.[1]?.replace(",", ".");
  if (!work) return { choices, answer: t("server.gradebook.gradebook.choose-a-piece-of-work-whose") };
  if (target === undefined || Number(target) > 100) {
    return { choices, answer: t("server.gradebook.gradebook.write-the-per-cent-of-the") };
  }
  const item = categories.flatMap((category) => category.items).find(({ id }) => id === work.id);
  const need = needIn(categories, work.id, exact(target).div(100), options);
  const of = shown(item?.maximum ?? ZERO);
  const rest = t("server.gradebook.gradebook.with-everything-else-as-it-stands");
  if (need.answer === "already-there") {
    return {
      choices,
      answer: t("server.gradebook.gradebook.with-any-mark-in-also-with", { title: work.title, target, rest }),
    };
  }
  if (need.answer === "mark") {
    return {
      choices,
      answer: t("server.gradebook.gradebook.of-marks-in-or-more-bring", {
        marks: shown(need.marks),
        of,
        title: work.title,
        target,
        rest,
      }),
    };
  }
  const average = neededOnAverage(categories, exact(target).div(100), options);
  return {
    choices,
    answer: t("server.gradebook.gradebook.alone-cannot-do-it-all-its", {
      title: work.title,
      of,
      percentage: percentage(need.best),
      rest,
      part:
        average === null
          ? t("server.gradebook.gradebook.nor-can-all-that-remains-together", { target })
          : t("server.gradebook.gradebook.in-all-that-remains-about-on", { average }),
    }),
  };
}

/** A course's gradebook as one student reads it; `asked`: what is needed in one piece of work; `classOf`: how the class did in one. */
export async function gradebookOf(
  viewer: Viewer,
  slug: string,
  asked?: NeedAsked,
  classOf: string | null = null,
): Promise<GradebookView> {
  const work = await gradebookWork(viewer, slug);
  const { course } = work;
  const options = { missingCountsZero: course.missingCountsZero };
  const categories = work.categories.map(({ category }) => category);
  const standing = courseStanding(categories, options);
  const whole = categories.reduce((total, category) => total.add(category.weight), ZERO);
  const entries = work.categories.flatMap((each) => each.entries);
  return {
    course,
    standing: standingWords(standing, possibleStanding(categories, options), course.scale),
    history: historyOf(categories, entries, options),
    counting: { categories: categories.map(writtenCategory), ...options },
    need: needOf(categories, entries, asked, options),
    classMarks: await classMarksOf(work, classOf),
    changed: await lastChangeOf(course.id),
    categories: work.categories.map(({ row: { title }, category, entries: rows }, i) => {
      const dropped = standing.categories[i]?.dropped ?? new Set<string>();
      const count = category.items.length;
      const weights = standing.categories[i]?.weights;
      const ofCourse = whole.n === 0n ? ZERO : category.weight.div(whole);
      return {
        title,
        weight: percentage(ofCourse),
        remark:
          category.dropLowest > 0
            ? t("server.gradebook.gradebook.the-lowest-of-dropped", {
                lowest: category.dropLowest,
                count,
              })
            : "",
        // What is not set for one is in no list.
        rows: rows
          .filter(({ isAssigned, row }) => isAssigned || row.attempts.length > 0)
          .map(({ item, row, isAssigned }) => {
            const isDropped = dropped.has(item.id);
            const part = weights?.get(item.id);
            const weight = isDropped
              ? t("server.gradebook.gradebook.dropped")
              : part
                ? percentage(part.mul(ofCourse))
                : item.excused && isAssigned
                  ? t("server.gradebook.gradebook.excused")
                  : t("server.gradebook.gradebook.left-out");
            const place = t("server.gradebook.gradebook.one-of-other-of", {
              count,
              title,
              part:
                category.mean === "equal"
                  ? t("server.gradebook.gradebook.all-equal")
                  : t("server.gradebook.gradebook.by-points"),
              weight,
              ofCourse: weight.endsWith("%") ? t("server.gradebook.gradebook.of-the-course") : "",
            });
            return {
              ...row,
              dropped: isDropped,
              weight,
              why: isDropped
                ? t("server.gradebook.gradebook.your-lowest-of-the", { count, why: row.why })
                : row.why,
              making: [...row.making, place],
            };
          }),
      };
    }),
    practice: work.quizzes
      .filter((each) => each.quiz.settings.practice)
      .map((each) => ({ quizId: each.quiz.id, title: each.quiz.title, attempts: each.attempts.length })),
  };
}

async function lastChangeOf(courseId: string): Promise<GradebookView["changed"]> {
  const [row] = await database()
    .select({ at: gradebookVersion.createdAt, reason: gradebookVersion.reason })
    .from(gradebookVersion)
    // The first says how it stood before anything was changed.
    .where(and(eq(gradebookVersion.courseId, courseId), isNotNull(gradebookVersion.madeBy)))
    .orderBy(desc(gradebookVersion.number))
    .limit(1);
  return row ? { at: row.at.getTime(), reason: row.reason } : null;
}

const between = (low: Exact | null, high: Exact | null): string | null =>
  !low || !high ? null : low.equals(high) ? percentage(low) : `${shown(low.mul(100))} – ${percentage(high)}`;

function standingWords(
  standing: CourseStanding,
  possible: Pick<CourseStanding, "low" | "high">,
  scale: CourseOfPerson["scale"],
): GradebookView["standing"] {
  const { markedSoFar, low, high, stillToCome } = standing;
  return {
    markedSoFar: markedSoFar ? percentage(markedSoFar) : null,
    range: between(low, high),
    stillToCome: percentage(stillToCome),
    possible: stillToCome.n === 0n ? null : between(possible.low, possible.high),
    onScale: scale
      ? {
          markedSoFar: markedSoFar ? say(onScale(markedSoFar, scale)) : null,
          range: low && high ? say(rangeOnScale(low, high, scale)) : null,
        }
      : null,
  };
}
