import { desc, eq, sql } from "drizzle-orm";
import * as yup from "yup";
import { MOST_YEARS, NOTICE, overBefore } from "@/core/retention/retention-rule";
import { said } from "@/core/said";
import type { Instant } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { person, retentionRule } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { iso, now } from "../base/clock";
import { inputOf } from "../base/input";
import { notFound } from "../base/problems";
import { note } from "../base/record";

export interface RetentionRule {
  /** Years after a course's end; null: without end. */
  readonly years: number | null;
  readonly holdsFrom: Instant;
  readonly decidedBy: string;
}

/** The rule that holds, or null where none was ever made: then everything is kept. */
export async function retentionRuleNow(): Promise<RetentionRule | null> {
  const [row] = await database()
    .select({ years: retentionRule.years, holdsFrom: retentionRule.holdsFrom, decidedBy: person.name })
    .from(retentionRule)
    .innerJoin(person, eq(person.id, retentionRule.decidedBy))
    .orderBy(desc(retentionRule.createdAt), desc(retentionRule.id))
    .limit(1);
  return row ? { ...row, holdsFrom: row.holdsFrom.getTime() } : null;
}

/** What a rule would remove from one course. */
export interface Removal {
  readonly courseId: string;
  readonly course: string;
  /** The last moment of any of its quizzes and hand-ins. */
  readonly ended: Instant;
  /** Attempts whose writing would go; those that still await marks stay. */
  readonly attempts: number;
  readonly waiting: number;
}

/** What a rule of so many years would remove now, course by course. One query. */
export async function removalsOf(years: number, at: Instant): Promise<Removal[]> {
  const rows = await database().execute<{
    id: string;
    title: string;
    ended: string;
    attempts: number;
    waiting: number;
  }>(sql`
    with ended as (
      select q.course_id, greatest(max(greatest(q.opens, q.due, q.closes)), max(a.handed_in_at)) as at,
        bool_or(a.id is not null and a.handed_in_at is null) as running
      from quiz q left join attempt a on a.quiz_id = q.id group by q.course_id
    )
    select c.id, c.title, extract(epoch from e.at) * 1000 as ended,
      count(*) filter (where coalesce(a.awaited, 0) = 0)::int as attempts,
      count(*) filter (where coalesce(a.awaited, 0) <> 0)::int as waiting
    from ended e join course c on c.id = e.course_id
      join quiz q on q.course_id = c.id join attempt a on a.quiz_id = q.id
    where e.at < ${iso(overBefore(years, at))}::timestamptz and not e.running
      and a.handed_in_at is not null and a.written_removed_at is null
    group by c.id, c.title, e.at order by e.at, c.title`);
  return rows.map((row) => ({
    courseId: row.id,
    course: row.title,
    ended: Number(row.ended),
    attempts: row.attempts,
    waiting: row.waiting,
  }));
}

export interface RetentionView {
  readonly rule: RetentionRule | null;
  /** What the rule that holds, or one of `asked` years, would remove. */
  readonly asked: number | null;
  readonly removals: readonly Removal[];
}

const years = yup
  .number()
  .transform((_, given: unknown) => (given === "" || given === "none" ? null : Number(given)))
  .nullable()
  .integer(said("server.retention.rule.whole-years"))
  .min(1, said("server.retention.rule.a-year-at-least-until-then"))
  .max(MOST_YEARS, said("server.retention.rule.years-at-most-or-without-end", { most: MOST_YEARS }));
const form = yup.object({ years: years.defined() });

/** The rule and what it would remove, for administrators; to anyone else there is none. */
export async function retentionOf(viewer: Viewer, wanted: string | null): Promise<RetentionView> {
  if (!viewer.administrator) throw notFound();
  const rule = await retentionRuleNow();
  const asked = wanted === null ? null : (inputOf(form, { years: wanted }, "address").years ?? null);
  const counted = asked ?? rule?.years ?? null;
  return { rule, asked, removals: counted === null ? [] : await removalsOf(counted, now()) };
}

/** An administrator decides how long what was written is kept. It holds after a while, so that it can be thought over. */
export async function decideRetention(viewer: Viewer, input: unknown): Promise<void> {
  if (!viewer.administrator) throw notFound();
  const decided = inputOf(form, input, "address");
  const before = await retentionRuleNow();
  await inTransaction(async (tx) => {
    await tx.insert(retentionRule).values({
      years: decided.years,
      decidedBy: viewer.id,
      holdsFrom: new Date(now() + NOTICE),
      createdAt: new Date(now()),
    });
    await note(tx, {
      actorId: viewer.id,
      action: "changed how long writing is kept",
      subject: "person",
      subjectId: viewer.id,
      details: { from: before?.years ?? null, to: decided.years },
    });
  });
}
