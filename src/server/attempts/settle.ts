import { and, count, eq, gt, inArray, isNull, lt, notInArray, sql } from "drizzle-orm";
import { answeredWords, type HandedInBy } from "@/core/attempt/answered-words";
import { countedSlots, type MarkedAttempt, markAttempt } from "@/core/marking/mark-attempt";
import { stored } from "@/core/numbers/exact";
import { said } from "@/core/said";
import { GRACE, type Instant, MINUTE } from "@/core/time/instants";
import { type Database, inTransaction, type Queryable } from "@/data/database";
import { answer, attempt, handMarking, quiz, record, slip } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import { breathe } from "../base/breathe";
import { iso, now } from "../base/clock";
import { signalAttempts } from "../base/desk-events";
import { log } from "../base/log";
import { Problem } from "../base/problems";
import { courseOfSubject, note } from "../base/record";
import { notify } from "../notices/notify";
import { type HeldKeys, heldKeys, holdKeys } from "../quizzes/keys";
import { versionContent } from "../quizzes/versions";
import { worksOf } from "./answers";
import { lockAttempt } from "./lock-attempt";
import { lookAgain } from "./look-again";
import { markColumns } from "./marks";
import { seedOf } from "./seeds";
import { answerDigest, slipCode } from "./slip-code";
import { followDeclaration } from "./stand-ins";

type AttemptRow = typeof attempt.$inferSelect;

/** An attempt that is to be handed in; its row is locked. */
export interface HandIn {
  readonly row: AttemptRow;
  readonly by: HandedInBy;
  readonly at: Instant;
  /** Null: Shizuka itself. */
  readonly actorId: string | null;
}

/** An attempt that was marked, with its next slip. */
interface Marked extends HandIn {
  readonly marked: MarkedAttempt;
  /** Each hand-in of an attempt that was taken back has its own slip. */
  readonly number: number;
  readonly digests: readonly string[];
  readonly keys: HeldKeys;
}

/** How many questions are answered whole, as the desk counts. */
const answeredIn = ({ slots }: MarkedAttempt): number =>
  countedSlots(slots).filter((slot) => slot.isAnswered).length;

/** How many are answered in part only. */
const inPartOf = ({ slots }: MarkedAttempt): number =>
  countedSlots(slots).filter((slot) => slot.answer !== null && !slot.isAnswered).length;

async function markedOf(db: Queryable, handIns: readonly HandIn[]): Promise<Marked[]> {
  const ids = handIns.map(({ row }) => row.id);
  const [works, slips] = await Promise.all([
    worksOf(db, ids),
    db
      .select({ id: slip.attemptId, slips: count() })
      .from(slip)
      .where(inArray(slip.attemptId, ids))
      .groupBy(slip.attemptId),
  ]);
  const marked: Marked[] = [];
  const keysOf = await heldKeys(db, [...new Set(handIns.map(({ row }) => row.quizId))]);
  for (const each of handIns) {
    const { row } = each;
    const content = await versionContent(row.versionId);
    const work = works.get(row.id) ?? new Map();
    const keys = keysOf(row.quizId);
    const result = markAttempt(content, await seedOf(row), work, keys.keyOf(row.versionId));
    const number = (slips.find(({ id }) => id === row.id)?.slips ?? 0) + 1;
    marked.push({
      ...each,
      marked: result,
      keys,
      number,
      digests: result.slots.map((s) => answerDigest(s.answer)),
    });
    if (handIns.length > 1) await breathe();
  }
  return marked;
}

async function insertMarks(db: Queryable, all: readonly Marked[]): Promise<void> {
  const rows = all.flatMap(({ row, at, number, marked, keys }) =>
    marked.slots.map(({ slot, question, marked: detail }) => ({
      attempt_id: row.id,
      slot,
      id: newId(),
      question_id: question.id,
      version_id: keys.versionOf(row.versionId, question.id),
      ...markColumns(detail),
      hand_in: number,
      reason:
        number === 1
          ? said("server.attempts.settle.marked-at-the-hand-in")
          : said("server.attempts.settle.marked-at-hand-in", { number }),
      created_at: iso(at),
    })),
  );
  await db.execute(sql`insert into mark
      (attempt_id, slot, id, question_id, version_id, marks, awaiting, maximum, source, hand_in, detail, reason, created_at)
    select attempt_id, slot, id, question_id, version_id, marks, awaiting, maximum, 'rule', hand_in, detail, reason, created_at
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as new(attempt_id uuid, slot smallint, id uuid,
      question_id text, version_id uuid, marks numeric, awaiting numeric, maximum numeric, hand_in smallint, detail jsonb, reason jsonb, created_at timestamptz)
    order by attempt_id, slot`);
}

async function close(db: Queryable, all: readonly Marked[]): Promise<void> {
  const rows = all.map(({ row, by, at, marked }) => ({
    id: row.id,
    by,
    at: iso(at),
    earned: stored(marked.earned),
    awaited: stored(marked.awaited),
    maximum: stored(marked.maximum),
  }));
  await db.execute(sql`update attempt set handed_in_at = done.at, handed_in_by = done.by::handed_in_by,
      earned = done.earned, awaited = done.awaited, maximum = done.maximum
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb)
      as done(id uuid, by text, at timestamptz, earned numeric, awaited numeric, maximum numeric)
    where attempt.id = done.id`);
}

/** What a marker decided of an answer that was taken back and is handed in with other words is to be decided again. */
async function markersLookAgain(db: Queryable, all: readonly Marked[]): Promise<void> {
  const again = all.filter(({ number }) => number > 1);
  if (again.length === 0) return;
  const held = await db
    .select({ attemptId: handMarking.attemptId, slot: handMarking.slot, digest: handMarking.answerDigest })
    .from(handMarking)
    .where(
      and(
        inArray(
          handMarking.attemptId,
          again.map(({ row }) => row.id),
        ),
        gt(handMarking.slot, 0),
      ),
    );
  for (const { attemptId, slot, digest } of held) {
    const given = again
      .find(({ row }) => row.id === attemptId)
      ?.marked.slots.find((each) => each.slot === slot);
    if (given && answerDigest(given.answer) !== digest) await lookAgain(db, { attemptId, slot }, null);
  }
}

/** What no rule could mark awaits its instructor, who has to know of it. */
async function tellOfFaults(db: Queryable, all: readonly Marked[]): Promise<void> {
  const faulty = all.filter(({ marked }) => marked.faults.length > 0);
  if (faulty.length === 0) return;
  const quizzes = await db
    .select({ id: quiz.id, title: quiz.title, instructorId: quiz.instructorId })
    .from(quiz)
    .where(inArray(quiz.id, [...new Set(faulty.map(({ row }) => row.quizId))]));
  await notify(
    db,
    faulty.flatMap(({ row, marked }) => {
      const set = quizzes.find(({ id }) => id === row.quizId);
      if (!set) return [];
      return marked.faults.map(({ slot, why }) => ({
        personId: set.instructorId,
        kind: "faulty" as const,
        text: said("server.attempts.settle.question-of-an-attempt-at-cannot", {
          slot,
          title: set.title,
          why,
        }),
        path: `/attempts/${row.id}/paper?q=${slot}`,
      }));
    }),
  );
}

/** Whose attempt the clock handed in is told so, with what was answered: they may have been away. */
async function tellOfClock(db: Queryable, all: readonly Marked[]): Promise<void> {
  const byClock = all.filter(({ by }) => by === "clock");
  if (byClock.length === 0) return;
  const quizzes = await db
    .select({ id: quiz.id, title: quiz.title })
    .from(quiz)
    .where(inArray(quiz.id, [...new Set(byClock.map(({ row }) => row.quizId))]));
  await notify(
    db,
    byClock.map(({ row, marked }) => {
      const title = quizzes.find(({ id }) => id === row.quizId)?.title ?? "";
      return {
        personId: row.personId,
        kind: "by-clock" as const,
        text: said("server.attempts.settle.time-was-up-in-the-clock", {
          title,
          answeredWords: answeredWords(
            answeredIn(marked),
            countedSlots(marked.slots).length,
            inPartOf(marked),
          ),
        }),
        path: `/attempts/${row.id}/slip`,
      };
    }),
  );
}

/**
 * Marks what stands in attempts, writes their slips, and closes them; many at once cost a few statements. Their rows are
 * locked by the caller. A question that cannot be marked awaits a person; it stops nothing.
 */
export async function handInAll(db: Queryable, handIns: readonly HandIn[]): Promise<void> {
  if (handIns.length === 0) return;
  await holdKeys(db, [...new Set(handIns.map(({ row }) => row.quizId))]);
  const all = await markedOf(db, handIns);
  await insertMarks(db, all);
  await db.insert(slip).values(
    all.map(({ row, by, at, number, digests, marked }) => ({
      attemptId: row.id,
      number,
      code: slipCode({ attemptId: row.id, number, handedInAt: iso(at), digests }),
      handedInAt: new Date(at),
      handedInBy: by,
      answered: answeredIn(marked),
      inPart: inPartOf(marked),
      questions: countedSlots(marked.slots).length,
      digests: [...digests],
    })),
  );
  await close(db, all);
  await markersLookAgain(db, all);
  for (const { row, marked } of all) {
    if (marked.declares) await followDeclaration(db, row, marked.standsIn);
  }
  await db.insert(record).values(
    all.map(({ row, by, at, actorId, marked }) => ({
      at: new Date(at),
      actorId,
      action: "handed in",
      subject: "attempt",
      subjectId: row.id,
      courseId: courseOfSubject("attempt", row.id),
      details: { by, at: iso(at), answered: answeredIn(marked) },
    })),
  );
  await tellOfFaults(db, all);
  await tellOfClock(db, all);
  await signalAttempts(
    db,
    all.map(({ row }) => row.id),
  );
}

/** Whether an attempt's time is up beyond the network's grace. */
export const isOverdue = (row: { handedInAt: Date | null; deadline: Date | null }, at: Instant): boolean =>
  row.handedInAt === null && row.deadline !== null && row.deadline.getTime() + GRACE < at;

const byClock = (row: AttemptRow): HandIn => ({
  row,
  by: "clock",
  at: row.deadline?.getTime() ?? now(),
  actorId: null,
});

/** Hands an attempt in by the clock if its time is up; returns whether it did. Safe to call from anywhere, any number of times. */
export async function settle(attemptId: string): Promise<boolean> {
  return inTransaction(async (tx) => {
    const row = await lockAttempt(tx, attemptId);
    if (!row || !isOverdue(row, now())) return false;
    await handInAll(tx, [byClock(row)]);
    return true;
  });
}

/** Attempts that could not be handed in, and when they are tried again: they hold up nobody else. */
const failing = new Map<string, Instant>();
const TRIED_AGAIN = MINUTE;

/** Settles each by itself; one that cannot be is reported, tried again later, and stops nothing. Returns how many were. */
export async function settleAll(rows: readonly Pick<AttemptRow, "id">[]): Promise<number> {
  let settled = 0;
  for (const { id } of rows) {
    try {
      if (await settle(id)) settled += 1;
      failing.delete(id);
    } catch (error) {
      failing.set(id, now() + TRIED_AGAIN);
      log.error({ err: error, attemptId: id }, "an attempt could not be handed in by the clock");
    }
  }
  return settled;
}

const overdueNow = (db: Database, most: number) => {
  for (const [id, again] of failing) if (again <= now()) failing.delete(id);
  const held = [...failing.keys()];
  return db
    .select()
    .from(attempt)
    .where(
      and(
        isNull(attempt.handedInAt),
        lt(attempt.deadline, new Date(now() - GRACE)),
        held.length > 0 ? notInArray(attempt.id, held) : undefined,
      ),
    )
    .orderBy(attempt.deadline)
    .limit(most)
    .for("update", { skipLocked: true });
};

/**
 * Hands in up to `most` attempts whose time is up, together, leaving those that another process has in hand; returns how
 * many there were. If that fails, each is handed in by itself.
 */
export async function sweep(most = 50): Promise<number> {
  let due: readonly AttemptRow[] = [];
  try {
    return await inTransaction(async (tx) => {
      due = await overdueNow(tx, most);
      await handInAll(tx, due.map(byClock));
      return due.length;
    });
  } catch (error) {
    log.error({ err: error, attempts: due.length }, "attempts could not be handed in together");
    await settleAll(due);
    return due.length;
  }
}

/** What a desk says of a hand-in that was pressed on it. */
export interface PressedHandIn {
  /** When, by the device; it decides nothing and is only put on record. */
  readonly pressedAt?: Instant | null;
  /** What stood on the screen; null where it was not said. */
  readonly seen?: readonly SeenAnswer[] | null;
}

/** Which change of a slot a desk had when handing in was pressed; nulls: none. */
export interface SeenAnswer {
  readonly slot: number;
  readonly device: string | null;
  readonly revision: number | null;
}

/** Nothing is handed in that was not on the screen: what another device changed meanwhile has to be seen first. @throws Problem */
async function refuseUnseen(db: Queryable, attemptId: string, seen: readonly SeenAnswer[]): Promise<void> {
  const rows = await db
    .select({ slot: answer.slot, device: answer.device, revision: answer.revision })
    .from(answer)
    .where(eq(answer.attemptId, attemptId));
  const held = new Map(rows.map((row) => [row.slot, row]));
  const unseen = seen.filter(({ slot, device, revision }) => {
    const row = held.get(slot);
    return (row?.device ?? null) !== (device?.toLowerCase() ?? null) || (row?.revision ?? null) !== revision;
  });
  if (unseen.length === 0) return;
  const slots = unseen.map(({ slot }) => slot);
  const which =
    slots.length === 1
      ? t("server.attempts.settle.question", { slot: slots[0] ?? 0 })
      : t("server.attempts.settle.questions", { slots: slots.join(t("joint.commas")) });
  throw new Problem(
    409,
    "changed-elsewhere",
    t("server.attempts.settle.nothing-is-handed-in-yet-another", { which }),
    { slots },
  );
}

/** A hand-in that was pressed longer ago than this waited for a connection, which the record says. */
const PRESSED_EARLIER = 3_000;

/**
 * Hands an attempt in for its student. Doing it twice hands in once. Between the deadline and the end of the grace it is
 * the clock that hands in, at the deadline: time taken never exceeds the time allowed.
 */
export async function handInByStudent(
  attemptId: string,
  personId: string,
  { pressedAt = null, seen = null }: PressedHandIn = {},
): Promise<void> {
  await inTransaction(async (tx) => {
    const row = await lockAttempt(tx, attemptId);
    if (!row || row.handedInAt !== null) return;
    const at = now();
    const deadline = row.deadline?.getTime() ?? Number.POSITIVE_INFINITY;
    if (seen !== null && at <= deadline) await refuseUnseen(tx, attemptId, seen);
    // Handed in before the clock was confirmed: no time was taken.
    if (row.startedAt.getTime() > at) {
      await tx
        .update(attempt)
        .set({ startedAt: new Date(at), confirmed: true })
        .where(eq(attempt.id, row.id));
    }
    if (pressedAt !== null && at - pressedAt > PRESSED_EARLIER) {
      await note(tx, {
        actorId: personId,
        action: "hand-in waited",
        subject: "attempt",
        subjectId: row.id,
        details: { pressedAt: iso(pressedAt), arrivedAt: iso(at) },
      });
    }
    if (at > deadline) await handInAll(tx, [byClock(row)]);
    else await handInAll(tx, [{ row, by: "student", at, actorId: personId }]);
  });
}
