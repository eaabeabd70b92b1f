import { and, desc, eq } from "drizzle-orm";
import type { Database } from "@/data/database";
import { attempt, slip } from "@/data/schema";
import { forgetDeclared } from "../attempts/stand-ins";
import { now } from "../base/clock";
import { takeInLateWriting } from "./late-writing";

/**
 * A handed-in attempt runs again: the same one, with its answers, and with the late writing that was delivered meanwhile. Its slip
 * stays, and says that it was taken back. The attempt's row is locked by the caller. Returns the slots into which late writing came.
 */
export async function reopenAttempt(tx: Database, row: typeof attempt.$inferSelect): Promise<number[]> {
  await tx
    .update(attempt)
    .set({ handedInAt: null, handedInBy: null, earned: null, awaited: null })
    .where(eq(attempt.id, row.id));
  const [last] = await tx
    .select({ number: slip.number })
    .from(slip)
    .where(eq(slip.attemptId, row.id))
    .orderBy(desc(slip.number))
    .limit(1);
  if (last) {
    await tx
      .update(slip)
      .set({ takenBackAt: new Date(now()) })
      .where(and(eq(slip.attemptId, row.id), eq(slip.number, last.number)));
  }
  await forgetDeclared(tx, row.id);
  return [...(await takeInLateWriting(tx, row))];
}
