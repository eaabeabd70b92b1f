import { REVEALED } from "@/core/quiz/rules";
import type { Revelations } from "@/core/reveal/reveal";
import { versionContent } from "../quiz-versions";
import { attemptsRemain } from "../student/lines";
import { quizzesOf, revelationsOf } from "../student/quizzes-of";
import type { Viewer } from "../viewer";
import type { OpenedAttempt } from "./access";

const EVERYTHING = Object.fromEntries(
  REVEALED.map((what) => [what, { visible: true, when: "now" }]),
) as unknown as Revelations;

/**
 * What of a handed-in attempt may be read now, and, for its student, the quiz as it stands for them. Staff read all of
 * it; null: neither its student nor staff.
 */
export async function revealedOf(viewer: Viewer, opened: OpenedAttempt) {
  const { attempt: row, quiz, course } = opened;
  const { rules } = await versionContent(row.versionId);
  const item =
    row.personId === viewer.id
      ? (await quizzesOf(viewer, course.id)).find((each) => each.quiz.id === quiz.id)
      : undefined;
  const reveal = item
    ? revelationsOf(row, { reveal: rules.reveal }, item.ends, attemptsRemain(item))
    : opened.isStaff
      ? EVERYTHING
      : null;
  return { item, reveal };
}

/** Whether what was written, and what belongs to it, may be read: always by staff, and by its student until the hand-in. */
export async function writtenIsShown(viewer: Viewer, opened: OpenedAttempt): Promise<boolean> {
  if (opened.isStaff || opened.attempt.handedInAt === null) return true;
  return (await revealedOf(viewer, opened)).reveal?.written.visible ?? false;
}
