import type { DraftView } from "@/core/draft/draft-view";
import { database, inTransaction } from "@/data/database";
import type { Viewer } from "../access/viewer";
import { instantOf, now } from "../base/clock";
import { config } from "../base/config";
import { newestChange, piecesSince } from "./draft-pieces";
import { followBank, takesFromBank } from "./follow-bank";
import { followQuiz } from "./follow-quiz";
import { openDraft } from "./open-draft";

/** A draft as its page shows it. Four queries; of a quiz that was assigned, its settings as they are now. */
export async function draftPage(viewer: Viewer, draftId: string): Promise<DraftView> {
  const { draft, course } = await openDraft(viewer, draftId);
  if (draft.quizId !== null) await inTransaction((tx) => followQuiz(tx, viewer, draft));
  const standing = await piecesSince(database(), draft.id, 0);
  // Only a draft that takes something from a bank is looked at again.
  const takes = takesFromBank(standing);
  if (takes) await inTransaction((tx) => followBank(tx, viewer.id, draft));
  const change = await newestChange(database(), draft.id);
  return {
    id: draft.id,
    course: { slug: course.slug, title: course.title },
    quizId: draft.quizId,
    assignedAt: instantOf(draft.assignedAt),
    pieces: takes ? await piecesSince(database(), draft.id, 0) : standing,
    change,
    unitMeanings: course.unitMeanings,
    language: config.language,
    zone: config.zone,
    email: viewer.email,
    serverNow: now(),
  };
}
