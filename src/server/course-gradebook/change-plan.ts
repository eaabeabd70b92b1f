import { createHash } from "node:crypto";
import { and, asc, desc, eq, inArray, isNull, max, sql } from "drizzle-orm";
import type * as yup from "yup";
import type { GradebookPlan, PlannedItem } from "@/core/gradebook/gradebook-plan";
import type { PlanEffect, PlanVersion } from "@/core/gradebook/plan-effect";
import type { Scale } from "@/core/gradebook/scales";
import { courseStanding } from "@/core/gradebook/standing";
import { type Exact, exact, shown, sum, withoutZeros } from "@/core/numbers/exact";
import { said } from "@/core/said";
import { type Database, inTransaction } from "@/data/database";
import {
  adjustment,
  course as courseTable,
  enrolment,
  gradebookCategory,
  gradebookItem,
  gradebookVersion,
  person,
  quiz,
} from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import type { CourseOfPerson } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { mapInTurns } from "../base/breathe";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { badInput, Problem } from "../base/problems";
import { note } from "../base/record";
import { tried } from "../base/tried";
import { notify } from "../notices/notify";
import { type CourseWork, courseWork } from "./course-work";
import { openGradebook } from "./open-gradebook";
import { MOST_ITEMS, NEW, planShape } from "./plan-shape";

/** What counts in a course now. */
export const planOf = (
  { categories }: Pick<CourseWork, "categories">,
  course: Pick<CourseOfPerson, "missingCountsZero" | "scale">,
): GradebookPlan => ({
  missingCountsZero: course.missingCountsZero,
  scale: scaleAsText(course.scale),
  categories: categories.map(({ id, title, weight, mean, dropLowest, items }) => ({
    id,
    title,
    weight: withoutZeros(weight),
    mean,
    dropLowest,
    items: items.map((item) => ({
      id: item.id,
      title: item.title,
      maximum: withoutZeros(item.maximum),
      quizId: item.quizId,
      fullForTakingPart: item.fullForTakingPart,
      standsInFor: item.standsInForId,
    })),
  })),
});

/** A scale with its figures as text, as a plan has them; per cent is what is told anyway. */
function scaleAsText(scale: Scale | null): Scale | null {
  switch (scale?.kind) {
    case "letters":
      return { ...scale, thresholds: scale.thresholds.map(({ name, from }) => ({ name, from: `${from}` })) };
    case "reached":
      return { ...scale, from: `${scale.from}` };
    case "marks":
      return { ...scale, maximum: `${scale.maximum}` };
    default:
      return null;
  }
}

/** A plan as it was sent, whole. */
const proposed = ({ plan }: yup.InferType<typeof planShape>): GradebookPlan => ({
  ...(plan as GradebookPlan),
  categories: plan.categories.map((category) => ({
    ...category,
    items: category.items.map((item) => ({ ...item, standsInFor: item.standsInFor ?? null })),
  })),
});

/** The course, held until the end of the transaction: two who change what counts take turns. */
async function held(tx: Database, opened: CourseOfPerson): Promise<CourseOfPerson> {
  const [row] = await tx.select().from(courseTable).where(eq(courseTable.id, opened.id)).for("update");
  return { ...opened, ...row };
}

/**
 * What a change of what counts would do to everyone's standing: it is made, looked at, and undone, so that it is what happens.
 * @throws Problem where it contradicts itself
 */
export async function lookOverPlan(viewer: Viewer, slug: string, input: unknown): Promise<PlanEffect> {
  const plan = proposed(inputOf(planShape, input));
  const opened = await openGradebook(viewer, slug);
  return (await tried((tx) => change(tx, opened, plan))).effect;
}

/** Changes what counts in a course, as it was looked over; keeps the version, and tells everyone who takes the course. */
export async function changePlan(
  viewer: Viewer,
  slug: string,
  input: unknown,
): Promise<{ readonly version: number }> {
  const asked = inputOf(planShape, input);
  const plan = proposed(asked);
  const { reason, expects } = asked;
  const opened = await openGradebook(viewer, slug);
  if (reason === undefined) throw badInput(t("server.course-gradebook.plan-shape.say-why"));
  return inTransaction(async (tx) => {
    const { effect, before, after } = await change(tx, opened, plan);
    if (effect.expects !== expects)
      throw new Problem(409, "changed-meanwhile", t("server.course-gradebook.change-plan.changed-meanwhile"));
    const version = await writeVersion(tx, opened.id, before, after, { reason, madeBy: viewer.id });
    await note(tx, {
      actorId: viewer.id,
      action: "changed what counts",
      subject: "course",
      subjectId: opened.id,
      details: { version, reason },
    });
    const students = await tx
      .select({ personId: enrolment.personId })
      .from(enrolment)
      .where(and(eq(enrolment.courseId, opened.id), eq(enrolment.role, "student")));
    await notify(
      tx,
      students.map(({ personId }) => ({
        personId,
        kind: "gradebook" as const,
        text: said("server.course-gradebook.change-plan.what-counts-has-changed", {
          course: opened.title,
          reason,
        }),
        path: `/gradebook/${opened.slug}`,
      })),
    );
    return { version };
  });
}

const standingsOf = async ({ students }: CourseWork, missingCountsZero: boolean) =>
  new Map(
    await mapInTurns(
      students,
      (student) =>
        [
          student.id,
          { name: student.name, ...courseStanding(student.categories, { missingCountsZero }) },
        ] as const,
    ),
  );

const percent = (share: Exact | null): string | null => (share === null ? null : shown(share.mul(100)));
const meanOf = (shares: readonly (Exact | null)[]): Exact | null => {
  const all = shares.flatMap((share) => (share === null ? [] : [share]));
  return all.length === 0 ? null : sum(all).div(all.length);
};

/** Makes a change within a transaction, and says what it does. */
async function change(tx: Database, opened: CourseOfPerson, plan: GradebookPlan) {
  const course = await held(tx, opened);
  const work = await courseWork(course.id);
  const before = planOf(work, course);
  const then = await standingsOf(work, course.missingCountsZero);
  await refuseContradictions(tx, course, before, plan);
  const after = await writePlan(tx, course.id, before, plan);
  const changed = await standingsOf(await courseWork(course.id), plan.missingCountsZero);
  const lines = [...changed].flatMap(([id, standing]) => {
    const was = then.get(id);
    const same = (a: Exact | null | undefined, b: Exact | null) => (a && b ? a.equals(b) : (a ?? null) === b);
    if (
      same(was?.low, standing.low) &&
      same(was?.high, standing.high) &&
      same(was?.markedSoFar, standing.markedSoFar)
    )
      return [];
    const [from, to] = [was?.low ?? null, standing.low];
    return [
      {
        name: standing.name,
        from: percent(from),
        to: percent(to),
        fromHigh: percent(was?.high ?? null),
        toHigh: percent(standing.high),
        direction: from && to ? from.compare(to) * -1 : 0,
      },
    ];
  });
  const lows = (standings: typeof changed) => meanOf([...standings.values()].map(({ low }) => low));
  const effect: PlanEffect = {
    lines,
    students: changed.size,
    meanFrom: percent(lows(then)),
    meanTo: percent(lows(changed)),
    expects: createHash("sha256")
      .update(JSON.stringify([course.id, before, plan]))
      .digest("base64url"),
  };
  return { effect, before, after };
}

const itemsIn = (plan: GradebookPlan): PlannedItem[] => plan.categories.flatMap(({ items }) => [...items]);
const twiceIn = (values: readonly string[]): string | undefined =>
  values.find((value, i) => values.indexOf(value) !== i);

/** Refuses a plan that contradicts itself, or would lose a mark. @throws Problem */
async function refuseContradictions(
  tx: Database,
  course: CourseOfPerson,
  before: GradebookPlan,
  plan: GradebookPlan,
): Promise<void> {
  const [had, has] = [itemsIn(before), itemsIn(plan)];
  const known = new Set([...had, ...before.categories].map(({ id }) => id));
  const ids = [...has, ...plan.categories].map(({ id }) => id);
  if (twiceIn(ids) !== undefined || ids.some((id) => !NEW.test(id) && !known.has(id)))
    throw new Problem(409, "changed-meanwhile", t("server.course-gradebook.change-plan.changed-meanwhile"));
  const wrong = (words: string) => badInput(words);
  if (plan.categories.length > 0 && plan.categories.every(({ weight }) => exact(weight).n === 0n))
    throw wrong(t("server.course-gradebook.change-plan.no-weight"));
  for (const { title, dropLowest, items } of plan.categories)
    if (dropLowest > 0 && dropLowest >= items.length)
      throw wrong(t("server.course-gradebook.change-plan.drops-all", { title, items: items.length }));
  if (has.length > MOST_ITEMS)
    throw wrong(t("server.course-gradebook.change-plan.too-much-work", { most: MOST_ITEMS }));
  const quizIds = has.flatMap(({ quizId }) => quizId ?? []);
  if (twiceIn(quizIds) !== undefined) throw wrong(t("server.course-gradebook.change-plan.quiz-twice"));
  const kept = new Map(had.map((item) => [item.id, item]));
  for (const item of has) {
    const was = kept.get(item.id);
    if (was && was.quizId !== item.quizId)
      throw wrong(t("server.course-gradebook.change-plan.work-stays-itself", { title: was.title }));
  }
  if (quizIds.length > 0) {
    const own = await tx
      .select({ id: quiz.id })
      .from(quiz)
      .where(and(eq(quiz.courseId, course.id), inArray(quiz.id, quizIds)));
    if (own.length < quizIds.length) throw wrong(t("server.course-gradebook.change-plan.no-such-quiz"));
  }
  refuseStandIns(has);
  const { scale } = plan;
  if (
    (scale?.kind === "reached" && scale.from === undefined) ||
    (scale?.kind === "marks" && scale.maximum === undefined)
  )
    throw wrong(t("server.course-gradebook.plan-shape.threshold"));
  if (scale?.kind === "letters") {
    const thresholds = scale.thresholds ?? [];
    if (
      thresholds.length === 0 ||
      thresholds.some(({ from }, i) => i > 0 && Number(from) >= Number(thresholds[i - 1]?.from))
    )
      throw wrong(t("server.course-gradebook.change-plan.thresholds-fall"));
  }
  await refuseLosses(tx, had, new Map(has.map((item) => [item.id, item])));
}

/** One piece of work stands in for one other, which stands in for nothing itself. @throws Problem */
function refuseStandIns(items: readonly PlannedItem[]): void {
  const byId = new Map(items.map((item) => [item.id, item]));
  const taken = new Set<string>();
  for (const { id, title, standsInFor } of items) {
    if (!standsInFor) continue;
    const other = byId.get(standsInFor);
    if (!other || other.id === id || other.standsInFor || taken.has(other.id))
      throw badInput(t("server.course-gradebook.change-plan.stands-in-for-one", { title }));
    taken.add(other.id);
  }
}

/** What has marks set by hand is not taken out, and holds them still. @throws Problem */
async function refuseLosses(
  tx: Database,
  had: readonly PlannedItem[],
  has: ReadonlyMap<string, PlannedItem>,
): Promise<void> {
  if (had.length === 0) return;
  const set = await tx
    .select({ itemId: adjustment.itemId, most: max(adjustment.marks) })
    .from(adjustment)
    .where(
      inArray(
        adjustment.itemId,
        had.map(({ id }) => id),
      ),
    )
    .groupBy(adjustment.itemId);
  for (const { itemId, most } of set) {
    const was = had.find(({ id }) => id === itemId);
    const now = has.get(itemId);
    if (!now) throw badInput(t("server.course-gradebook.change-plan.has-marks", { title: was?.title ?? "" }));
    if (most !== null && exact(most).compare(exact(now.maximum)) > 0)
      throw badInput(
        t("server.course-gradebook.change-plan.above-maximum", {
          title: now.title,
          most: shown(most),
          maximum: shown(now.maximum),
        }),
      );
  }
}

/** Writes what counts; returns it with the ids that what is new has come to have. */
async function writePlan(
  tx: Database,
  courseId: string,
  before: GradebookPlan,
  plan: GradebookPlan,
): Promise<GradebookPlan> {
  const made = new Map<string, string>();
  const idOf = (id: string) => {
    if (!NEW.test(id)) return id;
    const known = made.get(id) ?? newId();
    made.set(id, known);
    return known;
  };
  const after: GradebookPlan = {
    ...plan,
    categories: plan.categories.map((category) => ({
      ...category,
      id: idOf(category.id),
      items: category.items.map((item) => ({
        ...item,
        id: idOf(item.id),
        standsInFor: item.standsInFor ? idOf(item.standsInFor) : null,
      })),
    })),
  };
  const hadCategories = new Set(before.categories.map(({ id }) => id));
  const hadItems = new Set(itemsIn(before).map(({ id }) => id));
  for (const [position, { items: _, ...category }] of after.categories.entries()) {
    const values = { ...category, courseId, position };
    if (hadCategories.has(category.id))
      await tx.update(gradebookCategory).set(values).where(eq(gradebookCategory.id, category.id));
    else await tx.insert(gradebookCategory).values(values);
  }
  const kept = itemsIn(after).map(({ id }) => id);
  const out = [...hadItems].filter((id) => !kept.includes(id));
  if (out.length > 0) await tx.delete(gradebookItem).where(inArray(gradebookItem.id, out));
  for (const category of after.categories)
    for (const [position, item] of category.items.entries()) {
      const { standsInFor: _, ...own } = item;
      const values = { ...own, categoryId: category.id, position };
      if (hadItems.has(item.id))
        await tx.update(gradebookItem).set(values).where(eq(gradebookItem.id, item.id));
      else await tx.insert(gradebookItem).values(values);
    }
  // Once all are there: what one stands in for may be new, too.
  for (const { id, standsInFor } of itemsIn(after))
    await tx.update(gradebookItem).set({ standsInForId: standsInFor }).where(eq(gradebookItem.id, id));
  const gone = [...hadCategories].filter((id) => !after.categories.some((each) => each.id === id));
  if (gone.length > 0) await tx.delete(gradebookCategory).where(inArray(gradebookCategory.id, gone));
  await tx
    .update(courseTable)
    .set({ missingCountsZero: plan.missingCountsZero, scale: plan.scale as Scale | null })
    .where(eq(courseTable.id, courseId));
  return after;
}

/** Keeps a version, and before the first one what it was until then. */
async function writeVersion(
  tx: Database,
  courseId: string,
  before: GradebookPlan,
  after: GradebookPlan,
  { reason, madeBy }: { readonly reason: string; readonly madeBy: string },
): Promise<number> {
  const [newest] = await tx
    .select({ number: max(gradebookVersion.number) })
    .from(gradebookVersion)
    .where(eq(gradebookVersion.courseId, courseId));
  const at = new Date(now());
  if (newest?.number === null || newest?.number === undefined)
    await tx
      .insert(gradebookVersion)
      .values({ courseId, number: 1, plan: before, reason: "", madeBy: null, createdAt: at });
  const number = (newest?.number ?? 1) + 1;
  await tx.insert(gradebookVersion).values({ courseId, number, plan: after, reason, madeBy, createdAt: at });
  return number;
}

/** What counts in a course, what could be added to it, and what it was before. */
export async function planPage(viewer: Viewer, slug: string) {
  const course = await openGradebook(viewer, slug);
  const plan = planOf(await courseWork(course.id, { personIds: [viewer.id] }), course);
  const [versions, quizzes] = [
    await inTransaction((tx) =>
      tx
        .select({ version: gradebookVersion, by: person.name })
        .from(gradebookVersion)
        .leftJoin(person, eq(person.id, gradebookVersion.madeBy))
        .where(eq(gradebookVersion.courseId, course.id))
        .orderBy(desc(gradebookVersion.number)),
    ),
    await inTransaction((tx) =>
      tx
        .select({
          id: quiz.id,
          title: quiz.title,
          facts: sql<string>`(select v.facts->>'maximum' from quiz_version v where v.quiz_id = ${quiz.id} and v.number = ${quiz.currentVersion})`,
        })
        .from(quiz)
        .leftJoin(gradebookItem, eq(gradebookItem.quizId, quiz.id))
        .where(and(eq(quiz.courseId, course.id), isNull(gradebookItem.id)))
        .orderBy(asc(quiz.title)),
    ),
  ];
  return {
    course,
    plan,
    versions: versions.map(
      ({ version: { number, plan: kept, reason, createdAt }, by }): PlanVersion => ({
        number,
        plan: kept,
        reason,
        by,
        at: createdAt.getTime(),
      }),
    ),
    quizzes: quizzes.map(({ id, title, facts }) => ({ id, title, maximum: withoutZeros(facts) })),
  };
}
