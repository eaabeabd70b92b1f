import { and, desc, eq, gt, inArray, isNull, lt, ne, sql } from "drizzle-orm";
import { type Instant, SECOND } from "@/core/time/instants";
import { database, inTransaction, type Queryable } from "@/data/database";
import { attempt, openDesk, record } from "@/data/schema";
import { now } from "../base/clock";
import { signalAttempt } from "../base/desk-events";
import { log } from "../base/log";
import { courseOfSubject } from "../base/record";

/** A reload is not leaving: whoever is back so soon, at whichever process, was never away. */
export const AWAY_AFTER = 5 * SECOND;
/** How often each open desk is noted to be there. */
export const SEEN_EVERY = 15 * SECOND;
/** A desk that was not heard of for so long is gone, with the process that had it. */
export const GONE_AFTER = 40 * SECOND;
/** Since when it has been looked without a break, and when last. */
const watch = { since: 0, last: 0 };

/**
 * Whether it has been looked for long enough that every living desk was noted anew: after an outage of the database, or a
 * sleep of the machine, all of them look as if they were gone.
 */
function hasWatched(at: Instant): boolean {
  if (at - watch.last > SEEN_EVERY) watch.since = at;
  watch.last = at;
  return at - watch.since >= 2 * SEEN_EVERY;
}

export const LEFT = "left the desk";
export const CAME_BACK = "came back to the desk";

/** Whether a desk of an attempt is open in any process. */
async function isOpenAnywhere(db: Queryable, attemptId: string): Promise<boolean> {
  const alive = new Date(now() - GONE_AFTER);
  const [one] = await db
    .select({ stream: openDesk.stream })
    .from(openDesk)
    .where(and(eq(openDesk.attemptId, attemptId), gt(openDesk.seenAt, alive)))
    .limit(1);
  return one !== undefined;
}

/** What was noted last of an attempt's leaving and coming back. */
async function lastNoted(db: Queryable, attemptId: string): Promise<string> {
  const [last] = await db
    .select({ action: record.action })
    .from(record)
    .where(and(eq(record.subjectId, attemptId), inArray(record.action, [LEFT, CAME_BACK])))
    .orderBy(desc(record.at), desc(record.id))
    .limit(1);
  // Coming back needs a leaving before.
  return last?.action ?? CAME_BACK;
}

/** Notes a leaving or a coming back of a running attempt, where that is another one than was noted last. */
async function noteIf(
  db: Queryable,
  { attemptId, personId }: { readonly attemptId: string; readonly personId: string },
  action: string,
  at: Instant,
): Promise<void> {
  // Locked, so that two processes that notice the same do so one after the other.
  const [running] = await db
    .select({ id: attempt.id })
    .from(attempt)
    .where(and(eq(attempt.id, attemptId), isNull(attempt.handedInAt)))
    .for("update");
  if (!running) return;
  // There are no two of the same in a row.
  if ((await lastNoted(db, attemptId)) === action) return;
  await db.insert(record).values({
    actorId: personId,
    action,
    subject: "attempt",
    subjectId: attemptId,
    courseId: courseOfSubject("attempt", attemptId),
    details: {},
    at: new Date(at),
  });
}

/** It is a remark in the record, and holds up nothing. */
async function quietly(work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    log.warn({ err: error }, "a leaving or coming back could not be noted");
  }
}

/** A desk that is connected by a stream of its own. */
export interface OpenDesk {
  /** Its name in the database. */
  readonly stream: string;
  readonly attemptId: string;
  readonly personId: string;
  /** The page as a writer of answers; null where it did not say. */
  readonly device: string | null;
}

/** Tells all desks of an attempt that there is one more or one less; where it has no other, nobody. */
async function tellOthers(attemptId: string, stream: string): Promise<void> {
  const [other] = await database()
    .select({ stream: openDesk.stream })
    .from(openDesk)
    .where(and(eq(openDesk.attemptId, attemptId), ne(openDesk.stream, stream)))
    .limit(1);
  if (other) await signalAttempt(database(), attemptId, null);
}

/** A desk of an attempt is connected, by a stream of its own. */
export const deskOpened = (desk: OpenDesk): Promise<void> =>
  quietly(async () => {
    const { stream, attemptId, personId, device } = desk;
    const seenAt = new Date(now());
    await database()
      .insert(openDesk)
      .values({ stream, attemptId, personId, device, seenAt })
      .onConflictDoUpdate({ target: openDesk.stream, set: { seenAt } });
    await tellOthers(attemptId, stream);
    // Nearly always there is nothing to note, and nothing to lock for it.
    if ((await lastNoted(database(), attemptId)) === CAME_BACK) return;
    await inTransaction((tx) => noteIf(tx, { attemptId, personId }, CAME_BACK, now()));
  });

/** It is still there, also where it was taken for gone meanwhile. */
export const deskSeen = (desk: OpenDesk): Promise<void> =>
  quietly(async () => {
    const { stream } = desk;
    const seen = await database()
      .update(openDesk)
      .set({ seenAt: new Date(now()) })
      .where(eq(openDesk.stream, stream))
      .returning({ stream: openDesk.stream });
    if (seen.length === 0) await deskOpened(desk);
  });

/** A desk closed or lost its connection: with the last one, in any process, its student has left, unless soon back. */
export const deskClosed = ({ stream, attemptId, personId }: OpenDesk): Promise<void> =>
  quietly(async () => {
    const at = now();
    await database().delete(openDesk).where(eq(openDesk.stream, stream));
    await tellOthers(attemptId, stream);
    await new Promise<void>((later) => {
      setTimeout(later, AWAY_AFTER).unref();
    });
    await inTransaction(async (tx) => {
      if (!(await isOpenAnywhere(tx, attemptId))) await noteIf(tx, { attemptId, personId }, LEFT, at);
    });
  });

/** The process stops: its desks come back by themselves, to this one or another. They are left to grow old, and so forgotten. */
export const forgetDesks = (streams: readonly string[]): Promise<void> =>
  quietly(async () => {
    if (streams.length === 0) return;
    // Old enough to be looked at when a desk that comes back has had the time to.
    const seenAt = new Date(now() - GONE_AFTER + 2 * AWAY_AFTER);
    await database()
      .update(openDesk)
      .set({ seenAt })
      .where(inArray(openDesk.stream, [...streams]));
  });

/** Notes the leaving of desks whose process is gone, and of which none came back. Any number of processes may call it. */
export async function noteGoneDesks(): Promise<number> {
  // Asked before it is noted that it was looked: while the database cannot be reached nobody looks.
  await database().execute(sql`select 1`);
  if (!hasWatched(now())) return 0;
  const gone = await database()
    .delete(openDesk)
    .where(lt(openDesk.seenAt, new Date(now() - GONE_AFTER)))
    .returning();
  const last = new Map<string, (typeof gone)[number]>();
  for (const each of gone) {
    const held = last.get(each.attemptId);
    if (!held || held.seenAt < each.seenAt) last.set(each.attemptId, each);
  }
  for (const each of last.values()) {
    await quietly(() =>
      inTransaction(async (tx) => {
        if (await isOpenAnywhere(tx, each.attemptId)) return;
        await noteIf(tx, each, LEFT, each.seenAt.getTime());
      }),
    );
  }
  return gone.length;
}
