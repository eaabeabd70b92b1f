import { and, asc, eq, ne } from "drizzle-orm";
import type { AssignView } from "@/core/draft/assign-view";
import { headOf, rulesOf } from "@/core/draft/pieces";
import { database, inTransaction } from "@/data/database";
import { quiz } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { reachable } from "../allowances/times-page";
import { instantOf, now } from "../base/clock";
import { config } from "../base/config";
import { piecesOfDraft } from "./draft-pieces";
import { followQuiz } from "./follow-quiz";
import { openDraft } from "./open-draft";

/** What is chosen when a draft is assigned: when, for whom, and what comes first. */
export async function assignPage(viewer: Viewer, draftId: string): Promise<AssignView> {
  const { draft, course } = await openDraft(viewer, draftId);
  if (draft.quizId !== null) await inTransaction((tx) => followQuiz(tx, viewer, draft));
  const pieces = await piecesOfDraft(database(), draft.id);
  const quizzes = await database()
    .select({ id: quiz.id, title: quiz.title, opens: quiz.opens, due: quiz.due, closes: quiz.closes })
    .from(quiz)
    .where(and(eq(quiz.courseId, course.id), ne(quiz.id, draft.quizId ?? draft.id)))
    .orderBy(asc(quiz.opens), asc(quiz.title));
  const [set] =
    draft.quizId === null
      ? []
      : await database()
          .select({ firstQuizId: quiz.firstQuizId, firstAtLeast: quiz.firstAtLeast })
          .from(quiz)
          .where(eq(quiz.id, draft.quizId));
  const at = now();
  return {
    draftId: draft.id,
    quizId: draft.quizId,
    course: { slug: course.slug, title: course.title },
    title: headOf(pieces).title,
    rules: rulesOf(pieces),
    ...(await reachable(course.id)),
    quizzes: quizzes.map((each) => ({
      id: each.id,
      title: each.title,
      opens: instantOf(each.opens),
      due: instantOf(each.due),
      closes: instantOf(each.closes),
    })),
    planned: draft.quizId === null ? draft.planned : null,
    first: set?.firstQuizId ? { quizId: set.firstQuizId, atLeast: set.firstAtLeast } : null,
    zone: config.zone,
    serverNow: at,
  };
}
