import { and, asc, eq, inArray } from "drizzle-orm";
import * as yup from "yup";
import { movedWindows, type PlannedWindow } from "@/core/course/moved-windows";
import { exactObject } from "@/core/kinds/shapes";
import { said } from "@/core/said";
import { database, inTransaction } from "@/data/database";
import { course, enrolment, quiz, quizVersion } from "@/data/schema";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { instantOf } from "../base/clock";
import { config } from "../base/config";
import { inputOf } from "../base/input";
import { notFound } from "../base/problems";
import { fileOf, piecesOfQuiz, writeNewDraft } from "./make-draft";

/** A quiz that can be copied, with when it was set. */
export interface CopiedQuiz extends PlannedWindow {
  readonly id: string;
  readonly title: string;
}

/** A course whose quizzes can be copied. */
export interface CopySource {
  readonly slug: string;
  readonly title: string;
  readonly quizzes: readonly CopiedQuiz[];
}

const windowOfRow = (row: Pick<typeof quiz.$inferSelect, "opens" | "due" | "closes">): PlannedWindow => ({
  opens: instantOf(row.opens),
  due: instantOf(row.due),
  closes: instantOf(row.closes),
});

/** The quizzes of all courses that this person teaches, the course itself first. @throws Problem "not found" */
export async function copySources(
  viewer: Viewer,
  slug: string,
): Promise<{ readonly course: CourseOfPerson; readonly sources: readonly CopySource[] }> {
  const own = await courseOf(viewer, slug);
  mustMay({ role: own.role, given: false }, "rule");
  const rows = await database()
    .select({ quiz, slug: course.slug, course: course.title })
    .from(quiz)
    .innerJoin(course, eq(course.id, quiz.courseId))
    .innerJoin(enrolment, and(eq(enrolment.courseId, course.id), eq(enrolment.personId, viewer.id)))
    .where(eq(enrolment.role, "instructor"))
    .orderBy(asc(course.title), asc(quiz.opens), asc(quiz.title));
  const sources = new Map<string, { slug: string; title: string; quizzes: CopiedQuiz[] }>();
  for (const row of rows) {
    const source = sources.get(row.slug) ?? { slug: row.slug, title: row.course, quizzes: [] };
    source.quizzes.push({ id: row.quiz.id, title: row.quiz.title, ...windowOfRow(row.quiz) });
    sources.set(row.slug, source);
  }
  const all = [...sources.values()].sort((a, b) => Number(b.slug === slug) - Number(a.slug === slug));
  return { course: own, sources: all };
}

const day = () =>
  yup
    .string()
    .strict()
    .matches(/^\d{4}-\d{2}-\d{2}$/, { message: said("server.drafts.copy-quizzes.must-be-a-day") })
    .test("day", said("server.drafts.copy-quizzes.must-be-a-day"), (text) =>
      text === undefined || text === null ? true : !Number.isNaN(Date.parse(`${text}T00:00:00Z`)),
    );

const body = exactObject({
  quizzes: yup
    .array()
    .of(
      yup
        .string()
        .strict()
        .matches(/^[0-9a-f-]{36}$/)
        .required(),
    )
    .min(1, said("server.drafts.copy-quizzes.choose-some"))
    .max(100)
    .required(),
  /** The day on which the first date of all comes to lie; null: no dates are taken along. */
  first: day().nullable(),
  breaks: yup
    .array()
    .of(exactObject({ from: day().required(), to: day().required() }).required())
    .max(20)
    .required(),
});

/**
 * Copies quizzes into a course as drafts, with all that they show, and with their dates moved together. Nothing is set for
 * anyone: each draft is looked at and assigned by a person, its dates filled in.
 * @throws Problem "not found" where one is not of a course that this person teaches
 */
export async function copyQuizzes(
  viewer: Viewer,
  slug: string,
  input: unknown,
): Promise<{ readonly count: number }> {
  const { quizzes, first, breaks } = inputOf(body, input);
  const own = await courseOf(viewer, slug);
  mustMay({ role: own.role, given: false }, "rule");
  const wanted = [...new Set(quizzes)];
  return inTransaction(async (tx) => {
    const rows = await tx
      .select({ quiz, content: quizVersion.content })
      .from(quiz)
      .innerJoin(
        quizVersion,
        and(eq(quizVersion.quizId, quiz.id), eq(quizVersion.number, quiz.currentVersion)),
      )
      .innerJoin(enrolment, and(eq(enrolment.courseId, quiz.courseId), eq(enrolment.personId, viewer.id)))
      .where(and(inArray(quiz.id, wanted), eq(enrolment.role, "instructor")))
      .orderBy(asc(quiz.opens), asc(quiz.title));
    if (rows.length !== wanted.length) throw notFound();
    const windows = rows.map((row) => windowOfRow(row.quiz));
    const moved = first ? movedWindows(windows, first, breaks, config.zone) : null;
    for (const [i, { quiz: row, content }] of rows.entries()) {
      const terms = { courseId: own.id, by: viewer.id };
      const pieces = await piecesOfQuiz(tx, fileOf(content, row.settings), terms);
      const planned = moved?.[i];
      await writeNewDraft(tx, viewer, {
        courseId: own.id,
        pieces,
        title: content.title,
        ...(planned ? { planned } : {}),
      });
    }
    return { count: rows.length };
  });
}
