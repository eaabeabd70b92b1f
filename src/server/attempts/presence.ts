import { and, desc, eq, inArray, isNull, sql } from "drizzle-orm";
import { SECOND } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt, record } from "@/data/schema";
import { now } from "../clock";
import { log } from "../log";

/** A reload is no leaving: who is back so soon was never away. */
const AWAY_AFTER = 5 * SECOND;

export const LEFT = "left the desk";
export const CAME_BACK = "came back to the desk";

/** How many desks of an attempt are open in this process, and those that closed just now. */
const desks = new Map<string, number>();
const leaving = new Map<string, NodeJS.Timeout>();

async function noteIf(attemptId: string, personId: string, action: string, at: number): Promise<void> {
  try {
    const last = database()
      .select({ action: record.action })
      .from(record)
      .where(and(eq(record.subjectId, attemptId), inArray(record.action, [LEFT, CAME_BACK])))
      .orderBy(desc(record.at), desc(record.id))
      .limit(1);
    const [running] = await database()
      .select({ last: sql<string | null>`(${last})` })
      .from(attempt)
      .where(and(eq(attempt.id, attemptId), isNull(attempt.handedInAt)));
    // Coming back needs a leaving before, and there are no two of the same in a row.
    if (!running || (running.last ?? CAME_BACK) === action) return;
    await database()
      .insert(record)
      .values({
        actorId: personId,
        action,
        subject: "attempt",
        subjectId: attemptId,
        details: {},
        at: new Date(at),
      });
  } catch (error) {
    // It is a remark in the record and holds up nothing.
    log.warn({ err: error, attemptId }, "a leaving or coming back could not be noted");
  }
}

/** A desk of an attempt is connected. */
export function deskOpened(attemptId: string, personId: string): void {
  desks.set(attemptId, (desks.get(attemptId) ?? 0) + 1);
  const wasLeaving = leaving.get(attemptId);
  if (wasLeaving) {
    clearTimeout(wasLeaving);
    leaving.delete(attemptId);
  } else void noteIf(attemptId, personId, CAME_BACK, now());
}

/** A desk of an attempt closed or lost its connection; with the last one its student has left, unless they are soon back. */
export function deskClosed(attemptId: string, personId: string): void {
  const left = (desks.get(attemptId) ?? 1) - 1;
  if (left > 0) {
    desks.set(attemptId, left);
    return;
  }
  desks.delete(attemptId);
  const at = now();
  const timer = setTimeout(() => {
    leaving.delete(attemptId);
    void noteIf(attemptId, personId, LEFT, at);
  }, AWAY_AFTER);
  leaving.set(attemptId, timer);
}

/** The server stops: the desks lose it, but nobody leaves. */
export function forgetDesks(): void {
  for (const timer of leaving.values()) clearTimeout(timer);
  leaving.clear();
  desks.clear();
}
