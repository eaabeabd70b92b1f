import { and, eq, isNull, lt } from "drizzle-orm";
import type { HandedInBy } from "@/core/attempt/state";
import { markAttempt } from "@/core/marking/mark-attempt";
import { exact, stored } from "@/core/numbers/exact";
import type { QuizFile } from "@/core/quiz/quiz-file";
import { GRACE, type Instant } from "@/core/time/instants";
import { type Database, database, type Queryable } from "@/data/database";
import { answer, attempt, mark, slip } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { iso, now } from "../clock";
import { versionContent } from "../quiz-versions";
import { note } from "../record";
import { answerDigest, slipCode } from "./slips";

type AttemptRow = typeof attempt.$inferSelect;

/** Marks what stands in an attempt, writes its slip, and closes it. The attempt's row is locked by the caller. */
export async function handIn(
  db: Queryable,
  row: AttemptRow,
  by: HandedInBy,
  at: Instant,
  actorId: string | null,
  content?: QuizFile,
): Promise<void> {
  const quiz = content ?? (await versionContent(row.versionId));
  const kept = await db
    .select({ slot: answer.slot, answer: answer.answer })
    .from(answer)
    .where(eq(answer.attemptId, row.id));
  const work = new Map(kept.map((each) => [each.slot, { answer: each.answer }]));
  const { slots, earned, awaited, maximum } = markAttempt(quiz, row.seed, work);
  const handedInAt = new Date(at);
  const digests = slots.map((each) => answerDigest(each.answer));
  await db.insert(mark).values(
    slots.map(({ slot, marked: detail }) => ({
      attemptId: row.id,
      slot,
      id: newId(),
      marks: stored(exact(detail.marks)),
      awaiting: stored(exact(detail.awaiting)),
      maximum: stored(exact(detail.maximum)),
      source: "rule" as const,
      detail,
      reason: "marked at the hand-in",
    })),
  );
  await db.insert(slip).values({
    attemptId: row.id,
    number: 1,
    code: slipCode({ attemptId: row.id, number: 1, handedInAt: iso(at), digests }),
    handedInAt,
    handedInBy: by,
    answered: slots.filter((each) => each.answer !== null).length,
    questions: slots.length,
    digests,
  });
  await db
    .update(attempt)
    .set({
      handedInAt,
      handedInBy: by,
      earned: stored(earned),
      awaited: stored(awaited),
      maximum: stored(maximum),
    })
    .where(eq(attempt.id, row.id));
  await note(db, {
    actorId,
    action: "handed in",
    subject: "attempt",
    subjectId: row.id,
    details: { by, at: iso(at), answered: digests.filter(Boolean).length },
  });
}

/** Whether an attempt's time is up beyond the network's grace. */
export const isOverdue = (row: { handedInAt: Date | null; deadline: Date | null }, at: Instant): boolean =>
  row.handedInAt === null && row.deadline !== null && row.deadline.getTime() + GRACE < at;

/** Hands an attempt in by the clock if its time is up; answers whether it did. Safe to call from anywhere, any number of times. */
export async function settle(attemptId: string, db: Database = database()): Promise<boolean> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select().from(attempt).where(eq(attempt.id, attemptId)).for("update");
    if (!row?.deadline || !isOverdue(row, now())) return false;
    await handIn(tx, row, "clock", row.deadline.getTime(), null);
    return true;
  });
}

/** Hands in up to `most` attempts whose time is up, leaving those that another process has in hand; answers how many. */
export async function sweep(most = 50, db: Database = database()): Promise<number> {
  return db.transaction(async (tx) => {
    const due = await tx
      .select()
      .from(attempt)
      .where(and(isNull(attempt.handedInAt), lt(attempt.deadline, new Date(now() - GRACE))))
      .orderBy(attempt.deadline)
      .limit(most)
      .for("update", { skipLocked: true });
    for (const row of due) {
      if (row.deadline) await handIn(tx, row, "clock", row.deadline.getTime(), null);
    }
    return due.length;
  });
}

/**
 * Hands an attempt in for its student. Doing it twice hands in once. Between the deadline and the end of the grace it is
 * the clock that hands in, at the deadline: time taken never exceeds the time allowed.
 */
export async function handInByStudent(attemptId: string, personId: string): Promise<void> {
  await database().transaction(async (tx) => {
    const [row] = await tx.select().from(attempt).where(eq(attempt.id, attemptId)).for("update");
    if (!row || row.handedInAt !== null) return;
    const at = now();
    const deadline = row.deadline?.getTime() ?? Number.POSITIVE_INFINITY;
    // Handed in before the clock was confirmed: no time was taken.
    if (row.startedAt.getTime() > at) {
      await tx
        .update(attempt)
        .set({ startedAt: new Date(at), confirmed: true })
        .where(eq(attempt.id, row.id));
    }
    if (at > deadline) await handIn(tx, row, "clock", deadline, null);
    else await handIn(tx, row, "student", at, personId);
  });
}
