import { sql } from "drizzle-orm";
import type { CourseRole } from "@/core/access/may";
import type { Instant } from "@/core/time/instants";
import { DAY } from "@/core/time/instants";
import { database } from "@/data/database";
import { quiz } from "@/data/schema";
import { groupEnds } from "../access/group-ends";
import type { Viewer } from "../access/viewer";
import { iso, now } from "../base/clock";

/** A quiz as those who teach see it in a list: how far it is, and what of it waits for a person. */
export interface StaffQuiz {
  readonly id: string;
  readonly title: string;
  readonly language: string | null;
  readonly course: { readonly slug: string; readonly title: string };
  readonly role: CourseRole;
  readonly opens: Instant | null;
  readonly due: Instant | null;
  readonly closes: Instant | null;
  readonly state: StaffState;
  /** How many students it is set for, and how many of them have handed in. */
  readonly students: number;
  readonly handedIn: number;
  /** How many write now, and of them how many have no desk open. */
  readonly running: number;
  readonly away: number;
  /** Answers that await marking, and since when the oldest does. */
  readonly awaiting: number;
  readonly oldest: Instant | null;
  /** Talks about marks in which its student spoke last, and since when the oldest waits. */
  readonly questions: number;
  readonly oldestQuestion: Instant | null;
  /** Answers of which something came late that is to be decided. */
  readonly late: number;
  /** Papers that are handed in and not returned, and of these those that have nothing left to mark. */
  readonly unreturned: number;
  readonly ready: number;
}

/** How far a quiz is: coming, open, closed and to mark, all marked, all returned. */
export type StaffState = "coming" | "open" | "closed" | "marked" | "returned";

interface Row extends Record<string, unknown> {
  id: string;
  title: string;
  language: string | null;
  slug: string;
  course: string;
  role: CourseRole;
  opens: string | null;
  due: string | null;
  closes: string | null;
  /** The last closing of anyone. */
  last_closes: string | null;
  students: number;
  handed_in: number;
  running: number;
  away: number;
  awaiting: number;
  oldest: string | null;
  questions: number;
  oldest_question: string | null;
  late: number;
  unreturned: number;
  ready: number;
}

const instantIn = (text: string | null): Instant | null => (text === null ? null : new Date(text).getTime());

function stateOf(row: Row, at: Instant): StaffState {
  const opens = instantIn(row.opens);
  const closes = instantIn(row.last_closes);
  if (row.running > 0) return "open";
  if (opens !== null && at < opens) return "coming";
  if (closes === null || at < closes) return "open";
  if (row.awaiting > 0 || row.late > 0) return "closed";
  return row.unreturned > 0 ? "marked" : "returned";
}

/** A desk was open if it was known to be there so lately. */
const SEEN = "90 seconds";

/**
 * The quizzes that a person teaches, or helps to: all of them, those of one course, or one. One query. An answer awaits while
 * its mark does and nobody has decided it.
 */
export async function staffQuizzes(
  viewer: Pick<Viewer, "id">,
  only: { readonly courseId?: string; readonly quizId?: string } = {},
): Promise<StaffQuiz[]> {
  const at = now();
  const rows = await database().execute<Row>(sql`
    with taught as (
      select quiz.id, quiz.title, quiz.opens, quiz.due, quiz.closes, quiz.course_id, quiz.only_assigned, c.slug, c.title as course, e.role,
        v.facts->>'language' as language, ${groupEnds().groupCloses} as last_closes
      from enrolment e
      join course c on c.id = e.course_id
      join ${quiz} on ${quiz.courseId} = c.id
      join quiz_version v on v.quiz_id = quiz.id and v.number = quiz.current_version
      where e.person_id = ${viewer.id}
        and (e.role in ('instructor', 'observer')
          or (e.role = 'assistant' and exists (select 1 from given_quiz g where g.quiz_id = quiz.id and g.person_id = e.person_id)))
        and (${only.courseId ?? null}::uuid is null or quiz.course_id = ${only.courseId ?? null}::uuid)
        and (${only.quizId ?? null}::uuid is null or quiz.id = ${only.quizId ?? null}::uuid)
    ),
    papers as (
      select a.quiz_id,
        count(distinct a.person_id) filter (where a.handed_in_at is not null)::int as handed_in,
        count(*) filter (where a.handed_in_at is null)::int as running,
        count(*) filter (where a.handed_in_at is null and not exists (
          select 1 from open_desk d where d.attempt_id = a.id and d.seen_at > ${iso(at)}::timestamptz - interval '${sql.raw(SEEN)}'))::int as away,
        count(*) filter (where a.handed_in_at is not null and a.returned_at is null)::int as unreturned
      from attempt a join taught on taught.id = a.quiz_id
      group by a.quiz_id
    ),
    waiting as (
      select a.quiz_id, a.id as attempt_id, a.handed_in_at, a.returned_at, held.slot
      from attempt a
      join taught on taught.id = a.quiz_id
      cross join lateral (
        select distinct on (m.slot) m.slot, m.awaiting from mark m where m.attempt_id = a.id order by m.slot, m.added desc
      ) held
      left join hand_marking h on h.attempt_id = a.id and h.slot = held.slot
      where a.handed_in_at is not null and a.awaited > 0 and held.awaiting > 0 and not coalesce(h.done, false)
    ),
    awaited as (
      select quiz_id, count(*)::int as awaiting, min(handed_in_at) as oldest,
        count(distinct attempt_id) filter (where returned_at is null)::int as unready
      from waiting group by quiz_id
    ),
    talks as (
      select quiz_id, count(*)::int as questions, min(created_at) as oldest_question from (
        select distinct on (l.attempt_id, l.slot) a.quiz_id, l.author_id = a.person_id as asks, l.created_at
        from mark_query l join attempt a on a.id = l.attempt_id join taught on taught.id = a.quiz_id
        order by l.attempt_id, l.slot, l.created_at desc, l.id desc
      ) last where asks group by quiz_id
    ),
    lately as (
      select a.quiz_id, count(distinct (w.attempt_id, w.slot))::int as late
      from late_writing w join attempt a on a.id = w.attempt_id join taught on taught.id = a.quiz_id
      where w.decision is null and a.handed_in_at is not null
      group by a.quiz_id
    )
    select taught.id, taught.title, taught.language, taught.slug, taught.course, taught.role, taught.opens, taught.due, taught.closes, taught.last_closes,
      (select count(*)::int from enrolment s where s.course_id = taught.course_id and s.role = 'student'
        and (not taught.only_assigned or exists (
          select 1 from assignment n where n.quiz_id = taught.id and n.person_id = s.person_id))) as students,
      coalesce(papers.handed_in, 0) as handed_in, coalesce(papers.running, 0) as running, coalesce(papers.away, 0) as away,
      coalesce(awaited.awaiting, 0) as awaiting, awaited.oldest,
      coalesce(talks.questions, 0) as questions, talks.oldest_question,
      coalesce(lately.late, 0) as late,
      coalesce(papers.unreturned, 0) as unreturned,
      coalesce(papers.unreturned, 0) - coalesce(awaited.unready, 0) as ready
    from taught
    left join papers on papers.quiz_id = taught.id
    left join awaited on awaited.quiz_id = taught.id
    left join talks on talks.quiz_id = taught.id
    left join lately on lately.quiz_id = taught.id
    order by coalesce(taught.due, taught.closes, taught.opens) desc nulls last, taught.title`);
  return rows.map((row) => ({
    id: row.id,
    title: row.title,
    language: row.language,
    course: { slug: row.slug, title: row.course },
    role: row.role,
    opens: instantIn(row.opens),
    due: instantIn(row.due),
    closes: instantIn(row.closes),
    state: stateOf(row, at),
    students: row.students,
    handedIn: row.handed_in,
    running: row.running,
    away: row.away,
    awaiting: row.awaiting,
    oldest: instantIn(row.oldest),
    questions: row.questions,
    oldestQuestion: instantIn(row.oldest_question),
    late: row.late,
    unreturned: row.unreturned,
    ready: row.ready,
  }));
}

/** Something that waits for a person, one step from being done. */
export interface Waiting {
  readonly kind: "running" | "mark" | "questions" | "late" | "return" | "opens";
  readonly quiz: StaffQuiz;
  readonly count: number;
  /** Since when it waits; of what runs or opens: until when. */
  readonly since: Instant | null;
}

/**
 * What waits for those who teach: what runs first, then by age, oldest first, then what is ready to be returned and what opens
 * within a day.
 */
export function waitingIn(taught: readonly StaffQuiz[], at: Instant): Waiting[] {
  // Who only reads has nothing to do.
  const quizzes = taught.filter(({ role }) => role !== "observer");
  const of = (kind: Waiting["kind"], count: number, quiz: StaffQuiz, since: Instant | null): Waiting[] =>
    count > 0 ? [{ kind, quiz, count, since }] : [];
  const age = (a: Waiting, b: Waiting) => (a.since ?? 0) - (b.since ?? 0);
  const running = quizzes.flatMap((quiz) => of("running", quiz.running, quiz, quiz.closes));
  const aged = quizzes.flatMap((quiz) => [
    ...of("mark", quiz.awaiting, quiz, quiz.oldest),
    ...of("questions", quiz.questions, quiz, quiz.oldestQuestion),
    ...(quiz.role === "instructor" ? of("late", quiz.late, quiz, quiz.closes) : []),
  ]);
  const ready = quizzes
    .filter(({ role, state }) => role === "instructor" && state === "marked")
    .flatMap((quiz) => of("return", quiz.unreturned, quiz, quiz.closes));
  const opening = quizzes
    .filter(({ opens }) => opens !== null && opens > at && opens - at < DAY)
    .flatMap((quiz) => of("opens", 1, quiz, quiz.opens));
  return [...running, ...aged.sort(age), ...ready.sort(age), ...opening.sort(age)];
}
