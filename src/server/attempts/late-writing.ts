import { and, eq, inArray, sql } from "drizzle-orm";
import { deliveryOf } from "@/core/journal/late-writing";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import type { EntryToSave } from "@/data/queries/save";
import { answerLog, lateWriting } from "@/data/schema";

/** More than any device leaves behind; a bound against abuse. */
const MOST_KEPT = 500;

/**
 * Keeps apart what a device wrote before the end but delivers after it; answers the revisions that are safe now. What
 * was saved in time already, and is only sent again, is safe too but no late writing.
 */
export async function keepLateWriting(
  attemptId: string,
  entries: readonly EntryToSave[],
  ended: Instant,
  at: Instant,
): Promise<{ readonly slot: number; readonly device: string; readonly revision: number }[]> {
  const inTime = entries.filter(
    (entry) =>
      deliveryOf({ writtenAt: Date.parse(entry.writtenAt) }, Number.POSITIVE_INFINITY, ended) ===
      "late-writing",
  );
  if (inTime.length === 0) return [];
  const known = await database()
    .select({ slot: answerLog.slot, device: answerLog.device, revision: answerLog.revision })
    .from(answerLog)
    .where(
      and(
        eq(answerLog.attemptId, attemptId),
        inArray(
          answerLog.slot,
          inTime.map((entry) => entry.slot),
        ),
      ),
    );
  const isKnown = (entry: EntryToSave) =>
    known.some(
      ({ slot, device, revision }) =>
        slot === entry.slot && device === entry.device && revision === entry.revision,
    );
  const late = inTime.filter((entry) => !isKnown(entry));
  const [count] = await database()
    .select({ kept: sql<number>`count(*)::int` })
    .from(lateWriting)
    .where(eq(lateWriting.attemptId, attemptId));
  if (late.length > 0 && (count?.kept ?? 0) + late.length <= MOST_KEPT) {
    await database()
      .insert(lateWriting)
      .values(
        late.map(({ slot, device, revision, answer, writtenAt }) => ({
          attemptId,
          slot,
          device,
          revision,
          answer,
          writtenAt: new Date(writtenAt),
          arrivedAt: new Date(at),
        })),
      )
      .onConflictDoNothing();
  }
  return inTime.map(({ slot, device, revision }) => ({ slot, device, revision }));
}
