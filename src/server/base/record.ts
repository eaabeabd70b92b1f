import { sql } from "drizzle-orm";
import type { Queryable } from "@/data/database";
import { record } from "@/data/schema";
import { now } from "./clock";

/** What a line of the record is about. */
type Subject = "attempt" | "quiz" | "person" | "gradebook item" | "course";

/** The course that something belongs to, looked up where the line is written; null: none. */
export const courseOfSubject = (subject: Subject, subjectId: string) =>
  subject === "quiz"
    ? sql<string | null>`(select q.course_id from quiz q where q.id = ${subjectId})`
    : subject === "attempt"
      ? sql<
          string | null
        >`(select q.course_id from attempt a join quiz q on q.id = a.quiz_id where a.id = ${subjectId})`
      : subject === "gradebook item"
        ? sql<
            string | null
          >`(select c.course_id from gradebook_item i join gradebook_category c on c.id = i.category_id where i.id = ${subjectId})`
        : subject === "course"
          ? subjectId
          : null;

/** A line of the record, before it is written. */
export interface NewLine {
  readonly actorId: string | null;
  readonly action: string;
  readonly subject: Subject;
  readonly subjectId: string;
  /** The course that it belongs to, where what it is about does not say so. */
  readonly courseId?: string;
  readonly details?: Record<string, unknown>;
}

/** Adds a line to the append-only record. Takes the transaction in which the thing itself happens. */
export const note = (db: Queryable, line: NewLine): Promise<void> => noteAll(db, [line]);

/** Adds lines to the append-only record, in one statement. */
export async function noteAll(db: Queryable, lines: readonly NewLine[]): Promise<void> {
  if (lines.length === 0) return;
  // By the same clock as everything that it is shown beside.
  const at = new Date(now());
  await db.insert(record).values(
    lines.map((line) => ({
      ...line,
      courseId: line.courseId ?? courseOfSubject(line.subject, line.subjectId),
      at,
      details: line.details ?? {},
    })),
  );
}
