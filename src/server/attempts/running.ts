import { eq } from "drizzle-orm";
import { GRACE } from "@/core/time/instants";
import { dayAndTime } from "@/core/time/words";
import type { Queryable } from "@/data/database";
import { attempt } from "@/data/schema";
import { now } from "../clock";
import { config } from "../config";
import { notFound, Problem } from "../problems";

/** The row of an attempt that can still be written, locked. @throws Problem once it is handed in or its time is up. */
export async function lockRunning(db: Queryable, attemptId: string): Promise<typeof attempt.$inferSelect> {
  const [row] = await db.select().from(attempt).where(eq(attempt.id, attemptId)).for("update");
  if (!row) throw notFound();
  const ended = row.handedInAt?.getTime() ?? row.deadline?.getTime() ?? null;
  const isOver = row.handedInAt !== null || (row.deadline !== null && now() > row.deadline.getTime() + GRACE);
  if (isOver && ended !== null) {
    throw new Problem(
      409,
      "handed-in",
      `This attempt was handed in ${dayAndTime(ended, config.zone)}; it can no longer be changed.`,
    );
  }
  return row;
}
