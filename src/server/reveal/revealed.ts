import { REVEALED, type Revealed } from "@/core/quiz/rules";
import type { Revelations } from "@/core/reveal/reveal";
import type { Viewer } from "../access/viewer";
import type { OpenedAttempt } from "../attempts/open-attempt";
import { quizOfViewer, revelationsOf } from "./quizzes-of-person";

const EVERYTHING = Object.fromEntries(
  REVEALED.map((what) => [what, { visible: true, isNever: false, when: "now" }]),
) as unknown as Revelations;

/**
 * What of a handed-in attempt may be read now, and, for its student, the quiz as it stands for them, also when they have
 * left its course. Staff read all of it; null: neither its student nor staff.
 */
export async function revealedOf(viewer: Viewer, opened: OpenedAttempt) {
  const { attempt: row, quiz } = opened;
  const item = row.personId === viewer.id ? await quizOfViewer(viewer, quiz.id) : undefined;
  const reveal = item ? revelationsOf(item, row) : opened.isStaff ? EVERYTHING : null;
  return { item, reveal };
}

/** Whether what was written, and what belongs to it, may be read: always by staff, and by its student until the hand-in. */
export async function writtenIsShown(viewer: Viewer, opened: OpenedAttempt): Promise<boolean> {
  if (opened.isStaff || opened.attempt.handedInAt === null) return true;
  return (await revealedOf(viewer, opened)).reveal?.written.visible ?? false;
}

/** What of a handed-in attempt its own student can see now, for what is kept beside it. */
export async function shownTo(personId: string, row: OpenedAttempt["attempt"]): Promise<Revealed[]> {
  const item = await quizOfViewer({ id: personId }, row.quizId);
  if (!item) return [];
  const reveal = revelationsOf(item, row);
  return REVEALED.filter((what) => reveal[what].visible);
}
