import { and, eq, isNotNull, lte, or, sql } from "drizzle-orm";
import { attemptsLeft } from "@/core/attempt/attempts-left";
import { REVEALED, type Revealed } from "@/core/quiz/rules";
import { lastAttemptsEnd, REVEALED_WORDS, shownByClock } from "@/core/reveal/reveal";
import { said, saidTogether } from "@/core/said";
import { database, inTransaction, type Queryable } from "@/data/database";
import { attempt, quiz } from "@/data/schema";
import { groupEnds, groupMoments } from "../access/group-ends";
import { now } from "../base/clock";
import { log } from "../base/log";
import { type NewNotice, notify } from "../notices/notify";
import { quizOfViewer, revelationsOf } from "../reveal/quizzes-of-person";

type QuizRow = typeof quiz.$inferSelect;

/**
 * Rules that show something by the clock, and of which not everything was told yet. Where only the last attempt shows
 * anything, closing does too: of that "last" is noted.
 */
const waitsForClock = sql`jsonb_array_length(jsonb_path_query_array(${quiz.settings}->'reveal',
  '$.* ? (@ == "after-due" || @ == "after-closing" || exists(@.on))'))
  + (case when ${quiz.closes} is not null and (${quiz.settings}->'reveal'->>'onlyAfterLastAttempt')::boolean then 1 else 0 end)
  > cardinality(${quiz.shownTold})`;
const hasDate = sql`jsonb_path_exists(${quiz.settings}->'reveal', '$.*.on')`;

/** What there is to tell of. */
interface News {
  readonly fresh: readonly Revealed[];
  /** Whether closing has just taken the attempts that were left, and with them what hid the rest. */
  readonly lastEnded: boolean;
}

/** Those who handed in and can now see some of what has come to be shown, each with their last such attempt. */
async function tellingsOf(db: Queryable, row: QuizRow, { fresh, lastEnded }: News): Promise<NewNotice[]> {
  const people = await db
    .selectDistinct({ id: attempt.personId })
    .from(attempt)
    .where(and(eq(attempt.quizId, row.id), isNotNull(attempt.handedInAt)));
  const tellings: NewNotice[] = [];
  for (const person of people) {
    const item = await quizOfViewer(person, row.id);
    const left = item ? attemptsLeft(item.allowed, item.attempts.length) : 0;
    const seen = item?.attempts.flatMap((each) => {
      if (each.handedInAt === null) return [];
      const reveal = revelationsOf(item, each);
      const shown = REVEALED.filter(
        (what) => reveal[what].visible && (fresh.includes(what) || (lastEnded && left !== 0)),
      );
      return shown.length > 0 ? [{ id: each.id, shown }] : [];
    });
    const last = seen?.at(-1);
    if (!last) continue;
    tellings.push({
      personId: person.id,
      kind: "shown",
      text: said("server.jobs.notify-shown.of-this-is-shown-now", {
        title: row.title,
        what: saidTogether(
          last.shown.map((what) => REVEALED_WORDS[what]),
          "commas",
        ),
      }),
      path: `/attempts/${last.id}/paper`,
    });
  }
  return tellings;
}

/** Tells of one quiz, unless another process does. */
async function tellOf(tx: Queryable, quizId: string): Promise<number> {
  const [found] = await tx
    .select({ quiz, ...groupEnds() })
    .from(quiz)
    .where(eq(quiz.id, quizId))
    .for("update", { of: quiz, skipLocked: true });
  if (!found) return 0;
  const { quiz: row, ...ends } = found;
  const { reveal } = row.settings;
  const at = now();
  const group = groupMoments(ends);
  const all = shownByClock(reveal, Number.NEGATIVE_INFINITY, at, group);
  const told = all.filter((what) => !row.shownTold.includes(what));
  const ended = lastAttemptsEnd(reveal, group) ?? Number.POSITIVE_INFINITY;
  const tellsLast = ended <= at && !row.shownTold.includes("last");
  if (told.length === 0 && !tellsLast) return 0;
  const from = row.tellsShownFrom.getTime();
  const fresh = shownByClock(reveal, from, at, group).filter((what) => told.includes(what));
  const lastEnded = tellsLast && from < ended;
  await tx
    .update(quiz)
    .set({ shownTold: [...row.shownTold, ...told, ...(tellsLast ? (["last"] as const) : [])] })
    .where(eq(quiz.id, quizId));
  const tellings = fresh.length > 0 || lastEnded ? await tellingsOf(tx, row, { fresh, lastEnded }) : [];
  await notify(tx, tellings);
  return tellings.length;
}

/**
 * Tells those who handed in of what the clock has come to show since it was looked at last: after the due time, after
 * closing, on a date, or once closing has taken the attempts that were left. Everything is told once. Returns how many notices were made. Any number of processes may call it.
 */
export async function notifyShown(): Promise<number> {
  const at = new Date(now());
  const due = await database()
    .select({ id: quiz.id })
    .from(quiz)
    .where(and(waitsForClock, or(lte(quiz.due, at), lte(quiz.closes, at), hasDate)));
  let count = 0;
  for (const { id } of due) {
    try {
      count += await inTransaction((tx) => tellOf(tx, id));
    } catch (error) {
      // One quiz that cannot be told of holds up no other.
      log.error({ err: error, quizId: id }, "what came to be shown could not be told");
    }
  }
  return count;
}
