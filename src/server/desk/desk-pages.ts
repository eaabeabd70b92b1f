import type { DeskPages } from "@/core/desk/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import type { QuizContent } from "@/core/quiz/quiz-file";
import { database } from "@/data/database";
import type { attempt } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { progressIn, type StoredWork, workOf } from "../attempts/answers";
import { refuseEnded } from "../attempts/lock-running";
import { openAttempt } from "../attempts/open-attempt";
import { versionContent } from "../quizzes/versions";
import { drawnProgress } from "../text/formulas";
import { noteSending } from "./clock-start";
import { picturesShown } from "./media";

/**
 * What of an attempt may be on its student's device now. What is closed for good or not reached stays on the server. Whoever
 * sends this has noted the sending, which starts the clock (`clock-start.ts`).
 */
export async function deskPages(
  row: typeof attempt.$inferSelect,
  quiz: QuizContent,
  work: StoredWork,
): Promise<DeskPages> {
  const progress = await progressIn(row, quiz, work);
  const questions = progress.slots.flatMap(({ question }) => (question ? [question] : []));
  return {
    progress: drawnProgress(progress),
    pictures: await picturesShown(row, quiz, questions),
    answers: work.rows
      .filter(({ slot }) => progress.slots[slot - 1]?.question)
      .map(
        (each): JournalEntry => ({
          slot: each.slot,
          answer: each.answer,
          ribbon: each.ribbon,
          ruledOut: each.ruledOut,
          revision: each.revision,
          device: each.device,
          writtenAt: each.writtenAt.getTime(),
        }),
      ),
  };
}

/** The same for a desk whose page was turned on another device. */
export async function turnedPages(viewer: Viewer, attemptId: string): Promise<DeskPages> {
  const opened = await openAttempt(viewer, attemptId);
  // From then on the reveal rules say what may be read.
  refuseEnded(opened.attempt);
  const row = await noteSending(opened);
  const quiz = await versionContent(row.versionId);
  return deskPages(row, quiz, await workOf(database(), row.id, quiz));
}
