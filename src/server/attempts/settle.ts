import { and, count, eq, isNull, lt } from "drizzle-orm";
import type { HandedInBy } from "@/core/attempt/state";
import { markAttempt } from "@/core/marking/mark-attempt";
import { stored } from "@/core/numbers/exact";
import type { QuizFile } from "@/core/quiz/quiz-file";
import { GRACE, type Instant } from "@/core/time/instants";
import { type Database, database, type Queryable } from "@/data/database";
import { attempt, mark, slip } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { iso, now } from "../clock";
import { versionContent } from "../quiz-versions";
import { note } from "../record";
import { declareStandIn } from "../student/stand-ins";
import { markColumns } from "./hand-marks";
import { answerDigest, slipCode } from "./slips";
import { workOf } from "./work";

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
  const { answers, checks } = await workOf(db, row.id, quiz);
  const work = new Map(
    [...answers].map(([slot, answer]) => [slot, { answer, checks: checks.get(slot) ?? [] }]),
  );
  // Each hand-in of an attempt that was taken back has its own slip.
  const [before] = await db.select({ slips: count() }).from(slip).where(eq(slip.attemptId, row.id));
  const number = (before?.slips ?? 0) + 1;
  const { slots, earned, awaited, maximum, standsIn } = markAttempt(quiz, row.seed, work);
  const handedInAt = new Date(at);
  const digests = slots.map((each) => answerDigest(each.answer));
  await db.insert(mark).values(
    slots.map(({ slot, marked: detail }) => ({
      attemptId: row.id,
      slot,
      id: newId(),
      ...markColumns(detail),
      source: "rule" as const,
      handIn: number,
      createdAt: handedInAt,
      reason: number === 1 ? "marked at the hand-in" : `marked at hand-in ${number}`,
    })),
  );
  await db.insert(slip).values({
    attemptId: row.id,
    number,
    code: slipCode({ attemptId: row.id, number, handedInAt: iso(at), digests }),
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
  if (standsIn !== null) await declareStandIn(db, row, standsIn);
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

/** A hand-in that was pressed longer ago than this waited for a connection, which the record says. */
const PRESSED_EARLIER = 3_000;

/**
 * Hands an attempt in for its student. Doing it twice hands in once. Between the deadline and the end of the grace it is
 * the clock that hands in, at the deadline: time taken never exceeds the time allowed. `pressedAt` is when the device
 * says that it was pressed; it decides nothing and is only put on record.
 */
export async function handInByStudent(
  attemptId: string,
  personId: string,
  pressedAt: Instant | null = null,
): Promise<void> {
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
    if (pressedAt !== null && at - pressedAt > PRESSED_EARLIER) {
      const details = { pressedAt: iso(pressedAt), arrivedAt: iso(at) };
      await note(tx, {
        actorId: personId,
        action: "hand-in waited",
        subject: "attempt",
        subjectId: row.id,
        details,
      });
    }
    if (at > deadline) await handIn(tx, row, "clock", deadline, null);
    else await handIn(tx, row, "student", at, personId);
  });
}
