import { and, eq, sql } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import { database } from "@/data/database";
import { course, enrolment, quiz, quizVersion } from "@/data/schema";
import { notFound } from "../base/problems";
import { allowanceFor, windowOf } from "./allowances";
import { isAssignedTo } from "./assigned";
import { groupEnds } from "./group-ends";
import { isGivenTo, isSeenBy } from "./tie";
import type { Viewer } from "./viewer";

/**
 * A quiz of a course in which this person is enrolled, with the person's own window and allowance; else "not found", as for
 * an assistant to whom it was not given.
 */
export async function openQuiz(viewer: Viewer, quizId: string) {
  if (!isUuid(quizId)) throw notFound();
  const [row] = await database()
    .select({
      quiz,
      course,
      role: enrolment.role,
      allowance: allowanceFor(viewer.id),
      assigned: isAssignedTo(viewer.id),
      given: isGivenTo(viewer.id),
      versionId: quizVersion.id,
      facts: quizVersion.facts,
      ...groupEnds(),
      instructorMail: sql<string>`(select email from person where id = ${quiz.instructorId})`,
      instructor: sql<string>`(select name from person where id = ${quiz.instructorId})`,
    })
    .from(quiz)
    .innerJoin(course, eq(course.id, quiz.courseId))
    .innerJoin(enrolment, and(eq(enrolment.courseId, quiz.courseId), eq(enrolment.personId, viewer.id)))
    .innerJoin(quizVersion, and(eq(quizVersion.quizId, quiz.id), eq(quizVersion.number, quiz.currentVersion)))
    .where(eq(quiz.id, quizId));
  if (!row || !isSeenBy(row)) throw notFound();
  return { ...row, window: windowOf(row.quiz, row.allowance) };
}
