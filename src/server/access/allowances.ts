import { type AnyColumn, inArray, type SQL, sql } from "drizzle-orm";
import { type Allowance, NO_ALLOWANCE, type OwnMoment } from "@/core/attempt/deadline";
import { windowFor } from "@/core/attempt/window";
import { database } from "@/data/database";
import { quiz } from "@/data/schema";
import { instantOf } from "../base/clock";
import { config } from "../base/config";

// Which of what was given holds for whom is worked out here and nowhere else: what was given to one student for one quiz
// holds; otherwise the most generous of what they and their sections were given, for the quiz or throughout the course.

const MINE = sql`(g.quiz_id is not null and g.person_id is not null)`;

/** A number that adds to what everyone has. */
const most = (column: SQL, none: number) =>
  sql`coalesce(max(${column}) filter (where ${MINE}), max(${column}), ${sql.raw(String(none))})`;

/** A due time or a closing: infinite without one, null as everyone. Days later are days on the calendar of the college. */
const end = (column: SQL, without: SQL, everyones: AnyColumn) => sql`case
  when bool_or(${without}) filter (where ${MINE}) then 'infinity'::timestamptz
  when max(${column}) filter (where ${MINE}) is not null then max(${column}) filter (where ${MINE})
  when bool_or(${without}) then 'infinity'::timestamptz
  when max(${column}) is not null or max(g.days_later) > 0 then
    (coalesce(max(${column}), ${everyones}) at time zone ${config.zone}::text
      + make_interval(days => coalesce(max(g.days_later), 0))) at time zone ${config.zone}::text
end`;

const PARTS = {
  factor: most(sql`g.factor`, 1),
  extra_minutes: most(sql`g.extra_minutes`, 0),
  extra_attempts: most(sql`g.extra_attempts`, 0),
  opens: sql`coalesce(max(g.opens) filter (where ${MINE}), min(g.opens))`,
  due: end(sql`g.due`, sql`g.no_due`, quiz.due),
  closes: end(sql`g.closes`, sql`g.no_closing`, quiz.closes),
};

const holds = sql`g.ended_at is null and (g.quiz_id = ${quiz.id} or g.course_id = ${quiz.courseId})`;

/**
 * Everyone who has an allowance at a quiz, with what it comes to: person_id, factor, extra_minutes, extra_attempts, opens, due,
 * closes. To be joined where a query reads quizzes.
 */
export const holders = sql`(select holder.person_id, ${sql.join(
  Object.entries(PARTS).map(([name, part]) => sql`${part} as ${sql.raw(name)}`),
  sql`, `,
)}
  from allowance g
  cross join lateral (
    select g.person_id where g.person_id is not null
    union all select m.person_id from section_member m where m.section_id = g.section_id
  ) holder
  where ${holds} group by holder.person_id)`;

interface Held {
  readonly factor: number;
  readonly extra_minutes: number;
  readonly extra_attempts: number;
  readonly opens: string | null;
  readonly due: string | null;
  readonly closes: string | null;
}

const momentOf = (text: string | null): OwnMoment =>
  text === null ? null : text === "infinity" ? "none" : Date.parse(text);

const allowanceIn = (held: Held): Allowance => ({
  factor: held.factor,
  extraMinutes: held.extra_minutes,
  extraAttempts: held.extra_attempts,
  opens: momentOf(held.opens),
  due: momentOf(held.due),
  closes: momentOf(held.closes),
});

const asJson = sql`jsonb_build_object(${sql.join(
  Object.entries(PARTS).map(([name, part]) => sql`${sql.raw(`'${name}'`)}, ${part}`),
  sql`, `,
)})`;

/** What one person is allowed at a quiz; for a query that reads quizzes. Who was given nothing is as everyone. */
export const allowanceFor = (personId: string | AnyColumn) =>
  sql<Allowance>`(select ${asJson} from allowance g where ${holds} and (g.person_id = ${personId}
    or g.section_id in (select m.section_id from section_member m where m.person_id = ${personId})))`.mapWith(
    {
      mapFromDriverValue: (held: Held | string) =>
        allowanceIn(typeof held === "string" ? (JSON.parse(held) as Held) : held),
    },
  );

/** What everyone is allowed at some quizzes, whatever was given to whom. One query. */
export async function allowancesIn(
  quizIds: readonly string[],
): Promise<(quizId: string, personId: string) => Allowance> {
  const byQuiz = new Map<string, Map<string, Allowance>>();
  if (quizIds.length > 0) {
    const rows = await database().execute<
      Held & { quiz_id: string; person_id: string } & Record<string, unknown>
    >(
      sql`select ${quiz.id} as quiz_id, held.* from ${quiz} cross join lateral ${holders} held where ${inArray(quiz.id, [...quizIds])}`,
    );
    for (const row of rows) {
      const people = byQuiz.get(row.quiz_id) ?? new Map();
      byQuiz.set(row.quiz_id, people.set(row.person_id, allowanceIn(row)));
    }
  }
  return (quizId, personId) => byQuiz.get(quizId)?.get(personId) ?? NO_ALLOWANCE;
}

/** The window of a quiz for the student who has this allowance. */
export const windowOf = (
  row: Pick<typeof quiz.$inferSelect, "opens" | "due" | "closes">,
  own: Pick<Allowance, "opens" | "due" | "closes">,
) => windowFor({ opens: instantOf(row.opens), due: instantOf(row.due), closes: instantOf(row.closes) }, own);
