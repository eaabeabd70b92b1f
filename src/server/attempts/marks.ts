import { and, asc, desc, eq } from "drizzle-orm";
import type { MarkedQuestion } from "@/core/kinds/kind";
import { exact, stored, sum } from "@/core/numbers/exact";
import type { Said } from "@/core/said";
import type { Instant } from "@/core/time/instants";
import type { Queryable } from "@/data/database";
import { attempt, mark } from "@/data/schema";
import { newId } from "@/data/schema/columns";

/** A mark that takes the place of the one that a slot has. */
export interface NewMark {
  readonly slot: number;
  readonly detail: MarkedQuestion;
  readonly source: "rule" | "hand";
  /** Read by the student: what an instructor wrote, or a sentence as it is meant. */
  readonly reason: Said;
  readonly levels?: Readonly<Record<string, string>>;
  readonly markedBy: string | null;
  readonly at: Instant;
}

/** A marked question as the columns of a mark hold it. */
export const markColumns = (detail: MarkedQuestion) => ({
  marks: stored(exact(detail.marks)),
  awaiting: stored(exact(detail.awaiting)),
  maximum: stored(exact(detail.maximum)),
  detail,
});

/** The marks that hold in an attempt now, by slot. */
export async function currentMarks(db: Queryable, attemptId: string) {
  return db
    .selectDistinctOn([mark.slot])
    .from(mark)
    .where(eq(mark.attemptId, attemptId))
    .orderBy(asc(mark.slot), desc(mark.added));
}

/** Sets a mark anew and adds the attempt up again; what was there stays as history. The caller holds the attempt's lock. */
export async function setMark(db: Queryable, attemptId: string, change: NewMark): Promise<void> {
  const { slot, detail, source, reason, levels, markedBy, at } = change;
  const [before] = await db
    .select({ handIn: mark.handIn })
    .from(mark)
    .where(and(eq(mark.attemptId, attemptId), eq(mark.slot, slot)))
    .orderBy(desc(mark.added))
    .limit(1);
  if (!before) throw new Error(`Attempt ${attemptId} has no mark in slot ${slot}.`);
  await db.insert(mark).values({
    attemptId,
    slot,
    id: newId(),
    ...markColumns(detail),
    source,
    handIn: before.handIn,
    reason,
    ...(levels ? { levels } : {}),
    markedBy,
    createdAt: new Date(at),
  });
  const holding = await currentMarks(db, attemptId);
  const total = (pick: (marked: MarkedQuestion) => string) =>
    stored(sum(holding.map((each) => exact(pick(each.detail)))));
  await db
    .update(attempt)
    .set({
      earned: total(({ marks }) => marks),
      awaited: total(({ awaiting }) => awaiting),
      maximum: total(({ maximum }) => maximum),
    })
    .where(eq(attempt.id, attemptId));
}
