import { and, eq, sql } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import { type Allowance, NO_ALLOWANCE } from "@/core/attempt/deadline";
import { windowFor } from "@/core/attempt/window";
import { prepared } from "@/data/database";
import { allowance, attempt, course, enrolment, person, quiz } from "@/data/schema";
import { instantOf, now } from "../clock";
import { notFound } from "../problems";
import type { Viewer } from "../viewer";
import { isOverdue, settle } from "./settle";

export function allowanceOf(row: typeof allowance.$inferSelect | null): Allowance {
  if (!row) return NO_ALLOWANCE;
  const { factor, extraMinutes, extraAttempts } = row;
  return {
    factor,
    extraMinutes,
    extraAttempts,
    opens: instantOf(row.opens),
    due: instantOf(row.due),
    closes: instantOf(row.closes),
  };
}

/** The window of a quiz for the student who has this allowance. */
export const windowOf = (row: Pick<typeof quiz.$inferSelect, "opens" | "due" | "closes">, own: Allowance) =>
  windowFor({ opens: instantOf(row.opens), due: instantOf(row.due), closes: instantOf(row.closes) }, own);

const findQuery = prepared((db) =>
  db
    .select({
      attempt,
      quiz,
      course,
      student: { id: person.id, name: person.name },
      allowance,
      role: enrolment.role,
      instructor: sql<string>`(select name from person where id = ${quiz.instructorId})`,
    })
    .from(attempt)
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .innerJoin(course, eq(course.id, quiz.courseId))
    .innerJoin(person, eq(person.id, attempt.personId))
    .leftJoin(allowance, and(eq(allowance.quizId, attempt.quizId), eq(allowance.personId, attempt.personId)))
    .leftJoin(
      enrolment,
      and(eq(enrolment.courseId, quiz.courseId), eq(enrolment.personId, sql.placeholder("viewerId"))),
    )
    .where(eq(attempt.id, sql.placeholder("attemptId")))
    .prepare("attempt"),
);

async function find(attemptId: string, viewer: Viewer) {
  const [row] = await findQuery().execute({ attemptId, viewerId: viewer.id });
  return row;
}

export type OpenedAttempt = NonNullable<Awaited<ReturnType<typeof find>>> & { readonly isStaff: boolean };

/**
 * An attempt that this person may see, with its time settled: its own student, or, where `staff` is allowed, whoever
 * teaches the course. Anyone else gets "not found", as for an attempt that does not exist.
 */
export async function openAttempt(
  viewer: Viewer,
  attemptId: string,
  options: { readonly staff?: boolean } = {},
): Promise<OpenedAttempt> {
  if (!isUuid(attemptId)) throw notFound();
  const row = await find(attemptId, viewer);
  if (!row) throw notFound();
  const isStaff = row.role === "instructor" || row.role === "assistant";
  const isOwn = row.attempt.personId === viewer.id;
  if (!isOwn && !(options.staff && isStaff)) throw notFound();
  if (!isOverdue(row.attempt, now())) return { ...row, isStaff };
  await settle(attemptId);
  const settled = await find(attemptId, viewer);
  if (!settled) throw notFound();
  return { ...settled, isStaff };
}
