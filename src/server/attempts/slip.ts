import { desc, eq } from "drizzle-orm";
import type { HandedInBy } from "@/core/attempt/state";
import { revealWords } from "@/core/reveal/reveal";
import { database } from "@/data/database";
import { lateWriting, slip } from "@/data/schema";
import { instantOf } from "../clock";
import { config } from "../config";
import { notFound } from "../problems";
import { versionContent } from "../quiz-versions";
import type { Viewer } from "../viewer";
import { allowanceOf, openAttempt, windowOf } from "./access";
import { takeBackRuling } from "./take-back";

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
  /** Earlier hand-ins of the same attempt that were taken back, each with its own code. */
  readonly earlier: readonly { readonly handedInAt: number; readonly code: string }[];
  /** Questions to which a device delivered something only after the end; kept apart for the instructor. */
  readonly lateWriting: readonly number[];
  /** Whether it may be taken back now, and until when. */
  readonly takeBack: { readonly until: number | null } | null;
  /** When marks and answers are shown, as ends of sentences. */
  readonly marksShown: string;
  readonly answersShown: string;
}

/** The proof of a hand-in, for its student and the course's staff; null while the attempt runs. */
export async function slipOf(viewer: Viewer, attemptId: string): Promise<SlipView | null> {
  const opened = await openAttempt(viewer, attemptId, { staff: true });
  const { attempt, quiz, course, student, instructor } = opened;
  if (attempt.handedInAt === null) return null;
  const [[newest, ...earlier], late] = await Promise.all([
    database().select().from(slip).where(eq(slip.attemptId, attempt.id)).orderBy(desc(slip.number)),
    database()
      .selectDistinct({ slot: lateWriting.slot })
      .from(lateWriting)
      .where(eq(lateWriting.attemptId, attempt.id))
      .orderBy(lateWriting.slot),
  ]);
  if (!newest) throw notFound();
  const { reveal } = (await versionContent(attempt.versionId)).rules;
  const mayTakeBack = attempt.personId === viewer.id && (await takeBackRuling(opened)).may;
  const ends = [instantOf(attempt.deadline), windowOf(quiz, allowanceOf(opened.allowance)).due].filter(
    (end) => end !== null,
  );
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
    earlier: earlier.map(({ handedInAt, code }) => ({ handedInAt: handedInAt.getTime(), code })),
    lateWriting: late.map(({ slot }) => slot),
    takeBack: mayTakeBack ? { until: ends.length > 0 ? Math.min(...ends) : null } : null,
    instructor,
    marksShown: revealWords(reveal.total, window, config.zone),
    answersShown: revealWords(reveal.right, window, config.zone),
  };
}
