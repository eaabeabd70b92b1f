import { and, eq } from "drizzle-orm";
import { deadlineOf } from "@/core/attempt/deadline";
import { type Instant, START_ALLOWANCE } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { allowance, attempt, quiz } from "@/data/schema";
import { now } from "../clock";
import { allowanceOf, windowOf } from "./access";

type AttemptRow = typeof attempt.$inferSelect;

/** The deadline of an attempt whose clock starts at a moment: always worked out anew, with all that was added since. */
async function deadlineFrom(row: AttemptRow, start: Instant): Promise<Date | null> {
  const [found] = await database()
    .select({ quiz, allowance })
    .from(quiz)
    .leftJoin(allowance, and(eq(allowance.quizId, quiz.id), eq(allowance.personId, row.personId)))
    .where(eq(quiz.id, row.quizId));
  if (!found) throw new Error(`The quiz of attempt ${row.id} is missing.`);
  const own = allowanceOf(found.allowance);
  const { settings } = found.quiz;
  const deadline = deadlineOf({
    start,
    limitMinutes: settings.timeLimit ?? null,
    allowance: own,
    closes: windowOf(found.quiz, own).closes,
    closingCuts: settings.closingCutsClock ?? true,
    added: row.addedMs,
  });
  return deadline === null ? null : new Date(deadline);
}

/** Sets when the clock starts, under the attempt's lock, so that time added at the same moment is not lost. */
async function startAt(
  attemptId: string,
  change: (row: AttemptRow) => { readonly start: Instant | null; readonly set: Partial<AttemptRow> } | null,
): Promise<AttemptRow> {
  return inTransaction(async (tx) => {
    const [row] = await tx.select().from(attempt).where(eq(attempt.id, attemptId)).for("update");
    if (!row) throw new Error(`Attempt ${attemptId} is missing.`);
    const wanted = change(row);
    if (!wanted) return row;
    const { start, set } = wanted;
    const times =
      start === null ? {} : { startedAt: new Date(start), deadline: await deadlineFrom(row, start) };
    const [updated] = await tx
      .update(attempt)
      .set({ ...set, ...times })
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
export async function noteSending(row: AttemptRow): Promise<AttemptRow> {
  if (!mayNote(row, now())) return row;
  return startAt(row.id, (held) => {
    const at = now();
    return mayNote(held, at) ? { start: at + START_ALLOWANCE, set: { sentAt: new Date(at) } } : null;
  });
}

/** The first question is on the screen: the clock starts now, unless it has started already. */
export async function confirmStartOf(row: AttemptRow): Promise<AttemptRow> {
  if (row.confirmed || row.handedInAt !== null) return row;
  return startAt(row.id, (held) => {
    if (held.confirmed || held.handedInAt !== null) return null;
    const at = now();
    return { start: at < held.startedAt.getTime() ? at : null, set: { confirmed: true } };
  });
}
