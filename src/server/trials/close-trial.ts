import { and, desc, eq, isNull } from "drizzle-orm";
import type { RevealRules, RevealWhen } from "@/core/quiz/rules";
import { REVEALED } from "@/core/quiz/rules";
import { SECOND } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { attempt, quiz, trial } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { iso, now } from "../base/clock";
import { notFound, Problem } from "../base/problems";
import { removeTrials } from "./begin-trial";

/** What is shown on a date is shown now: the date has come. */
function asIfComeTo(reveal: RevealRules, at: string): RevealRules {
  const come = (when: RevealWhen): RevealWhen => (typeof when === "string" ? when : { on: at });
  return { ...reveal, ...Object.fromEntries(REVEALED.map((what) => [what, come(reveal[what])])) };
}

/** The quiz that is tried out closes, and what was handed in is returned: what students see then is seen now. */
export async function closeTrial(student: Viewer): Promise<void> {
  await inTransaction(async (tx) => {
    const [row] = await tx
      .select({ quiz })
      .from(trial)
      .innerJoin(quiz, eq(quiz.id, trial.quizId))
      .where(eq(trial.personId, student.id))
      .for("update");
    if (!row) throw notFound();
    const quizId = row.quiz.id;
    const running = await tx
      .select({ id: attempt.id })
      .from(attempt)
      .where(and(eq(attempt.quizId, quizId), isNull(attempt.handedInAt)));
    if (running.length > 0) throw new Problem(409, "running", t("server.trials.close-trial.hand-in-first"));
    const at = now() - SECOND;
    const settings = { ...row.quiz.settings, reveal: asIfComeTo(row.quiz.settings.reveal, iso(at)) };
    await tx
      .update(quiz)
      .set({ due: new Date(at), closes: new Date(at), settings })
      .where(eq(quiz.id, quizId));
    await tx
      .update(attempt)
      .set({ returnedAt: new Date(at) })
      .where(and(eq(attempt.quizId, quizId), isNull(attempt.returnedAt)));
  });
}

/** Ends a trial: nothing of it is left. Answers which draft it was of, for who may write in it. */
export async function leaveTrial(
  student: Viewer,
): Promise<{ readonly draftId: string; readonly byLink: boolean }> {
  return inTransaction(async (tx) => {
    const [row] = await tx.select().from(trial).where(eq(trial.personId, student.id));
    if (!row) throw notFound();
    await removeTrials(tx, [row.id]);
    return { draftId: row.draftId, byLink: row.linkId !== null };
  });
}

/** Where a trial is looked at once it is closed: the paper of its last attempt, or its brief. */
export async function paperOfTrial(student: Viewer): Promise<string> {
  const [row] = await database()
    .select({ id: attempt.id })
    .from(attempt)
    .where(eq(attempt.personId, student.id))
    .orderBy(desc(attempt.number))
    .limit(1);
  if (row) return `/attempts/${row.id}/paper`;
  const [own] = await database()
    .select({ quizId: trial.quizId })
    .from(trial)
    .where(eq(trial.personId, student.id));
  if (!own) throw notFound();
  return `/quizzes/${own.quizId}`;
}
