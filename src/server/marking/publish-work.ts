import { and, eq, inArray, isNull, notInArray, sql } from "drizzle-orm";
import type { MarkedQuestion } from "@/core/kinds/kind";
import { markByHand } from "@/core/marking/hand-mark";
import { type HandNote, type HandWork, handState } from "@/core/marking/hand-work";
import { questionIn } from "@/core/marking/mark-attempt";
import { exact, written } from "@/core/numbers/exact";
import { type Said, said } from "@/core/said";
import { richLines } from "@/core/text/lines";
import type { Queryable } from "@/data/database";
import { attempt, handMarking, marginNote } from "@/data/schema";
import { currentMarksOf, type NewMark, setMarks } from "../attempts/marks";
import { versionContent } from "../quizzes/versions";

type MarkRow = Awaited<ReturnType<typeof currentMarksOf>>[number];
type WorkRow = typeof handMarking.$inferSelect;

/** What a person wrote to an answer as the mark that it makes; null: it decides nothing yet. */
export async function markOfWork(
  row: Pick<MarkRow, "detail" | "questionId" | "versionId">,
  work: HandWork,
): Promise<MarkedQuestion | null> {
  const content = row.versionId === null ? undefined : await versionContent(row.versionId);
  const question = content && row.questionId ? questionIn(content, row.questionId) : undefined;
  const rubric = question && "rubric" in question ? question.rubric : undefined;
  const state = handState(rubric, exact(row.detail.maximum), work);
  if (!state.ok || !state.isDone || state.marks === null) return null;
  const byRubric = work.marks === null;
  const reason: Said =
    work.reason.trim() || (byRubric ? said("server.marking.publish-work.by-the-rubric") : "");
  const marking = markByHand(row.detail, { marks: written(state.marks), reason });
  return marking.ok ? marking.marked : null;
}

/** Whether a slot is in a person's hand: a rule left it to one, or a person marked it. */
const isInHand = ({ source, detail }: Pick<MarkRow, "source" | "detail">): boolean =>
  source === "hand" || detail.state === "awaits";

/** What becomes a mark of what was written to a slot; null: there is something left to decide. */
async function newMarkOf(row: MarkRow, { slot, work, authorId }: WorkRow, at: Date): Promise<NewMark | null> {
  const feedback = richLines(work.feedback) || null;
  const common = { slot, feedback, markedBy: authorId, at: at.getTime() };
  const detail = await markOfWork(row, work);
  if (detail) {
    return {
      ...common,
      detail,
      source: "hand",
      criteria: work.marks === null && Object.keys(work.criteria).length > 0 ? work.criteria : null,
      reason: work.reason.trim() || said("server.marking.publish-work.marked-by-hand"),
    };
  }
  // What a rule marked keeps its mark; what was said of it comes beside it.
  if (isInHand(row)) return null;
  if (feedback === row.feedback) return null;
  const { detail: same, source, criteria, reason: before } = row;
  return { ...common, detail: same, source, criteria, reason: before };
}

/** The notes of an answer as they stand now: new ones, those that were changed, and those that are gone. */
async function writeNotes(
  db: Queryable,
  { attemptId, slot, work, authorId }: WorkRow,
  at: Date,
): Promise<void> {
  const notes = work.notes.filter(({ text }) => text.trim() !== "");
  const ids = notes.map(({ id }) => id);
  await db
    .update(marginNote)
    .set({ withdrawnAt: at })
    .where(
      and(
        eq(marginNote.attemptId, attemptId),
        eq(marginNote.slot, slot),
        isNull(marginNote.withdrawnAt),
        ids.length > 0 ? notInArray(marginNote.id, ids) : undefined,
      ),
    );
  if (notes.length === 0) return;
  const rows = notes.map(({ id, anchor, text }: HandNote) => ({
    id,
    attemptId,
    slot,
    authorId,
    anchor,
    text: richLines(text),
    createdAt: at,
  }));
  await db
    .insert(marginNote)
    .values(rows)
    .onConflictDoUpdate({
      target: [marginNote.attemptId, marginNote.id],
      set: {
        text: sql`excluded.text`,
        anchor: sql`excluded.anchor`,
        withdrawnAt: null,
        editedAt: sql`case when (margin_note.text, margin_note.anchor) is distinct from (excluded.text, excluded.anchor)
          then excluded.created_at else margin_note.edited_at end`,
      },
      // A name that another slot of the attempt has stays that slot's.
      setWhere: sql`margin_note.slot = excluded.slot`,
    });
}

/**
 * Makes marks, notes and feedback of what was written to attempts and is done, all of it together; what still has something to
 * decide stays with its markers. The attempts' rows are locked by the caller. Returns the attempts in which something changed.
 */
export async function publishWork(
  db: Queryable,
  attemptIds: readonly string[],
  at: Date,
): Promise<ReadonlySet<string>> {
  if (attemptIds.length === 0) return new Set();
  const works = await db
    .select()
    .from(handMarking)
    .where(
      and(
        inArray(handMarking.attemptId, [...attemptIds]),
        sql`${handMarking.version} is distinct from ${handMarking.returnedVersion}`,
      ),
    );
  if (works.length === 0) return new Set();
  const marks = await currentMarksOf(db, [...new Set(works.map(({ attemptId }) => attemptId))]);
  const held = new Map(marks.map((row) => [`${row.attemptId} ${row.slot}`, row]));
  const changes: (NewMark & { attemptId: string })[] = [];
  const done: WorkRow[] = [];
  for (const each of works) {
    const { attemptId, slot, work } = each;
    if (slot === 0) {
      await db
        .update(attempt)
        .set({ feedback: richLines(work.feedback) || null })
        .where(eq(attempt.id, attemptId));
      done.push(each);
      continue;
    }
    const row = held.get(`${attemptId} ${slot}`);
    if (!row) continue;
    const change = await newMarkOf(row, each, at);
    if (change) changes.push({ attemptId, ...change });
    else if (isInHand(row)) continue;
    await writeNotes(db, each, at);
    done.push(each);
  }
  await setMarks(db, changes);
  for (const { attemptId, slot, version } of done) {
    await db
      .update(handMarking)
      .set({ returnedVersion: version })
      .where(and(eq(handMarking.attemptId, attemptId), eq(handMarking.slot, slot)));
  }
  return new Set(done.map(({ attemptId }) => attemptId));
}
