import { createHash } from "node:crypto";
import { asc, eq, inArray } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { DraftEntry, PlanDraft } from "@/core/course/plan-draft";
import { said } from "@/core/said";
import { plainText } from "@/core/text/plain-text";
import { instantOfLocal, localText } from "@/core/time/local-time";
import { type Database, database, inTransaction } from "@/data/database";
import { course as courseTable, planEntry, planSection, quiz } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { config } from "../base/config";
import { hasWords, inputOf } from "../base/input";
import { badInput, Problem } from "../base/problems";
import { note } from "../base/record";
import { cleanPlanText } from "../text/rich-text";
import { courseToWrite } from "./course-to-write";
import { dayShape } from "./day-shape";

const MOST_SECTIONS = 100;
const MOST_ENTRIES = 100;
const LONGEST_TEXT = 20_000;

/** What is new has a name of its own until it is kept. */
const id = () => yup.string().strict().min(1).max(60).required();

const entryShape = yup
  .object({
    id: id(),
    kind: yup.string().strict().oneOf(["quiz", "reading", "note"]).required(),
    quizId: yup
      .string()
      .strict()
      .test(
        "uuid",
        said("server.course.write-plan.no-such-quiz"),
        (text) => text === undefined || isUuid(text),
      ),
    text: yup.string().strict().max(LONGEST_TEXT, said("server.course.write-plan.text-too-long")),
  })
  .strict()
  .noUnknown();

const body = yup
  .object({
    sections: yup
      .array()
      .of(
        yup
          .object({
            id: id(),
            title: yup
              .string()
              .strict()
              .test("words", said("server.course.write-plan.a-title-is-missing"), hasWords)
              .max(120)
              .required(said("server.course.write-plan.a-title-is-missing")),
            starts: dayShape(),
            entries: yup.array().of(entryShape).max(MOST_ENTRIES).required(),
          })
          .strict()
          .noUnknown(),
      )
      .max(MOST_SECTIONS)
      .required(),
    /** The state that was changed. */
    expects: yup.string().strict().max(100).required(),
  })
  .strict()
  .noUnknown();

/** The plan of a course as it can be written, and the name of its state. */
async function planOf(db: Pick<Database, "select">, courseId: string) {
  const rows = await db
    .select({ section: planSection, entry: planEntry })
    .from(planSection)
    .leftJoin(planEntry, eq(planEntry.sectionId, planSection.id))
    .where(eq(planSection.courseId, courseId))
    .orderBy(asc(planSection.position), asc(planSection.id), asc(planEntry.position), asc(planEntry.id));
  const sections = [...new Map(rows.map(({ section }) => [section.id, section])).values()];
  const plan: PlanDraft = sections.map((section) => ({
    id: section.id,
    title: section.title,
    starts: section.starts === null ? null : localText(section.starts.getTime(), config.zone).slice(0, 10),
    entries: rows.flatMap(({ section: { id: sectionId }, entry }): DraftEntry[] => {
      if (sectionId !== section.id || !entry) return [];
      if (entry.kind !== "quiz") return [{ id: entry.id, kind: entry.kind, text: entry.text }];
      return entry.quizId === null ? [] : [{ id: entry.id, kind: "quiz", quizId: entry.quizId }];
    }),
  }));
  return { plan, expects: createHash("sha256").update(JSON.stringify(plan)).digest("base64url") };
}

/** The plan of a course for who writes it, with the quizzes that can stand in it. */
export async function planToWrite(viewer: Viewer, slug: string) {
  const course = await courseToWrite(viewer, slug);
  const quizzes = await database()
    .select({ id: quiz.id, title: quiz.title })
    .from(quiz)
    .where(eq(quiz.courseId, course.id))
    .orderBy(asc(quiz.title));
  return { course, quizzes, ...(await planOf(database(), course.id)) };
}

/**
 * Keeps the plan of a course as it was written; students see it at once. What somebody else has kept meanwhile is not written over.
 * @throws Problem where something is missing, or it was changed meanwhile
 */
export async function writePlan(
  viewer: Viewer,
  slug: string,
  input: unknown,
): Promise<{ readonly plan: PlanDraft; readonly expects: string }> {
  const { sections, expects } = inputOf(body, input);
  const course = await courseToWrite(viewer, slug);
  return inTransaction(async (tx) => {
    await tx
      .select({ id: courseTable.id })
      .from(courseTable)
      .where(eq(courseTable.id, course.id))
      .for("update");
    const before = await planOf(tx, course.id);
    if (before.expects !== expects)
      throw new Problem(409, "changed-meanwhile", t("server.course.write-plan.changed-meanwhile"));
    const known = new Set(
      before.plan.flatMap((section) => [section.id, ...section.entries.map((each) => each.id)]),
    );
    const used = new Set<string>();
    /** What was there keeps its id, once; what is new gets one. */
    const idOf = (wanted: string) => {
      if (!known.has(wanted) || used.has(wanted)) return newId();
      used.add(wanted);
      return wanted;
    };
    await refuseStrangers(
      tx,
      course.id,
      sections.flatMap(({ entries }) =>
        entries.flatMap(({ kind, quizId }) => (kind === "quiz" ? [quizId ?? ""] : [])),
      ),
    );
    await tx.delete(planSection).where(eq(planSection.courseId, course.id));
    for (const [position, section] of sections.entries()) {
      const sectionId = idOf(section.id);
      const starts = section.starts ? instantOfLocal(`${section.starts}T00:00`, config.zone) : null;
      await tx.insert(planSection).values({
        id: sectionId,
        courseId: course.id,
        title: section.title.trim(),
        starts: starts === null ? null : new Date(starts),
        position,
      });
      const entries = section.entries.map((entry, place) => ({
        id: idOf(entry.id),
        sectionId,
        position: place,
        ...contentOf(section.title, entry),
      }));
      if (entries.length > 0) await tx.insert(planEntry).values(entries);
    }
    await note(tx, {
      actorId: viewer.id,
      action: "wrote the plan",
      subject: "course",
      subjectId: course.id,
      details: { before: before.plan },
    });
    return planOf(tx, course.id);
  });
}

function contentOf(title: string, { kind, quizId, text }: yup.InferType<typeof entryShape>) {
  if (kind === "quiz") return { kind, quizId: quizId ?? null, text: "" };
  const clean = cleanPlanText(text ?? "");
  if (plainText(clean).trim() === "")
    throw badInput(t("server.course.write-plan.text-is-missing", { title }));
  return { kind, quizId: null, text: clean };
}

async function refuseStrangers(tx: Database, courseId: string, quizIds: readonly string[]): Promise<void> {
  const wanted = [...new Set(quizIds)];
  if (wanted.length === 0) return;
  const own = wanted.every((each) => isUuid(each))
    ? await tx.select({ id: quiz.id, courseId: quiz.courseId }).from(quiz).where(inArray(quiz.id, wanted))
    : [];
  if (own.filter((each) => each.courseId === courseId).length < wanted.length)
    throw badInput(t("server.course.write-plan.no-such-quiz"));
}
