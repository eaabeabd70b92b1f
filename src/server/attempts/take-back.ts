import { and, eq, isNull, ne } from "drizzle-orm";
import { rulingOnTakeBack, type TakeBackRuling } from "@/core/attempt/take-back";
import { database, type Queryable } from "@/data/database";
import { attempt } from "@/data/schema";
import { instantOf, iso, now } from "../clock";
import { config } from "../config";
import { notFound, Problem } from "../problems";
import { versionContent } from "../quiz-versions";
import { note } from "../record";
import type { Viewer } from "../viewer";
import { allowanceOf, type OpenedAttempt, openAttempt, windowOf } from "./access";

/** Whether an attempt may be taken back by its student now. */
export async function takeBackRuling(
  opened: OpenedAttempt,
  db: Queryable = database(),
): Promise<TakeBackRuling> {
  const { attempt: row, quiz } = opened;
  const { rules } = await versionContent(row.versionId);
  const ruling = rulingOnTakeBack({
    allowed: rules.takeBack ?? false,
    handedInBy: row.handedInBy,
    now: now(),
    due: windowOf(quiz, allowanceOf(opened.allowance)).due,
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
  return other
    ? {
        may: false,
        rule: "another-runs",
        words: "Another attempt at this quiz is running; hand that in first.",
      }
    : ruling;
}

/** Takes a hand-in back: the same attempt runs again, with its answers and its clock; the slip stays. */
export async function takeBack(viewer: Viewer, attemptId: string): Promise<void> {
  const opened = await openAttempt(viewer, attemptId);
  await database().transaction(async (tx) => {
    const [row] = await tx.select().from(attempt).where(eq(attempt.id, attemptId)).for("update");
    if (!row) throw notFound();
    if (row.handedInAt === null) return;
    const ruling = await takeBackRuling({ ...opened, attempt: row }, tx);
    if (!ruling.may) throw new Problem(409, ruling.rule, ruling.words);
    await tx
      .update(attempt)
      .set({ handedInAt: null, handedInBy: null, earned: null, awaited: null })
      .where(eq(attempt.id, attemptId));
    await note(tx, {
      actorId: viewer.id,
      action: "taken back",
      subject: "attempt",
      subjectId: attemptId,
      details: { handedInAt: iso(row.handedInAt.getTime()) },
    });
  });
}
