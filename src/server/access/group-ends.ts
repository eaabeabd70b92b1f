import { type SQL, sql } from "drizzle-orm";
import type { GroupMoments } from "@/core/reveal/reveal";
import type { Instant } from "@/core/time/instants";
import { quiz } from "@/data/schema";
import { iso, now } from "../base/clock";
import { holders } from "./allowances";

/** Who of the group may still write, as the database says it. */
export interface GroupEnds {
  readonly groupDue: string | null;
  readonly groupCloses: string | null;
  readonly groupWritesUntil: string | null;
  readonly groupMayStart: boolean;
}

const instantIn = (text: string | null): Instant | null =>
  text === null ? null : text === "infinity" ? Number.POSITIVE_INFINITY : new Date(text).getTime();

/** The same as the reveal rules look at it. */
export const groupMoments = (ends: GroupEnds): GroupMoments => ({
  due: instantIn(ends.groupDue),
  closes: instantIn(ends.groupCloses),
  writesUntil: instantIn(ends.groupWritesUntil),
  mayStart: ends.groupMayStart,
});

// In a query of one table alone a column is written without its table, which would be another one inside these; not so in
// what is written by itself first.
const set = {
  id: sql`${quiz.id}`,
  courseId: sql`${quiz.courseId}`,
  due: sql`${quiz.due}`,
  closes: sql`${quiz.closes}`,
  settings: sql`${quiz.settings}`,
  onlyAssigned: sql`${quiz.onlyAssigned}`,
};

// `greatest` and `least` skip what is null, and so does `max`: where null means "without an end" it has to be said. Who has
// no end of their own is left out of the latest one: whether they may still write is told by the other two.
const ofAnyone = (everyones: SQL, theirs: "due" | "closes") =>
  sql<string | null>`case when ${everyones} is not null then greatest(${everyones},
    (select max(held.${sql.raw(theirs)}) filter (where isfinite(held.${sql.raw(theirs)})) from ${holders} held)) end`;

/** The last end of an attempt that runs, or of a hand-in that its student may take back; "infinity" without one. */
const writesUntil = sql<string | null>`greatest(
  (select max(coalesce(running.deadline, 'infinity')) from attempt running
    where running.quiz_id = ${set.id} and running.handed_in_at is null),
  case when (${set.settings}->>'takeBack')::boolean then
    (select max(coalesce(least(coalesce(granted.due, ${set.due}) + done.added_ms * interval '1 millisecond', done.deadline), 'infinity'))
      from attempt done
      left join ${holders} granted on granted.person_id = done.person_id
      where done.quiz_id = ${set.id} and done.handed_in_by = 'student' and done.returned_at is null) end)`;

/** Whether anyone it is set for, for whom it does not close, has an attempt left. */
const mayStart = (at: string) => sql<boolean>`(${set.closes} is null or exists (
    select 1 from allowance g where g.ended_at is null and g.no_closing
      and (g.quiz_id = ${set.id} or g.course_id = ${set.courseId})))
  and exists (
  select 1 from enrolment taker
  left join ${holders} granted on granted.person_id = taker.person_id
  where taker.course_id = ${set.courseId} and taker.role = 'student'
    and (not ${set.onlyAssigned} or exists (
      select 1 from assignment listed where listed.quiz_id = ${set.id} and listed.person_id = taker.person_id))
    and (coalesce(granted.closes, ${set.closes}, 'infinity') = 'infinity'
      or (${set.closes} is null and granted.closes > ${at}::timestamptz))
    and (${set.settings}->>'attempts' is null or
      (select count(*) from attempt made where made.quiz_id = ${set.id} and made.person_id = taker.person_id)
        < (${set.settings}->>'attempts')::int + coalesce(granted.extra_attempts, 0)))`;

/** Who of the whole group may still write, and until when, for a query that reads quizzes. */
export const groupEnds = () => ({
  groupDue: ofAnyone(set.due, "due"),
  groupCloses: ofAnyone(set.closes, "closes"),
  groupWritesUntil: writesUntil,
  groupMayStart: mayStart(iso(now())),
});
