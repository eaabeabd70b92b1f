import { and, eq } from "drizzle-orm";
import type { Queryable } from "@/data/database";
import { handMarking, handMarkingLog } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { now } from "../base/clock";

/**
 * What a marker decided of an answer was decided of other words than stand there now: it is to be decided again, and no page
 * that shows the earlier words can write over that. What was said of it stays. The attempt's row is locked by the caller.
 *
 * @param authorId whose doing it is; null: that of whoever wrote it last
 */
export async function lookAgain(
  db: Queryable,
  { attemptId, slot }: { readonly attemptId: string; readonly slot: number },
  authorId: string | null,
): Promise<void> {
  const where = and(eq(handMarking.attemptId, attemptId), eq(handMarking.slot, slot));
  const [held] = await db.select().from(handMarking).where(where);
  if (!held) return;
  const at = new Date(now());
  const again = {
    ...held,
    work: { ...held.work, criteria: {}, marks: null },
    done: false,
    version: held.version + 1,
    device: newId(),
    revision: 1,
    authorId: authorId ?? held.authorId,
    writtenAt: at,
    savedAt: at,
    returnedVersion: null,
  };
  await db.update(handMarking).set(again).where(where);
  const { returnedVersion: _, done: __, answerDigest: ___, ...logged } = again;
  await db.insert(handMarkingLog).values(logged);
}
