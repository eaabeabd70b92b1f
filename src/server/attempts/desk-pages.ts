import type { DeskPages } from "@/core/attempt/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import type { QuizFile } from "@/core/quiz/quiz-file";
import { database } from "@/data/database";
import type { attempt } from "@/data/schema";
import { withDrawnFormulas } from "../formulas";
import { versionContent } from "../quiz-versions";
import type { Viewer } from "../viewer";
import { openAttempt } from "./access";
import { picturesShown } from "./pictures";
import { refuseEnded } from "./running";
import { type KeptWork, standingIn, workOf } from "./work";

/** What of an attempt may be on its student's device now. What is closed for good or not reached stays on the server. */
export async function deskPages(
  row: typeof attempt.$inferSelect,
  quiz: QuizFile,
  work: KeptWork,
): Promise<DeskPages> {
  const standing = standingIn(row, quiz, work);
  return {
    standing: withDrawnFormulas(standing),
    pictures: await picturesShown(row.versionId, quiz, standing),
    answers: work.kept
      .filter(({ slot }) => standing.slots[slot - 1]?.question)
      .map(
        (each): JournalEntry => ({
          slot: each.slot,
          answer: each.answer,
          folded: each.folded,
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
  const { attempt: row } = await openAttempt(viewer, attemptId);
  // From then on the reveal rules say what may be read.
  refuseEnded(row);
  const quiz = await versionContent(row.versionId);
  return deskPages(row, quiz, await workOf(database(), row.id, quiz));
}
