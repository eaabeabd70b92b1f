import { max, sql } from "drizzle-orm";
import type { GroupMoments } from "@/core/reveal/reveal";
import type { Instant } from "@/core/time/instants";
import { allowance, quiz } from "@/data/schema";
import { iso, now } from "../base/clock";

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

// `greatest` and `least` skip what is null, and so does `max`: where null means "without an end" it has to be said.
const ofAnyone = (
  own: typeof quiz.due | typeof quiz.closes,
  theirs: typeof allowance.due | typeof allowance.closes,
) =>
  sql<string | null>`case when ${own} is not null
    then greatest(${own}, (select ${max(theirs)} from ${allowance} where ${allowance.quizId} = ${quiz.id})) end`;

/** The last end of an attempt that runs, or of a hand-in that its student may take back; "infinity" without one. */
const writesUntil = sql<string | null>`greatest(
  (select max(coalesce(running.deadline, 'infinity')) from attempt running
    where running.quiz_id = ${quiz.id} and running.handed_in_at is null),
  case when (${quiz.settings}->>'takeBack')::boolean then
    (select max(coalesce(least(coalesce(granted.due, ${quiz.due}) + done.added_ms * interval '1 millisecond', done.deadline), 'infinity'))
      from attempt done
      left join allowance granted on granted.quiz_id = done.quiz_id and granted.person_id = done.person_id
      where done.quiz_id = ${quiz.id} and done.handed_in_by = 'student' and done.returned_at is null) end)`;

/** In a quiz that does not close: whether anyone it is set for has an attempt left, and has not been closed out. */
const mayStart = (at: string) => sql<boolean>`${quiz.closes} is null and exists (
  select 1 from enrolment taker
  left join allowance granted on granted.quiz_id = ${quiz.id} and granted.person_id = taker.person_id
  where taker.course_id = ${quiz.courseId} and taker.role = 'student'
    and (not ${quiz.onlyAssigned} or exists (
      select 1 from assignment listed where listed.quiz_id = ${quiz.id} and listed.person_id = taker.person_id))
    and (granted.closes is null or granted.closes > ${at}::timestamptz)
    and (${quiz.settings}->>'attempts' is null or
      (select count(*) from attempt made where made.quiz_id = ${quiz.id} and made.person_id = taker.person_id)
        < (${quiz.settings}->>'attempts')::int + coalesce(granted.extra_attempts, 0)))`;

/** Who of the whole group may still write, and until when, for a query that reads quizzes. */
export const groupEnds = () => ({
  groupDue: ofAnyone(quiz.due, allowance.due),
  groupCloses: ofAnyone(quiz.closes, allowance.closes),
  groupWritesUntil: writesUntil,
  groupMayStart: mayStart(iso(now())),
});
