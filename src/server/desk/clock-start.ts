import { and, eq, isNull } from "drizzle-orm";
import { type Allowance, deadlineOf } from "@/core/attempt/deadline";
import { type Instant, START_ALLOWANCE } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { attempt, quiz } from "@/data/schema";
import { allowanceFor, windowOf } from "../access/allowances";
import { lockAttempt } from "../attempts/lock-attempt";
import { now } from "../base/clock";

type AttemptRow = typeof attempt.$inferSelect;

/** An attempt with what its deadline is worked out from. */
export interface Clocked {
  readonly attempt: AttemptRow;
  readonly quiz: typeof quiz.$inferSelect;
  readonly allowance: Allowance;
}

/** The deadline of an attempt whose clock starts at a moment: always worked out anew, with all that was added since. */
function deadlineFrom({ attempt: row, quiz: set, allowance: own }: Clocked, start: Instant): Date | null {
  const deadline = deadlineOf({
    start,
    limitMinutes: set.settings.timeLimit ?? null,
    allowance: own,
    closes: windowOf(set, own).closes,
    closingCuts: set.settings.closingCutsClock ?? true,
    added: row.addedMs,
  });
  return deadline === null ? null : new Date(deadline);
}

/** What is to be changed of an attempt's clock; null: nothing. */
type Change = (
  row: AttemptRow,
) => { readonly start: Instant | null; readonly set: Partial<AttemptRow> } | null;

const valuesOf = (known: Clocked, { start, set }: NonNullable<ReturnType<Change>>) => ({
  ...set,
  ...(start === null ? {} : { startedAt: new Date(start), deadline: deadlineFrom(known, start) }),
});

/**
 * Sets when the clock starts. As long as nothing of it has changed since it was read, one statement does it; otherwise it
 * is worked out again under the attempt's lock, so that time added, or a window moved, at the same moment is not lost.
 */
async function startAt(known: Clocked, change: Change): Promise<AttemptRow> {
  const row = known.attempt;
  const wanted = change(row);
  if (!wanted) return row;
  const [set] = await database()
    .update(attempt)
    .set(valuesOf(known, wanted))
    .where(
      and(
        eq(attempt.id, row.id),
        eq(attempt.startedAt, row.startedAt),
        eq(attempt.addedMs, row.addedMs),
        eq(attempt.confirmed, row.confirmed),
        row.deadline === null ? isNull(attempt.deadline) : eq(attempt.deadline, row.deadline),
        row.sentAt === null ? isNull(attempt.sentAt) : eq(attempt.sentAt, row.sentAt),
        isNull(attempt.handedInAt),
      ),
    )
    .returning();
  return set ?? startLocked(row.id, change);
}

async function startLocked(attemptId: string, change: Change): Promise<AttemptRow> {
  return inTransaction(async (tx) => {
    const row = await lockAttempt(tx, attemptId);
    if (!row) throw new Error(`Attempt ${attemptId} is missing.`);
    const wanted = change(row);
    if (!wanted) return row;
    const [found] = await tx
      .select({ quiz, allowance: allowanceFor(row.personId) })
      .from(quiz)
      .where(eq(quiz.id, row.quizId));
    if (!found) throw new Error(`The quiz of attempt ${row.id} is missing.`);
    const [updated] = await tx
      .update(attempt)
      .set(valuesOf({ ...found, attempt: row }, wanted))
      .where(eq(attempt.id, attemptId))
      .returning();
    return updated ?? row;
  });
}

const mayNote = (row: AttemptRow, at: Instant): boolean =>
  row.handedInAt === null && row.sentAt === null && !row.confirmed && row.startedAt.getTime() > at;

/**
 * Notes that questions are being sent: from the first time on the clock waits for the screen, but no longer than the start
 * allowance. Every way that sends a question, or a picture of one, goes through this before.
 */
export const noteSending = (known: Clocked): Promise<AttemptRow> =>
  startAt(known, (row) => {
    const at = now();
    return mayNote(row, at) ? { start: at + START_ALLOWANCE, set: { sentAt: new Date(at) } } : null;
  });

/** The first question is on the screen: the clock starts now, unless it has started already. */
export const confirmStartOf = (known: Clocked): Promise<AttemptRow> =>
  startAt(known, (row) => {
    if (row.confirmed || row.handedInAt !== null) return null;
    const at = now();
    return { start: at < row.startedAt.getTime() ? at : null, set: { confirmed: true } };
  });
