import { and, eq, isNull, ne } from "drizzle-orm";
import { rulingOnTakeBack, type TakeBackRuling } from "@/core/attempt/take-back";
import { said } from "@/core/said";
import { inTransaction, type Queryable } from "@/data/database";
import { attempt } from "@/data/schema";
import { windowOf } from "../access/allowances";
import type { Viewer } from "../access/viewer";
import { lockAttempt } from "../attempts/lock-attempt";
import { type OpenedAttempt, openAttempt } from "../attempts/open-attempt";
import { instantOf, iso, now } from "../base/clock";
import { config } from "../base/config";
import { isDuplicate, notFound, Problem } from "../base/problems";
import { note } from "../base/record";
import { reopenAttempt } from "../desk/reopen-attempt";

const ANOTHER_RUNS = {
  may: false,
  rule: "another-runs",
  words: said("server.handed-in.take-back.another-attempt-at-this-quiz-is"),
} as const;

/** Whether an attempt may be taken back by its student now. */
export async function takeBackRuling(opened: OpenedAttempt, db: Queryable): Promise<TakeBackRuling> {
  const { attempt: row, quiz } = opened;
  const ruling = rulingOnTakeBack({
    allowed: quiz.settings.takeBack ?? false,
    handedInBy: row.handedInBy,
    now: now(),
    due: windowOf(quiz, opened.allowance).due,
    added: row.addedMs,
    deadline: instantOf(row.deadline),
    returned: row.returnedAt !== null,
    zone: config.zone,
  });
  if (!ruling.may) return ruling;
  const [other] = await db
    .select({ id: attempt.id })
    .from(attempt)
    .where(
      and(
        eq(attempt.quizId, row.quizId),
        eq(attempt.personId, row.personId),
        isNull(attempt.handedInAt),
        ne(attempt.id, row.id),
      ),
    );
  return other ? ANOTHER_RUNS : ruling;
}

/**
 * Takes a hand-in back: the same attempt runs again, with its answers and its clock, and with the late writing that was
 * delivered meanwhile. Its slip stays, and says that it was taken back.
 */
export async function takeBack(viewer: Viewer, attemptId: string): Promise<void> {
  const opened = await openAttempt(viewer, attemptId);
  try {
    await inTransaction(async (tx) => {
      const row = await lockAttempt(tx, attemptId);
      if (!row) throw notFound();
      if (row.handedInAt === null) return;
      const ruling = await takeBackRuling({ ...opened, attempt: row }, tx);
      if (!ruling.may) throw new Problem(409, ruling.rule, ruling.words);
      const late = await reopenAttempt(tx, row);
      await note(tx, {
        actorId: viewer.id,
        action: "taken back",
        subject: "attempt",
        subjectId: attemptId,
        details: { handedInAt: iso(row.handedInAt.getTime()), late },
      });
    });
  } catch (error) {
    // Another attempt was started in this very moment: the database lets one run.
    if (isDuplicate(error)) throw new Problem(409, ANOTHER_RUNS.rule, ANOTHER_RUNS.words);
    throw error;
  }
}
