import { and, asc, eq, lte, or, sql } from "drizzle-orm";
import { attemptsAllowed, attemptsLeft, attemptsRemain } from "@/core/attempt/attempts-left";
import { REVEALED, type Revealed } from "@/core/quiz/rules";
import { lastAttemptsEnd, REVEALED_WORDS, revealNow, shownByClock } from "@/core/reveal/reveal";
import { type Database, database, type Queryable } from "@/data/database";
import { allowance, attempt, quiz, quizVersion } from "@/data/schema";
import { allowanceOf, windowOf } from "../attempts/access";
import { instantOf, now } from "../clock";
import { config } from "../config";
import { isAssignedTo } from "../quizzes/assigned";
import { type GroupEnds, groupEnds, groupInstants } from "../quizzes/group-ends";
import { type Telling, tell } from "./tell";

type QuizRow = typeof quiz.$inferSelect;

/**
 * Rules that show something by the clock, and of which not everything was told yet. Where only the last attempt shows
 * anything, closing does too: of that "last" is noted.
 */
const waitsForClock = sql`jsonb_array_length(jsonb_path_query_array(${quizVersion.facts}->'reveal',
  '$.* ? (@ == "after-due" || @ == "after-closing" || exists(@.on))'))
  + (case when ${quiz.closes} is not null and (${quizVersion.facts}->'reveal'->>'onlyAfterLastAttempt')::boolean then 1 else 0 end)
  > cardinality(${quiz.shownTold})`;
const hasDate = sql`jsonb_path_exists(${quizVersion.facts}->'reveal', '$.*.on')`;

/** What there is to tell of. */
interface News {
  readonly fresh: readonly Revealed[];
  /** Whether closing has just taken the attempts that were left, and with them what hid the rest. */
  readonly lastEnded: boolean;
}

/** Those who handed in and can now see some of what has come to be shown, each with their last such attempt. */
async function tellingsOf(
  db: Queryable,
  row: QuizRow,
  ends: GroupEnds,
  { fresh, lastEnded }: News,
): Promise<Telling[]> {
  const rows = await db
    .select({ attempt, facts: quizVersion.facts, allowance, assigned: isAssignedTo(attempt.personId) })
    .from(attempt)
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .innerJoin(quizVersion, eq(quizVersion.id, attempt.versionId))
    .leftJoin(allowance, and(eq(allowance.quizId, attempt.quizId), eq(allowance.personId, attempt.personId)))
    .where(eq(attempt.quizId, row.id))
    .orderBy(asc(attempt.number));
  const used = new Map<string, number>();
  const writing = new Set<string>();
  for (const { attempt: of } of rows) {
    used.set(of.personId, (used.get(of.personId) ?? 0) + 1);
    if (of.handedInAt === null) writing.add(of.personId);
  }
  const moment = { now: now(), ...groupInstants(ends) };
  const tellings = new Map<string, Telling>();
  for (const { attempt: of, facts, allowance: granted, assigned } of rows) {
    const handedInAt = instantOf(of.handedInAt);
    if (handedInAt === null) continue;
    const own = allowanceOf(granted);
    const left = attemptsLeft(attemptsAllowed(facts.attempts, own), used.get(of.personId) ?? 0);
    const remain = attemptsRemain({
      running: writing.has(of.personId),
      left,
      assigned,
      closes: windowOf(row, own).closes,
      now: moment.now,
    });
    const reveal = revealNow(facts.reveal, {
      ...moment,
      handedInAt,
      returnedAt: instantOf(of.returnedAt),
      attemptsLeft: remain,
      zone: config.zone,
    });
    const shown = REVEALED.filter(
      (what) => reveal[what].visible && (fresh.includes(what) || (lastEnded && left !== 0)),
    );
    if (shown.length === 0) continue;
    tellings.set(of.personId, {
      personId: of.personId,
      kind: "shown",
      text: `Of “${row.title}” this is shown now: ${shown.map((what) => REVEALED_WORDS[what]).join(", ")}.`,
      path: `/attempts/${of.id}/paper`,
    });
  }
  return [...tellings.values()];
}

/** Tells of one quiz, unless another process does. */
async function tellOf(tx: Queryable, quizId: string): Promise<number> {
  const [found] = await tx
    .select({ quiz, facts: quizVersion.facts, ...groupEnds })
    .from(quiz)
    .innerJoin(quizVersion, and(eq(quizVersion.quizId, quiz.id), eq(quizVersion.number, quiz.currentVersion)))
    .where(eq(quiz.id, quizId))
    .for("update", { of: quiz, skipLocked: true });
  if (!found) return 0;
  const { quiz: row, facts, ...ends } = found;
  const moment = { now: now(), ...groupInstants(ends) };
  const all = shownByClock(facts.reveal, Number.NEGATIVE_INFINITY, moment);
  const told = all.filter((what) => !row.shownTold.includes(what));
  const ended = lastAttemptsEnd(facts.reveal, moment) ?? Number.POSITIVE_INFINITY;
  const tellsLast = ended <= moment.now && !row.shownTold.includes("last");
  if (told.length === 0 && !tellsLast) return 0;
  const from = row.tellsShownFrom.getTime();
  const fresh = shownByClock(facts.reveal, from, moment).filter((what) => told.includes(what));
  const lastEnded = tellsLast && from < ended;
  await tx
    .update(quiz)
    .set({ shownTold: [...row.shownTold, ...told, ...(tellsLast ? (["last"] as const) : [])] })
    .where(eq(quiz.id, quizId));
  const tellings = fresh.length > 0 || lastEnded ? await tellingsOf(tx, row, ends, { fresh, lastEnded }) : [];
  await tell(tx, tellings);
  return tellings.length;
}

/**
 * Tells those who handed in of what the clock has come to show since it was looked at last: after the due time, after
 * closing, on a date, or once closing has taken the attempts that were left. Everything is told once. Answers how many notices were made. Any number of processes may call it.
 */
export async function tellShown(db: Database = database()): Promise<number> {
  const at = new Date(now());
  const due = await db
    .select({ id: quiz.id })
    .from(quiz)
    .innerJoin(quizVersion, and(eq(quizVersion.quizId, quiz.id), eq(quizVersion.number, quiz.currentVersion)))
    .where(and(waitsForClock, or(lte(quiz.due, at), lte(quiz.closes, at), hasDate)));
  let count = 0;
  for (const { id } of due) count += await db.transaction((tx) => tellOf(tx, id));
  return count;
}
