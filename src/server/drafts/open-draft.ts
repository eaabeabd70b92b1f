import { and, eq, isNull } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import { database } from "@/data/database";
import { course, draft, enrolment } from "@/data/schema";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { notFound } from "../base/problems";

/** A draft with its course, opened by somebody who may write in it. */
export interface OpenedDraft {
  readonly draft: typeof draft.$inferSelect;
  readonly course: typeof course.$inferSelect;
}

/** A draft, if this person may write in it. @throws Problem "not found", for what one may not see too */
export async function openDraft(viewer: Viewer, draftId: string): Promise<OpenedDraft> {
  const [row] = isUuid(draftId)
    ? await database()
        .select({ draft, course, role: enrolment.role })
        .from(draft)
        .innerJoin(course, eq(course.id, draft.courseId))
        .innerJoin(enrolment, and(eq(enrolment.courseId, course.id), eq(enrolment.personId, viewer.id)))
        .where(and(eq(draft.id, draftId), isNull(draft.removedAt)))
    : [];
  if (!row) throw notFound();
  mustMay({ role: row.role, given: false }, "rule");
  return { draft: row.draft, course: row.course };
}
