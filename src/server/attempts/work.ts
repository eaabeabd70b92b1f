import { asc, eq } from "drizzle-orm";
import type { Reached } from "@/core/attempt/order";
import { type AttemptStanding, type AttemptWork, standingOf } from "@/core/attempt/standing";
import type { QuizFile } from "@/core/quiz/quiz-file";
import type { Queryable } from "@/data/database";
import { answer, answerCheck, type attempt } from "@/data/schema";

type AttemptRow = typeof attempt.$inferSelect;

/** What stands on the server for an attempt, with the answers as they are kept. */
export interface KeptWork extends AttemptWork {
  readonly kept: readonly (typeof answer.$inferSelect)[];
}

/** What stands on the server for an attempt: its answers, and what was checked, in order. Two queries, or one. */
export async function workOf(db: Queryable, attemptId: string, quiz: QuizFile): Promise<KeptWork> {
  const kept = await db.select().from(answer).where(eq(answer.attemptId, attemptId));
  const checked = quiz.rules.tries
    ? await db
        .select({ slot: answerCheck.slot, answer: answerCheck.answer })
        .from(answerCheck)
        .where(eq(answerCheck.attemptId, attemptId))
        .orderBy(asc(answerCheck.slot), asc(answerCheck.number))
    : [];
  const checks = new Map<number, unknown[]>();
  for (const check of checked) checks.set(check.slot, [...(checks.get(check.slot) ?? []), check.answer]);
  return { kept, answers: new Map(kept.map((each) => [each.slot, each.answer])), checks };
}

export const reachedIn = (row: Pick<AttemptRow, "page" | "told">): Reached => ({
  page: row.page,
  told: new Set(row.told),
});

/** Where an attempt stands, with what of it may be on its student's device now. */
export const standingIn = (row: AttemptRow, quiz: QuizFile, work: AttemptWork): AttemptStanding =>
  standingOf(quiz, row.seed, reachedIn(row), work);
