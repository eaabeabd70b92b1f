import { and, asc, gt, inArray, isNotNull, isNull, or, sql } from "drizzle-orm";
import type { MovedEnd } from "@/core/allowances/times-view";
import { deadlineOf } from "@/core/attempt/deadline";
import { GRACE, type Instant, MINUTE } from "@/core/time/instants";
import type { Database } from "@/data/database";
import { attempt, person, quiz } from "@/data/schema";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";
import { allowancesIn, windowOf } from "../access/allowances";
import { instantOf, iso, now } from "../base/clock";
import { config } from "../base/config";
import { signalAttempts } from "../base/desk-events";
import { badInput } from "../base/problems";
import { noteAll } from "../base/record";

/** Nobody who writes is left with less, in ms, by a change of times: to end an attempt is another deed. */
const LEAST_LEFT = MINUTE;

/** Who changes times, and why; without a reason it is only looked over: nobody waits for that, and nothing is written. */
export interface TimesChange {
  readonly actorId: string;
  readonly reason: string | null;
}

/**
 * Quizzes of which the times are changed, held until the end of the transaction: no attempt begins, and no other such change is
 * made, meanwhile.
 */
export async function holdQuizzes(tx: Database, quizIds: readonly string[], { reason }: TimesChange) {
  if (quizIds.length === 0) return [];
  const found = tx
    .select()
    .from(quiz)
    .where(inArray(quiz.id, [...quizIds]))
    .orderBy(asc(quiz.id));
  return reason === null ? found : found.for("update");
}

/**
 * Works out the deadlines anew of all attempts at some quizzes, after what they are worked out from has changed: limit,
 * window, allowances. Those that have ended too, as they may run again. Returns the running ones whose end has moved.
 * @throws Problem where someone who writes would be left without time
 */
export async function moveDeadlines(
  tx: Database,
  quizzes: readonly (typeof quiz.$inferSelect)[],
  { actorId, reason }: TimesChange,
): Promise<MovedEnd[]> {
  const byId = new Map(quizzes.map((each) => [each.id, each]));
  if (byId.size === 0) return [];
  const at = now();
  const found = tx
    .select({ attempt, name: person.name })
    .from(attempt)
    .innerJoin(person, sql`${person.id} = ${attempt.personId}`)
    .where(
      and(
        inArray(attempt.quizId, [...byId.keys()]),
        or(
          isNotNull(attempt.handedInAt),
          isNull(attempt.deadline),
          // Within the grace its answers still arrive: it has not ended.
          gt(attempt.deadline, new Date(at - GRACE)),
        ),
      ),
    )
    .orderBy(asc(attempt.id));
  const rows = await (reason === null ? found : found.for("update", { of: attempt }));
  const allowed = await allowancesIn([...byId.keys()]);
  const changed = rows.flatMap(({ attempt: row, name }) => {
    const set = byId.get(row.quizId);
    if (!set) return [];
    const own = allowed(set.id, row.personId);
    const from = instantOf(row.deadline);
    const to = deadlineOf({
      start: row.startedAt.getTime(),
      limitMinutes: set.settings.timeLimit ?? null,
      allowance: own,
      closes: windowOf(set, own).closes,
      closingCuts: set.settings.closingCutsClock ?? true,
      added: row.addedMs,
    });
    return from === to
      ? []
      : [{ id: row.id, name, title: set.title, from, to, runs: row.handedInAt === null }];
  });
  const running = changed.filter(({ runs }) => runs);
  refuseTooShort(running, at);
  if (reason !== null && changed.length > 0) await writeMoved(tx, changed, { actorId, reason });
  return running
    .map(({ name, title, from, to }) => ({ name, title, from, to }))
    .sort((a, b) => a.name.localeCompare(b.name));
}

/** An attempt whose deadline moves. */
interface Moved extends MovedEnd {
  readonly id: string;
  readonly runs: boolean;
}

/** Writes deadlines that have moved, puts those of running attempts on record, and tells their desks. */
async function writeMoved(
  tx: Database,
  changed: readonly Moved[],
  { actorId, reason }: { readonly actorId: string; readonly reason: string },
): Promise<void> {
  const running = changed.filter(({ runs }) => runs);
  await tx.execute(sql`update attempt set deadline = moved.deadline
    from jsonb_to_recordset(${JSON.stringify(
      changed.map(({ id, to }) => ({ id, deadline: to === null ? null : iso(to) })),
    )}::jsonb) as moved(id uuid, deadline timestamptz)
    where attempt.id = moved.id`);
  await noteAll(
    tx,
    running.map(({ id, from, to }) => ({
      actorId,
      action: "deadline moved",
      subject: "attempt" as const,
      subjectId: id,
      details: {
        from: from === null ? null : iso(from),
        to: to === null ? null : iso(to),
        reason,
      },
    })),
  );
  await signalAttempts(
    tx,
    running.map(({ id }) => id),
  );
}

function refuseTooShort(
  running: readonly { readonly name: string; readonly from: Instant | null; readonly to: Instant | null }[],
  at: Instant,
): void {
  const short = running.filter(
    ({ from, to }) => to !== null && (from === null || to < from) && to < at + LEAST_LEFT,
  );
  const [first] = short;
  if (!first) return;
  throw badInput(
    t("server.quizzes.move-deadlines.would-end-at-once", {
      name: first.name,
      others: short.length - 1,
      until: first.from === null ? "-" : dayAndTime(first.from, config.zone),
    }),
  );
}
