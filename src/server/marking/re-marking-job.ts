import { and, asc, eq, inArray, isNull, lt, or } from "drizzle-orm";
import { type Said, said } from "@/core/said";
import { SECOND } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { attempt, quiz, quizVersion, reMarking } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { isConnectionTrouble } from "@/data/troubles";
import { type NewMark, setMarks } from "../attempts/marks";
import { now } from "../base/clock";
import { log } from "../base/log";
import { Problem } from "../base/problems";
import { note } from "../base/record";
import { notify } from "../notices/notify";
import { changeKeys } from "../quizzes/keys";
import { factsOf } from "../quizzes/quiz-facts";
import { attemptsWith, currentVersion, planAll, toTell } from "./re-marking-plan";
import type { Wanted } from "./re-marking-request";

/** A process that took one in hand and said nothing for so long is gone. */
const LEASE = 20 * SECOND;

type ReMarkingRow = typeof reMarking.$inferSelect;
const REASON = (reason: string, isUndo: boolean): Said =>
  isUndo
    ? said("server.marking.re-marking.marked-as-before", { reason })
    : said("server.marking.re-marking.marked-again", { reason });

/** Writes what was planned, all of it or nothing. */
async function write(
  row: ReMarkingRow,
  wanted: Pick<Wanted, "question" | "correction" | "undoes">,
  told: ReadonlySet<string>,
): Promise<void> {
  await inTransaction(async (tx) => {
    await changeKeys(tx, row.quizId);
    const [held] = await tx.select().from(reMarking).where(eq(reMarking.id, row.id)).for("update");
    if (!held || held.finishedAt !== null || held.refused !== null) return;
    const at = now();
    // Once more, now that nobody hands in or marks: what was planned before was for the progress, and may be old.
    const ids = (await attemptsWith(tx, row.quizId, row.questionId)).map(({ id }) => id);
    if (ids.length > 0)
      await tx
        .select({ id: attempt.id })
        .from(attempt)
        .where(inArray(attempt.id, ids))
        .orderBy(asc(attempt.id))
        .for("update");
    const plan = await planAll(tx, row.quizId, wanted);
    if (plan.digest !== row.expects) {
      await tx.update(reMarking).set({ refused: "changed-meanwhile" }).where(eq(reMarking.id, row.id));
      return;
    }
    const { number } = await currentVersion(tx, row.quizId);
    const versionId = newId();
    await tx.insert(quizVersion).values({
      id: versionId,
      quizId: row.quizId,
      number: number + 1,
      content: plan.content,
      facts: factsOf(plan.content),
      createdBy: row.makerId,
    });
    await tx
      .update(quiz)
      .set({ currentVersion: number + 1 })
      .where(eq(quiz.id, row.quizId));
    const changes = plan.all.flatMap(({ marked, restored }) =>
      marked.changes.map(({ slot, after }): NewMark & { attemptId: string } => {
        const back = restored.get(slot);
        return {
          attemptId: marked.id,
          slot,
          detail: after,
          source: back?.source ?? "rule",
          criteria: back?.criteria ?? null,
          feedback: back?.feedback ?? null,
          reason: REASON(row.reason, row.undoes !== null),
          markedBy: row.makerId,
          at,
          versionId: back?.versionId ?? versionId,
          batchId: row.id,
        };
      }),
    );
    await setMarks(tx, changes);
    if (row.undoes !== null)
      await tx
        .update(reMarking)
        .set({ undoneAt: new Date(at) })
        .where(eq(reMarking.id, row.undoes));
    await tx
      .update(reMarking)
      .set({ versionId, finishedAt: new Date(at), done: plan.all.length, total: plan.all.length })
      .where(eq(reMarking.id, row.id));
    await note(tx, {
      actorId: row.makerId,
      action: "marked again",
      subject: "quiz",
      subjectId: row.quizId,
      details: { question: row.questionId, reason: row.reason, changed: changes.length, version: number + 1 },
    });
    const [set] = await tx.select({ title: quiz.title }).from(quiz).where(eq(quiz.id, row.quizId));
    await notify(
      tx,
      plan.all
        .filter(({ marked, isReturned }) => marked.changes.length > 0 && (isReturned || told.has(marked.id)))
        .map(({ marked, personId }) => ({
          personId,
          kind: "returned" as const,
          text: said("server.marking.re-marking.a-question-was-marked-again", {
            title: set?.title ?? "",
            slot: marked.changes[0]?.slot ?? 0,
            reason: row.reason,
          }),
          path: `/attempts/${marked.id}/paper?q=${marked.changes[0]?.slot ?? 1}`,
        })),
    );
  });
}

/** Takes one re-marking in hand that nobody works at; null: there is none. */
async function claimOne(): Promise<ReMarkingRow | null> {
  const at = now();
  const rows = await database()
    .update(reMarking)
    .set({ claimedAt: new Date(at) })
    .where(
      inArray(
        reMarking.id,
        database()
          .select({ id: reMarking.id })
          .from(reMarking)
          .where(
            and(
              isNull(reMarking.finishedAt),
              isNull(reMarking.refused),
              or(isNull(reMarking.claimedAt), lt(reMarking.claimedAt, new Date(at - LEASE))),
            ),
          )
          .orderBy(asc(reMarking.createdAt), asc(reMarking.id))
          .limit(1)
          .for("update", { skipLocked: true }),
      ),
    )
    .returning();
  return rows[0] ?? null;
}

/** Works through one re-marking that waits, if there is one; returns whether there was. */
export async function workAtReMarking(): Promise<boolean> {
  const row = await claimOne();
  if (!row) return false;
  const wanted = { question: row.questionId, correction: row.change, undoes: row.undoes };
  try {
    const plan = await planAll(database(), row.quizId, wanted, async (done, total) => {
      await database()
        .update(reMarking)
        .set({ done, total, claimedAt: new Date(now()) })
        .where(and(eq(reMarking.id, row.id), isNull(reMarking.finishedAt)));
    });
    if (plan.digest === row.expects) await write(row, wanted, await toTell(row.quizId, plan));
    else await refuse(row, "changed-meanwhile");
  } catch (error) {
    // Without the database nothing is decided: whoever comes next takes it in hand again.
    if (isConnectionTrouble(error)) throw error;
    if (!(error instanceof Problem)) {
      log.error({ err: error, reMarking: row.id }, "a re-marking could not be done");
      await refuse(row, "failed");
    } else await refuse(row, "changed-meanwhile");
  }
  return true;
}

async function refuse(row: ReMarkingRow, why: string): Promise<void> {
  await database()
    .update(reMarking)
    .set({ refused: why })
    .where(and(eq(reMarking.id, row.id), isNull(reMarking.finishedAt)));
}
