import { asc, eq, isNull, sql } from "drizzle-orm";
import { planAttempt, type Slot } from "@/core/attempt/plan";
import { database, inTransaction, type Queryable } from "@/data/database";
import { attempt, attemptQuestion } from "@/data/schema";
import { log } from "../base/log";
import { versionContent } from "../quizzes/versions";
import { seedOf } from "./seeds";

/** So many attempts are carried over in one transaction. */
const TOGETHER = 200;

interface Planned {
  readonly id: string;
  readonly plan: readonly Slot[];
}

/** Writes which question stands at which slot of attempts; once more changes nothing. */
export async function writeAttemptQuestions(db: Queryable, attempts: readonly Planned[]): Promise<void> {
  const rows = attempts.flatMap(({ id, plan }) =>
    plan.map(({ slot, question }) => ({ attempt_id: id, slot, question_id: question.id })),
  );
  if (rows.length === 0) return;
  await db.execute(sql`insert into attempt_question (attempt_id, slot, question_id)
    select attempt_id, slot, question_id
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as new(attempt_id uuid, slot smallint, question_id text)
    on conflict do nothing`);
}

const withoutQuestions = (db: Queryable) =>
  db
    .select({ id: attempt.id, versionId: attempt.versionId, seed: attempt.seed, naming: attempt.naming })
    .from(attempt)
    .leftJoin(attemptQuestion, eq(attemptQuestion.attemptId, attempt.id))
    .where(isNull(attemptQuestion.attemptId))
    .orderBy(asc(attempt.id))
    .limit(TOGETHER);

async function plannedOf(row: Awaited<ReturnType<typeof withoutQuestions>>[number]): Promise<Planned> {
  try {
    return { id: row.id, plan: planAttempt(await versionContent(row.versionId), await seedOf(row)) };
  } catch (error) {
    // One that cannot be drawn again stops nothing: its marks name what they can.
    log.error({ err: error, attemptId: row.id }, "an attempt could not be drawn again");
    return { id: row.id, plan: [] };
  }
}

/**
 * Carries over attempts from before it was written which question stands where, and has their marks name their questions.
 * Safe to call from several processes at once; does nothing where all is written.
 */
export async function carryOverQuestions(): Promise<number> {
  let carried = 0;
  for (;;) {
    const rows = await withoutQuestions(database());
    if (rows.length === 0) return carried;
    const planned: Planned[] = [];
    for (const row of rows) planned.push(await plannedOf(row));
    const drawn = planned.filter(({ plan }) => plan.length > 0);
    await inTransaction(async (tx) => {
      await writeAttemptQuestions(tx, drawn);
      await tx.execute(sql`update mark set question_id = coalesce(q.question_id, '')
        from mark m left join attempt_question q on (q.attempt_id, q.slot) = (m.attempt_id, m.slot)
        where mark.question_id is null and m.attempt_id = mark.attempt_id and m.slot = mark.slot and m.id = mark.id
          and mark.attempt_id in (select id::uuid from jsonb_array_elements_text(${JSON.stringify(rows.map(({ id }) => id))}::jsonb) as carried(id))`);
    });
    carried += drawn.length;
    // What cannot be drawn would come again and again.
    if (drawn.length < planned.length) return carried;
  }
}
