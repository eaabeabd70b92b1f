import { and, asc, desc, eq, inArray } from "drizzle-orm";
import type { Queryable } from "@/data/database";
import { mark } from "@/data/schema";

/** What the rules said last of the slots of some attempts, by attempt and slot, whatever a person gave since. */
export async function ruleMarksOf(db: Queryable, attemptIds: readonly string[]) {
  if (attemptIds.length === 0) return new Map<string, typeof mark.$inferSelect>();
  const rows = await db
    .selectDistinctOn([mark.attemptId, mark.slot])
    .from(mark)
    .where(and(inArray(mark.attemptId, [...attemptIds]), eq(mark.source, "rule")))
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
  return new Map(rows.map((row) => [`${row.attemptId} ${row.slot}`, row]));
}
