import { asc, desc, eq, inArray, sql } from "drizzle-orm";
import type { MarkedQuestion } from "@/core/kinds/kind";
import type { CriteriaMarks } from "@/core/kinds/rubric";
import { exact, stored, sum } from "@/core/numbers/exact";
import type { Said } from "@/core/said";
import type { Instant } from "@/core/time/instants";
import type { Queryable } from "@/data/database";
import { mark } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { iso } from "../base/clock";

/** A mark that takes the place of the one that a slot has. */
export interface NewMark {
  readonly slot: number;
  readonly detail: MarkedQuestion;
  readonly source: "rule" | "hand";
  /** Read by the student: what an instructor wrote, or a sentence as it is meant. */
  readonly reason: Said;
  readonly criteria?: CriteriaMarks | null;
  /** Rich text. */
  readonly feedback?: string | null;
  readonly markedBy: string | null;
  readonly at: Instant;
  /** The version by whose key it is made; that of the mark before by default. */
  readonly versionId?: string;
  /** The re-marking that makes it. */
  readonly batchId?: string;
}

/** A marked question as the columns of a mark hold it. */
export const markColumns = (detail: MarkedQuestion) => ({
  marks: stored(exact(detail.marks)),
  awaiting: stored(exact(detail.awaiting)),
  maximum: stored(exact(detail.maximum)),
  detail,
});

/** The marks that hold in an attempt now, by slot. */
export async function currentMarks(db: Queryable, attemptId: string) {
  return db
    .selectDistinctOn([mark.slot])
    .from(mark)
    .where(eq(mark.attemptId, attemptId))
    .orderBy(asc(mark.slot), desc(mark.added));
}

/** The marks that hold in several attempts now. */
export async function currentMarksOf(db: Queryable, attemptIds: readonly string[]) {
  return db
    .selectDistinctOn([mark.attemptId, mark.slot])
    .from(mark)
    .where(inArray(mark.attemptId, [...attemptIds]))
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
}

/** Sets a mark anew and adds the attempt up again; what was there stays as history. The caller holds the attempt's lock. */
export const setMark = (db: Queryable, attemptId: string, change: NewMark): Promise<void> =>
  setMarks(db, [{ attemptId, ...change }]);

/** Sets many marks anew and adds their attempts up again: a few statements, however many there are. */
export async function setMarks(
  db: Queryable,
  changes: readonly (NewMark & { readonly attemptId: string })[],
): Promise<void> {
  if (changes.length === 0) return;
  const ids = [...new Set(changes.map(({ attemptId }) => attemptId))];
  const before = await db
    .selectDistinctOn([mark.attemptId, mark.slot], {
      attemptId: mark.attemptId,
      slot: mark.slot,
      handIn: mark.handIn,
      questionId: mark.questionId,
      versionId: mark.versionId,
    })
    .from(mark)
    .where(inArray(mark.attemptId, ids))
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
  const held = new Map(before.map((each) => [`${each.attemptId} ${each.slot}`, each]));
  const rows = changes.map(({ attemptId, slot, detail, ...change }) => {
    const last = held.get(`${attemptId} ${slot}`);
    if (!last) throw new Error(`Attempt ${attemptId} has no mark in slot ${slot}.`);
    return {
      attempt_id: attemptId,
      slot,
      id: newId(),
      question_id: last.questionId,
      version_id: change.versionId ?? last.versionId,
      batch_id: change.batchId ?? null,
      ...markColumns(detail),
      source: change.source,
      hand_in: last.handIn,
      criteria: change.criteria ?? null,
      feedback: change.feedback ?? null,
      reason: change.reason,
      marked_by: change.markedBy,
      created_at: iso(change.at),
    };
  });
  await db.execute(sql`insert into mark (attempt_id, slot, id, question_id, version_id, batch_id, marks, awaiting, maximum,
      detail, source, hand_in, criteria, feedback, reason, marked_by, created_at)
    select attempt_id, slot, id, question_id, version_id, batch_id, marks, awaiting, maximum,
      detail, source::mark_source, hand_in, nullif(criteria, 'null'::jsonb), feedback, reason, marked_by, created_at
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as new(attempt_id uuid, slot smallint, id uuid, question_id text,
      version_id uuid, batch_id uuid, marks numeric, awaiting numeric, maximum numeric, detail jsonb, source text,
      hand_in smallint, criteria jsonb, feedback text, reason jsonb, marked_by uuid, created_at timestamptz)
    order by attempt_id, slot`);
  await addUp(db, ids);
}

/** What attempts come to by the marks that hold now, exactly; a query, and a statement. Their rows are locked by the caller. */
export async function addUp(db: Queryable, attemptIds: readonly string[]): Promise<void> {
  if (attemptIds.length === 0) return;
  const holding = await db
    .selectDistinctOn([mark.attemptId, mark.slot], {
      attemptId: mark.attemptId,
      marks: sql<string>`${mark.detail}->>'marks'`,
      awaiting: sql<string>`${mark.detail}->>'awaiting'`,
      maximum: sql<string>`${mark.detail}->>'maximum'`,
    })
    .from(mark)
    .where(inArray(mark.attemptId, [...attemptIds]))
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
  const own = new Map<string, typeof holding>();
  for (const each of holding) own.set(each.attemptId, [...(own.get(each.attemptId) ?? []), each]);
  const rows = [...own].map(([id, all]) => {
    const total = (what: "marks" | "awaiting" | "maximum") =>
      stored(sum(all.map((each) => exact(each[what]))));
    return { id, earned: total("marks"), awaited: total("awaiting"), maximum: total("maximum") };
  });
  await db.execute(sql`update attempt set earned = new.earned, awaited = new.awaited, maximum = new.maximum
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as new(id uuid, earned numeric, awaited numeric, maximum numeric)
    where attempt.id = new.id`);
}
