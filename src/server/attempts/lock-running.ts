import type { Queryable } from "@/data/database";
import type { attempt } from "@/data/schema";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { now } from "../base/clock";
import { config } from "../base/config";
import { notFound, Problem } from "../base/problems";
import { lockAttempt } from "./lock-attempt";
import { isOverdue } from "./settle";

/** @throws Problem when an attempt is handed in or its time is up. */
export function refuseEnded(row: Pick<typeof attempt.$inferSelect, "handedInAt" | "deadline">): void {
  const ended = row.handedInAt ?? (isOverdue(row, now()) ? row.deadline : null);
  if (!ended) return;
  throw new Problem(
    409,
    "handed-in",
    t("server.attempts.lock-running.this-attempt-was-handed-in-it", {
      when: dayAndTime(ended.getTime(), config.zone),
    }),
  );
}

/** The row of an attempt that can still be written, locked. @throws Problem once it is handed in or its time is up. */
export async function lockRunning(db: Queryable, attemptId: string): Promise<typeof attempt.$inferSelect> {
  const row = await lockAttempt(db, attemptId);
  if (!row) throw notFound();
  refuseEnded(row);
  return row;
}
