import { and, eq, sql } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import { may } from "@/core/access/may";
import { prepared } from "@/data/database";
import { attempt, course, enrolment, person, quiz } from "@/data/schema";
import { notFound } from "../base/problems";
import { allowanceFor } from "./allowances";
import { isGivenTo } from "./tie";
import type { Viewer } from "./viewer";

const findQuery = prepared((db) =>
  db
    .select({
      attempt,
      quiz,
      course,
      student: { id: person.id, name: person.name },
      /** Of the attempt's student. */
      allowance: allowanceFor(attempt.personId),
      role: enrolment.role,
      given: isGivenTo(sql.placeholder("viewerId")),
      instructor: sql<string>`(select name from person where id = ${quiz.instructorId})`,
    })
    .from(attempt)
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .innerJoin(course, eq(course.id, quiz.courseId))
    .innerJoin(person, eq(person.id, attempt.personId))
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

export type FoundAttempt = NonNullable<Awaited<ReturnType<typeof find>>> & { readonly isStaff: boolean };

/**
 * An attempt that this person may see: its own student, or, where `staff` is allowed, whoever may read it in the course. Anyone
 * else gets "not found", as for an attempt that does not exist.
 */
export async function findAttempt(
  viewer: Viewer,
  attemptId: string,
  { staff = false }: { readonly staff?: boolean } = {},
): Promise<FoundAttempt> {
  if (!isUuid(attemptId)) throw notFound();
  const row = await find(attemptId, viewer);
  if (!row) throw notFound();
  // An observer reads what was returned, and nothing before.
  const isStaff = may(row, row.attempt.returnedAt === null ? "read-work" : "read-returned");
  const isOwn = row.attempt.personId === viewer.id;
  if (!isOwn && !(staff && isStaff)) throw notFound();
  return { ...row, isStaff };
}
