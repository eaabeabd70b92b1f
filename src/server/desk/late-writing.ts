import { and, asc, eq, isNull } from "drizzle-orm";
import { slotAccessOn } from "@/core/attempt/order";
import { deliveryOf } from "@/core/journal/late-writing";
import { writtenOrder } from "@/core/journal/merge";
import { KEY } from "@/core/quiz/contradictions";
import type { Instant } from "@/core/time/instants";
import { inTransaction, type Queryable } from "@/data/database";
import { type EntryToSave, loggedAlready } from "@/data/queries/save";
import { answer, answerLog, type attempt, lateWriting } from "@/data/schema";
import { lockAttempt } from "../attempts/lock-attempt";
import { savePlanOf } from "../attempts/save-plan";
import { canonicalJson } from "../attempts/slip-code";
import { shownTo } from "../reveal/revealed";

/** More than any device leaves behind; a bound against abuse. */
const MOST_KEPT = 500;

interface SafeNow {
  readonly slot: number;
  readonly device: string;
  readonly revision: number;
}

type LateRow = typeof lateWriting.$inferSelect;

const sameWriting = (row: LateRow, entry: EntryToSave): boolean =>
  row.slot === entry.slot &&
  row.device === entry.device &&
  row.revision === entry.revision &&
  canonicalJson([row.answer, row.ribbon, row.ruledOut]) ===
    canonicalJson([entry.answer, entry.ribbon, entry.ruledOut]);

/**
 * Keeps apart what a device wrote before the end but delivers after it; returns the revisions that are safe now. What
 * was saved in time already, word for word, and is only sent again, is safe too but no late writing. With it is kept what
 * its student could see when it came: the device's own word is all that says when it was written. Once the right answers
 * are shown to them, nothing is taken.
 */
export async function keepLateWriting(
  attemptId: string,
  entries: readonly EntryToSave[],
  ended: Instant,
  at: Instant,
): Promise<{ readonly late: readonly SafeNow[]; readonly keyIsShown: boolean }> {
  const inTime = entries.filter(
    ({ writtenAt }) =>
      deliveryOf({ writtenAt: Date.parse(writtenAt) }, Number.POSITIVE_INFINITY, ended) === "late-writing",
  );
  if (inTime.length === 0) return { late: [], keyIsShown: false };
  return inTransaction(async (tx) => {
    const row = await lockAttempt(tx, attemptId);
    // Taken back meanwhile: it runs again, and the device sends it again, as it sends anything.
    if (!row || row.handedInAt === null) return { late: [], keyIsShown: false };
    const saved = await loggedAlready(attemptId, inTime);
    const shown = await shownTo(row.personId, row);
    const keyIsShown = KEY.some((what) => shown.includes(what));
    const apart = await tx.select().from(lateWriting).where(eq(lateWriting.attemptId, attemptId));
    const known = inTime.filter((entry) => apart.some((each) => sameWriting(each, entry)));
    const fresh = keyIsShown
      ? []
      : inTime
          .filter((entry) => !saved.includes(entry) && !known.includes(entry))
          .slice(0, Math.max(0, MOST_KEPT - apart.length));
    const added =
      fresh.length === 0
        ? []
        : await tx
            .insert(lateWriting)
            .values(
              fresh.map(({ slot, device, revision, answer: written, ribbon, ruledOut, writtenAt }) => ({
                attemptId,
                slot,
                device,
                revision,
                answer: written,
                ribbon,
                ruledOut: [...ruledOut],
                writtenAt: new Date(writtenAt),
                arrivedAt: new Date(at),
                shown,
              })),
            )
            .onConflictDoNothing()
            .returning();
    const safe = inTime.filter(
      (entry) =>
        saved.includes(entry) || known.includes(entry) || added.some((each) => sameWriting(each, entry)),
    );
    const late = safe.map(({ slot, device, revision }) => ({ slot, device, revision }));
    return { late, keyIsShown: keyIsShown && late.length < inTime.length };
  });
}

/**
 * Makes late writing part of an attempt that was taken back: all of it goes into the log, and slot by slot the later
 * written stands. What was written to a question that is closed stays apart, as does what an instructor has decided on. The attempt's row is locked by the caller.
 * Returns the slots that changed.
 */
export async function takeInLateWriting(
  db: Queryable,
  row: typeof attempt.$inferSelect,
): Promise<readonly number[]> {
  const plan = await savePlanOf(row.id);
  const late = await db
    .select()
    .from(lateWriting)
    .where(and(eq(lateWriting.attemptId, row.id), isNull(lateWriting.decision)))
    .orderBy(asc(lateWriting.slot), asc(lateWriting.writtenAt));
  const isOpen = ({ slot }: LateRow) => {
    const isDone = row.told.includes(slot) || row.checkedOff.includes(slot);
    return plan && slotAccessOn(plan.rule, plan.pageOf[slot - 1] ?? 0, row.page, isDone) === "open";
  };
  const open = late.filter(isOpen);
  if (open.length === 0) return [];
  const standing = await db.select().from(answer).where(eq(answer.attemptId, row.id));
  const order = (each: Pick<LateRow, "writtenAt" | "device" | "revision">) => ({
    ...each,
    writtenAt: each.writtenAt.getTime(),
  });
  const changed = new Set<number>();
  const stands = new Map<number, Pick<LateRow, "writtenAt" | "device" | "revision">>(
    standing.map((each) => [each.slot, each]),
  );
  for (const each of open) {
    const { attemptId, slot, device, revision, answer: given, ribbon, ruledOut, writtenAt, arrivedAt } = each;
    const what = { answer: given, ribbon, ruledOut, writtenAt, savedAt: arrivedAt };
    const saved = { attemptId, slot, device, revision, ...what };
    const logged = await db.insert(answerLog).values(saved).onConflictDoNothing().returning();
    const held = stands.get(each.slot);
    // Where its number is taken by another change, that one is in the log and this one stays apart.
    if (logged.length === 0) continue;
    await db
      .delete(lateWriting)
      .where(
        and(
          eq(lateWriting.attemptId, row.id),
          eq(lateWriting.slot, each.slot),
          eq(lateWriting.device, each.device),
          eq(lateWriting.revision, each.revision),
        ),
      );
    if (held && writtenOrder(order(held), order(each)) >= 0) continue;
    stands.set(each.slot, each);
    changed.add(each.slot);
    await db
      .insert(answer)
      .values(saved)
      .onConflictDoUpdate({ target: [answer.attemptId, answer.slot], set: saved });
  }
  return [...changed];
}
