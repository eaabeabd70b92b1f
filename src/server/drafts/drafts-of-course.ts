import { desc, eq } from "drizzle-orm";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { draft, person } from "@/data/schema";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";

/** A draft as the list of its course shows it. */
export interface DraftLine {
  readonly id: string;
  readonly title: string;
  readonly quizId: string | null;
  readonly changedAt: Instant;
  readonly changedBy: string;
  /** Whether something was changed since it became a version. */
  readonly isAhead: boolean;
}

/** The drafts of a course, the one that was written in last first, for who may write in them. @throws Problem "not found" */
export async function draftsOfCourse(
  viewer: Viewer,
  slug: string,
): Promise<{
  readonly course: CourseOfPerson;
  readonly drafts: readonly DraftLine[];
  /** Those that were put away. */
  readonly away: readonly DraftLine[];
}> {
  const course = await courseOf(viewer, slug);
  mustMay({ role: course.role, given: false }, "rule");
  const rows = await database()
    .select({ draft, by: person.name })
    .from(draft)
    .innerJoin(person, eq(person.id, draft.changedBy))
    .where(eq(draft.courseId, course.id))
    .orderBy(desc(draft.changedAt));
  const lines = (isAway: boolean): DraftLine[] =>
    rows
      .filter(({ draft: row }) => (row.removedAt !== null) === isAway)
      .map(({ draft: row, by }) => ({
        id: row.id,
        title: row.title,
        quizId: row.quizId,
        changedAt: row.changedAt.getTime(),
        changedBy: by,
        isAhead: row.assignedAt !== null && row.changedAt > row.assignedAt,
      }));
  return { course, drafts: lines(false), away: lines(true) };
}
