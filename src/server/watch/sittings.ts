import { sql } from "drizzle-orm";
import { hasMoreTime } from "@/core/attempt/deadline";
import { type Instant, MINUTE } from "@/core/time/instants";
import { LATE_AFTER, type Particular, type Sitting } from "@/core/watch/watch-line";
import { database } from "@/data/database";
import { quiz as quizTable } from "@/data/schema";
import { holders } from "../access/allowances";
import { instantOf } from "../base/clock";
import { CAME_BACK, LEFT } from "../desk/presence";

interface Row extends Record<string, unknown> {
  id: string;
  person_id: string;
  name: string;
  number: number;
  started_at: string;
  deadline: string | null;
  handed_in_at: string | null;
  handed_in_by: Sitting["handedInBy"];
  here: number;
  added_ms: string;
  answered: number;
  questions: number;
  saved_at: string | null;
  came_late_at: string | null;
  left_at: string | null;
  taken_back: boolean;
  factor: number | null;
  extra_minutes: number | null;
}

const instant = (text: string | null): Instant | null => (text === null ? null : Date.parse(text));

/** A start so long after the opening of a sitting that everyone else began at is told. */
const JOINED_LATE = 5 * MINUTE;

/**
 * Everyone who has begun a quiz, as they are now, in one statement: read again each second for all who watch it.
 * Who was away and is back is told from the record, which knows a reload from a leaving.
 */
export async function sittingsOf(
  quiz: Pick<typeof quizTable.$inferSelect, "id" | "opens">,
): Promise<Sitting[]> {
  const rows = await database().execute<Row>(sql`
    with own as materialized (select * from attempt where quiz_id = ${quiz.id}),
    held as materialized (select h.person_id, h.factor, h.extra_minutes from ${quizTable} cross join lateral ${holders} h where ${quizTable.id} = ${quiz.id}),
    writing as (
      select x.attempt_id, count(*) filter (where x.answer is not null)::int as answered, max(x.saved_at) as saved_at,
        max(x.saved_at) filter (where x.saved_at - x.written_at > make_interval(secs => ${LATE_AFTER / 1_000})) as came_late_at
      from own join answer x on x.attempt_id = own.id group by x.attempt_id
    ),
    asked as (
      select q.attempt_id, count(*)::int as questions from own join attempt_question q on q.attempt_id = own.id group by q.attempt_id
    ),
    noted as (
      select distinct on (r.subject_id) r.subject_id, r.action, r.at
      from own join record r on r.subject_id = own.id
      where own.handed_in_at is null and r.action in (${LEFT}, ${CAME_BACK})
      order by r.subject_id, r.at desc, r.id desc
    )
    select own.id, own.person_id, p.name, own.number, own.started_at, own.deadline, own.handed_in_at, own.handed_in_by, own.here,
      own.added_ms, coalesce(w.answered, 0) as answered, w.saved_at, w.came_late_at, coalesce(asked.questions, 0) as questions,
      case when noted.action = ${LEFT} then noted.at end as left_at,
      exists (select 1 from slip s where s.attempt_id = own.id and s.taken_back_at is not null) as taken_back,
      al.factor, al.extra_minutes
    from own
    join person p on p.id = own.person_id
    left join held al on al.person_id = own.person_id
    left join writing w on w.attempt_id = own.id
    left join asked on asked.attempt_id = own.id
    left join noted on noted.subject_id = own.id
    order by own.id`);
  const opens = instantOf(quiz.opens);
  return rows.map((row): Sitting => {
    const startedAt = Date.parse(row.started_at);
    return {
      attemptId: row.id,
      personId: row.person_id,
      name: row.name,
      number: row.number,
      startedAt,
      deadline: instant(row.deadline),
      handedInAt: instant(row.handed_in_at),
      handedInBy: row.handed_in_by,
      here: row.here,
      answered: row.answered,
      questions: row.questions,
      savedAt: instant(row.saved_at),
      awaySince: instant(row.left_at),
      trace: [],
      particular: particularOf(row, opens === null ? null : startedAt - opens),
    };
  });
}

function particularOf(row: Row, afterOpening: number | null): Particular[] {
  const [factor, extraMinutes] = [row.factor ?? 1, row.extra_minutes ?? 0];
  const added = Math.round(Number(row.added_ms) / MINUTE);
  const cameLate = instant(row.came_late_at);
  return [
    ...(hasMoreTime({ factor, extraMinutes })
      ? [{ kind: "more-time" as const, factor, minutes: extraMinutes }]
      : []),
    ...(added > 0 ? [{ kind: "time-added" as const, minutes: added }] : []),
    ...(afterOpening !== null && afterOpening >= JOINED_LATE && afterOpening < 120 * MINUTE
      ? [{ kind: "joined-late" as const, minutes: Math.round(afterOpening / MINUTE) }]
      : []),
    ...(cameLate !== null && row.handed_in_at === null ? [{ kind: "came-late" as const, at: cameLate }] : []),
    ...(row.taken_back ? [{ kind: "taken-back" as const }] : []),
  ];
}
