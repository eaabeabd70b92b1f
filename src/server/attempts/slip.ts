import { desc, eq } from "drizzle-orm";
import type { HandedInBy } from "@/core/attempt/state";
import { revealWords } from "@/core/reveal/reveal";
import { database } from "@/data/database";
import { slip } from "@/data/schema";
import { instantOf } from "../clock";
import { config } from "../config";
import { notFound } from "../problems";
import { versionContent } from "../quiz-versions";
import type { Viewer } from "../viewer";
import { openAttempt } from "./access";

export interface SlipView {
  readonly attemptId: string;
  readonly institution: string;
  readonly course: { readonly title: string; readonly code: string; readonly slug: string };
  readonly title: string;
  readonly student: string;
  readonly number: number;
  readonly startedAt: number;
  readonly handedInAt: number;
  readonly by: HandedInBy;
  readonly answered: number;
  readonly questions: number;
  readonly digests: readonly string[];
  readonly code: string;
  readonly instructor: string;
  /** When marks and answers are shown, as ends of sentences. */
  readonly marksShown: string;
  readonly answersShown: string;
}

/** The proof of a hand-in, for its student and the course's staff; null while the attempt runs. */
export async function slipOf(viewer: Viewer, attemptId: string): Promise<SlipView | null> {
  const { attempt, quiz, course, student, instructor } = await openAttempt(viewer, attemptId, {
    staff: true,
  });
  if (attempt.handedInAt === null) return null;
  const [newest] = await database()
    .select()
    .from(slip)
    .where(eq(slip.attemptId, attempt.id))
    .orderBy(desc(slip.number))
    .limit(1);
  if (!newest) throw notFound();
  const { reveal } = (await versionContent(attempt.versionId)).rules;
  const window = { due: instantOf(quiz.due), closes: instantOf(quiz.closes) };
  return {
    attemptId: attempt.id,
    institution: config.institution,
    course,
    title: quiz.title,
    student: student.name,
    number: attempt.number,
    startedAt: attempt.startedAt.getTime(),
    handedInAt: newest.handedInAt.getTime(),
    by: newest.handedInBy,
    answered: newest.answered,
    questions: newest.questions,
    digests: newest.digests,
    code: newest.code,
    instructor,
    marksShown: revealWords(reveal.total, window, config.zone),
    answersShown: revealWords(reveal.right, window, config.zone),
  };
}
