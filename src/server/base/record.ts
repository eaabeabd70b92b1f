import { sql } from "drizzle-orm";
import type { Queryable } from "@/data/database";
import { record } from "@/data/schema";
import { now } from "./clock";

/** What a line of the record is about. */
type Subject = "attempt" | "quiz" | "person";

/** The course that something belongs to, looked up where the line is written; null: none. */
export const courseOfSubject = (subject: Subject, subjectId: string) =>
  subject === "quiz"
    ? sql<string | null>`(select q.course_id from quiz q where q.id = ${subjectId})`
    : subject === "attempt"
      ? sql<
          string | null
        >`(select q.course_id from attempt a join quiz q on q.id = a.quiz_id where a.id = ${subjectId})`
      : null;

/** Adds a line to the append-only record. Takes the transaction in which the thing itself happens. */
export async function note(
  db: Queryable,
  line: {
    readonly actorId: string | null;
    readonly action: string;
    readonly subject: Subject;
    readonly subjectId: string;
    readonly details?: Record<string, unknown>;
  },
): Promise<void> {
  // By the same clock as everything that it is shown beside.
  await db.insert(record).values({
    ...line,
    courseId: courseOfSubject(line.subject, line.subjectId),
    at: new Date(now()),
    details: line.details ?? {},
  });
}
