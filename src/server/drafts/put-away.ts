import { and, eq, isNotNull, isNull } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import { inTransaction } from "@/data/database";
import { draft } from "@/data/schema";
import { t } from "@/words/t";
import { courseOf } from "../access/open-course";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { notFound, Problem } from "../base/problems";
import { note } from "../base/record";
import { openDraft } from "./open-draft";

/**
 * Puts a draft away that was never assigned: it is in no list of what is written any more, and can be brought back.
 * @throws Problem where it belongs to a quiz
 */
export async function putDraftAway(viewer: Viewer, draftId: string): Promise<void> {
  const opened = await openDraft(viewer, draftId);
  await inTransaction(async (tx) => {
    const [held] = await tx.select().from(draft).where(eq(draft.id, opened.draft.id)).for("update");
    if (!held || held.removedAt !== null) throw notFound();
    if (held.quizId !== null)
      throw new Problem(409, "assigned", t("server.drafts.put-away.belongs-to-a-quiz"));
    await tx
      .update(draft)
      .set({ removedAt: new Date(now()) })
      .where(eq(draft.id, held.id));
    await note(tx, {
      actorId: viewer.id,
      action: "put a draft away",
      subject: "course",
      subjectId: held.courseId,
      details: { draft: held.id },
    });
  });
}

/** Brings a draft back that was put away. @throws Problem "not found" where there is none in that course */
export async function bringDraftBack(viewer: Viewer, slug: string, draftId: string): Promise<void> {
  const course = await courseOf(viewer, slug);
  mustMay({ role: course.role, given: false }, "rule");
  if (!isUuid(draftId)) throw notFound();
  await inTransaction(async (tx) => {
    const rows = await tx
      .update(draft)
      .set({ removedAt: null })
      .where(
        and(
          eq(draft.id, draftId),
          eq(draft.courseId, course.id),
          isNotNull(draft.removedAt),
          isNull(draft.quizId),
        ),
      )
      .returning({ id: draft.id });
    if (rows.length === 0) throw notFound();
    await note(tx, {
      actorId: viewer.id,
      action: "brought a draft back",
      subject: "course",
      subjectId: course.id,
      details: { draft: draftId },
    });
  });
}
