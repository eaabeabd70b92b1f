import { eq } from "drizzle-orm";
import type { Database } from "@/data/database";
import { attempt } from "@/data/schema";

/** An attempt as it stands now, held until the end of the transaction: nobody else writes it meanwhile. */
export async function lockAttempt(
  tx: Pick<Database, "select">,
  attemptId: string,
): Promise<typeof attempt.$inferSelect | null> {
  const [row] = await tx.select().from(attempt).where(eq(attempt.id, attemptId)).for("update");
  return row ?? null;
}
