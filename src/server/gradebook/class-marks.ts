import { and, desc, eq, isNotNull } from "drizzle-orm";
import { type ClassStep, classSteps, LEAST_FOR_A_CLASS, medianOf } from "@/core/gradebook/class-marks";
import { countedMark } from "@/core/gradebook/counts";
import { adjustmentIn, itemMark } from "@/core/gradebook/item-mark";
import { type Exact, exact, shown, ZERO } from "@/core/numbers/exact";
import { database } from "@/data/database";
import { adjustment, attempt, enrolment, gradebookCategory, gradebookItem, quiz } from "@/data/schema";
import { t } from "@/words/t";
import { allowancesIn, windowOf } from "../access/allowances";
import { countingOf } from "../reveal/counting-totals";
import type { Entry } from "./entries";
import type { GradebookWork } from "./gradebook-work";

export interface ClassMarksView {
  /** Work of which the reader has a whole mark that is shown. */
  readonly choices: readonly { readonly id: string; readonly title: string }[];
  /** What was asked for; null: nothing, or not to be shown. */
  readonly shown: {
    readonly id: string;
    readonly title: string;
    readonly steps: readonly ClassStep[];
    readonly marks: number;
    /** Figures in per cent, as people see them. */
    readonly own: string;
    readonly median: string;
  } | null;
  /** Why what was asked for is not shown, as a sentence; null: it is, or nothing was asked. */
  readonly problem: string | null;
}

const percent = (share: Exact) => `${shown(share.mul(100))} %`;

/** The whole marks of everyone in a course on one item, as shares of its maximum; marks that wait are left out. */
async function sharesOf(itemId: string, courseId: string): Promise<Exact[]> {
  const [item] = await database()
    .select({ item: gradebookItem, quiz })
    .from(gradebookItem)
    .innerJoin(gradebookCategory, eq(gradebookCategory.id, gradebookItem.categoryId))
    .leftJoin(quiz, eq(quiz.id, gradebookItem.quizId))
    .where(and(eq(gradebookItem.id, itemId), eq(gradebookCategory.courseId, courseId)));
  if (!item) return [];
  const isStudent = and(eq(enrolment.courseId, courseId), eq(enrolment.role, "student"));
  const [attempts, adjustments] = await Promise.all([
    item.quiz
      ? database()
          .select({ attempt })
          .from(attempt)
          .innerJoin(enrolment, and(eq(enrolment.personId, attempt.personId), isStudent))
          .where(and(eq(attempt.quizId, item.quiz.id), isNotNull(attempt.handedInAt)))
          .orderBy(attempt.number)
      : [],
    database()
      .selectDistinctOn([adjustment.personId], { adjustment })
      .from(adjustment)
      .innerJoin(enrolment, and(eq(enrolment.personId, adjustment.personId), isStudent))
      .where(eq(adjustment.itemId, itemId))
      .orderBy(adjustment.personId, desc(adjustment.added)),
  ]);
  const people = new Set([
    ...attempts.map((each) => each.attempt.personId),
    ...adjustments.map((each) => each.adjustment.personId),
  ]);
  const maximum = exact(item.item.maximum);
  const { quiz: set } = item;
  const allowed = await allowancesIn(set ? [set.id] : []);
  return [...people].flatMap((personId) => {
    const own = attempts.filter((each) => each.attempt.personId === personId);
    const totals = set
      ? own.map((each) =>
          countingOf({ window: windowOf(set, allowed(set.id, personId)), quiz: set }, each.attempt),
        )
      : [];
    const byHand = adjustments.find((each) => each.adjustment.personId === personId)?.adjustment;
    const mark = itemMark({
      maximum,
      counted: set ? countedMark(set.settings.counts, totals, maximum) : null,
      fullForTakingPart: item.item.fullForTakingPart,
      adjustment: adjustmentIn(byHand),
    });
    if (mark === null || mark === "excused" || mark.awaited.compare(ZERO) > 0 || maximum.n === 0n) return [];
    return [mark.earned.div(maximum)];
  });
}

const wholeShare = ({ item }: Entry): Exact | null =>
  item.mark && item.mark.awaited.n === 0n && !item.excused && item.maximum.n !== 0n
    ? item.mark.earned.div(item.maximum)
    : null;

/**
 * How the class did in one piece of work, where the course allows it, at least five have a mark, and the reader's own is
 * shown; null: the course does not show it.
 */
export async function classMarksOf(
  { course, categories }: GradebookWork,
  asked: string | null,
): Promise<ClassMarksView | null> {
  if (!course.classShown) return null;
  const own = categories.flatMap(({ entries }) => entries).filter((entry) => wholeShare(entry) !== null);
  const choices = own.map(({ row }) => ({ id: row.id, title: row.title }));
  if (asked === null) return { choices, shown: null, problem: null };
  const entry = own.find(({ row }) => row.id === asked);
  const share = entry && wholeShare(entry);
  if (!entry || !share) {
    return { choices, shown: null, problem: t("server.gradebook.class-marks.choose-a-piece-of-work-of") };
  }
  const shares = await sharesOf(entry.row.id, course.id);
  const steps = classSteps(shares, share);
  if (!steps) {
    const problem = t("server.gradebook.class-marks.fewer-than-have-a-mark-in", {
      least: LEAST_FOR_A_CLASS,
      title: entry.row.title,
    });
    return { choices, shown: null, problem };
  }
  return {
    choices,
    problem: null,
    shown: {
      id: entry.row.id,
      title: entry.row.title,
      steps,
      marks: shares.length,
      own: percent(share),
      median: percent(medianOf(shares)),
    },
  };
}
