import { and, asc, eq, isNull } from "drizzle-orm";
import * as yup from "yup";
import { lateChanges } from "@/core/journal/late-writing";
import type { JournalEntry } from "@/core/journal/merge";
import { type PresentedQuestion, readAnswer, summaryOf } from "@/core/kinds/answering";
import { present } from "@/core/kinds/marking";
import { markSlot, planWithKeys, termsOf } from "@/core/marking/mark-attempt";
import { REVEALED_WORDS } from "@/core/reveal/reveal";
import { said } from "@/core/said";
import { plainText } from "@/core/text/plain-text";
import type { Instant } from "@/core/time/instants";
import { type Database, database, inTransaction } from "@/data/database";
import { answer, answerLog, attempt, lateWriting, person } from "@/data/schema";
import { say, t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { checksOf } from "../attempts/answers";
import { lockAttempt } from "../attempts/lock-attempt";
import { lookAgain } from "../attempts/look-again";
import { setMark } from "../attempts/marks";
import { seedOf } from "../attempts/seeds";
import { now } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { notFound, Problem } from "../base/problems";
import { note } from "../base/record";
import { notify } from "../notices/notify";
import { heldKeys, holdKeys } from "../quizzes/keys";
import { versionContent } from "../quizzes/versions";
import { numberPapers, openRoom, paperOf, type Room } from "./room";

type Row = typeof attempt.$inferSelect;
type LateRow = typeof lateWriting.$inferSelect;

/** What stood at the end of an answer, and what came later. */
export interface LateLine {
  readonly paper: number;
  readonly slot: number;
  readonly name: string | null;
  readonly question: string;
  readonly handedInAt: Instant;
  /** What stood at the end, and when it was written; null: nothing. */
  readonly stood: { readonly words: string; readonly writtenAt: Instant } | null;
  /** What came later, when its device says that it was written, and when it arrived. */
  readonly came: { readonly words: string; readonly writtenAt: Instant; readonly arrivedAt: Instant };
  /** What of its paper its student could see when it came; empty: nothing. */
  readonly shown: readonly string[];
}

const entryOf = (
  row: Omit<LateRow, "arrivedAt" | "shown" | "decision" | "decidedAt" | "decidedBy" | "reason">,
): JournalEntry => ({
  slot: row.slot,
  answer: row.answer,
  ribbon: row.ribbon,
  ruledOut: row.ruledOut,
  revision: row.revision,
  device: row.device,
  writtenAt: row.writtenAt.getTime(),
});

/** A written answer whole, in plain text. */
function wordsOf(presented: PresentedQuestion, written: unknown): string {
  const reading = readAnswer(presented, written ?? null);
  if (!reading.ok) return "";
  const given = reading.answer;
  if (given !== null && "rich" in given) return plainText(given.rich);
  return say(summaryOf(presented, given));
}

/** Of each answer the late writing that would stand if it were taken: later than what stood, and the latest of several. */
async function changesIn(db: Pick<Database, "select">, attemptId: string) {
  const late = await db
    .select()
    .from(lateWriting)
    .where(and(eq(lateWriting.attemptId, attemptId), isNull(lateWriting.decision)))
    .orderBy(asc(lateWriting.slot), asc(lateWriting.writtenAt));
  const standing = await db.select().from(answer).where(eq(answer.attemptId, attemptId));
  const stands = new Map(standing.map((row) => [row.slot, entryOf({ ...row })]));
  const entries = late.map((row) => ({ ...entryOf(row), row }));
  return { late, stands, changes: lateChanges(stands, entries) };
}

/** The late writing of a quiz of which nothing is decided yet, oldest first. */
export async function lateLinesOf(
  viewer: Viewer,
  quizId: string,
): Promise<{ room: Room; lines: LateLine[] }> {
  const room = await openRoom(viewer, quizId, "rule");
  const { quiz } = room.opened;
  await numberPapers(quiz.id);
  const rows = await database()
    .selectDistinctOn([attempt.id], { attempt, name: person.name })
    .from(lateWriting)
    .innerJoin(attempt, eq(attempt.id, lateWriting.attemptId))
    .innerJoin(person, eq(person.id, attempt.personId))
    .where(and(eq(attempt.quizId, quiz.id), isNull(lateWriting.decision), isNull(attempt.writtenRemovedAt)))
    .orderBy(asc(attempt.id));
  const lines: LateLine[] = [];
  for (const { attempt: row, name } of rows) {
    if (row.handedInAt === null) continue;
    const content = await versionContent(row.versionId);
    const seed = await seedOf(row);
    const { stands, changes } = await changesIn(database(), row.id);
    const plan = planWithKeys(content, seed);
    for (const [slot, { row: came }] of changes) {
      const question = plan.find((each) => each.slot === slot)?.question;
      if (!question) continue;
      const presented = present(question, seed);
      const stood = stands.get(slot);
      lines.push({
        paper: row.paper ?? 0,
        slot,
        name: room.namesHidden ? null : name,
        question: plainText(question.text),
        handedInAt: row.handedInAt.getTime(),
        stood: stood ? { words: wordsOf(presented, stood.answer), writtenAt: stood.writtenAt } : null,
        came: {
          words: wordsOf(presented, came.answer),
          writtenAt: came.writtenAt.getTime(),
          arrivedAt: came.arrivedAt.getTime(),
        },
        shown: came.shown.map((what) => say(REVEALED_WORDS[what])),
      });
    }
  }
  return { room, lines: lines.sort((a, b) => a.came.arrivedAt - b.came.arrivedAt) };
}

const body = yup
  .object({
    slot: yup.number().strict().integer().min(1).max(1_000).required(),
    decision: yup
      .string()
      .strict()
      .oneOf(["taken", "left"], said("server.marking.late-decisions.take-it-or-leave-it"))
      .required(said("server.marking.late-decisions.take-it-or-leave-it")),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.marking.late-decisions.say-why-the-student-reads-it"), hasWords)
      .max(500)
      .required(said("server.marking.late-decisions.say-why-the-student-reads-it")),
    /** What was on the screen: when the writing that would be taken was written, and when it came. */
    writtenAt: yup.number().strict().integer().required(),
    arrivedAt: yup.number().strict().integer().required(),
  })
  .strict()
  .noUnknown();

/** Puts late writing in the place of what stood, and marks the answer by the rules; a mark by hand awaits again. */
async function take(tx: Database, row: Row, came: LateRow, markerId: string, reason: string): Promise<void> {
  const at = now();
  const { slot, device, revision, answer: given, ribbon, ruledOut, writtenAt } = came;
  const saved = {
    attemptId: row.id,
    slot,
    device,
    revision,
    answer: given,
    ribbon,
    ruledOut,
    writtenAt,
    savedAt: new Date(at),
  };
  await tx.insert(answerLog).values(saved).onConflictDoNothing();
  await tx
    .insert(answer)
    .values(saved)
    .onConflictDoUpdate({ target: [answer.attemptId, answer.slot], set: saved });
  const content = await versionContent(row.versionId);
  const seed = await seedOf(row);
  const keys = (await heldKeys(tx, [row.quizId]))(row.quizId);
  const keyOf = keys.keyOf(row.versionId);
  const place = planWithKeys(content, seed, keyOf).find((each) => each.slot === slot);
  if (!place) throw notFound();
  const checks = (await checksOf(tx, row.id)).get(slot) ?? [];
  const { marked } = markSlot(place, termsOf(content, keyOf), seed, { answer: given, checks });
  await setMark(tx, row.id, {
    slot,
    detail: marked,
    source: "rule",
    reason: said("server.marking.late-decisions.late-writing-was-taken", { reason }),
    markedBy: markerId,
    at,
    versionId: keys.versionOf(row.versionId, place.question.id),
  });
  await lookAgain(tx, { attemptId: row.id, slot }, markerId);
}

/**
 * Decides what was written in time and came late: it takes the place of what stood, or is left. What is decided is what was
 * shown: if more has come since, nothing is done. Its student is told, with the reason.
 */
export async function decideLate(
  viewer: Viewer,
  quizId: string,
  paper: number,
  input: unknown,
): Promise<void> {
  const { slot, decision, reason, writtenAt, arrivedAt } = inputOf(body, input);
  const room = await openRoom(viewer, quizId, "rule");
  const { quiz } = room.opened;
  const found = await paperOf(room, paper);
  await inTransaction(async (tx) => {
    await holdKeys(tx, [quiz.id]);
    const row = await lockAttempt(tx, found.id);
    if (!row || row.handedInAt === null) throw notFound();
    const { late, changes } = await changesIn(tx, row.id);
    const came = changes.get(slot)?.row;
    if (!came)
      throw new Problem(409, "decided-already", t("server.marking.late-decisions.it-is-decided-already"));
    if (came.writtenAt.getTime() !== writtenAt || came.arrivedAt.getTime() !== arrivedAt)
      throw new Problem(409, "changed-meanwhile", t("server.marking.late-decisions.more-has-come-since"));
    const at = new Date(now());
    if (decision === "taken") await take(tx, row, came, viewer.id, reason);
    for (const each of late.filter((one) => one.slot === slot)) {
      await tx
        .update(lateWriting)
        .set({
          decision: each === came && decision === "taken" ? "taken" : "left",
          decidedAt: at,
          decidedBy: viewer.id,
          reason,
        })
        .where(
          and(
            eq(lateWriting.attemptId, row.id),
            eq(lateWriting.slot, slot),
            eq(lateWriting.device, each.device),
            eq(lateWriting.revision, each.revision),
          ),
        );
    }
    await note(tx, {
      actorId: viewer.id,
      action: decision === "taken" ? "late writing taken" : "late writing left",
      subject: "attempt",
      subjectId: row.id,
      details: { slot, reason },
    });
    await notify(tx, [
      {
        personId: row.personId,
        kind: "by-clock",
        text:
          decision === "taken"
            ? said("server.marking.late-decisions.what-you-wrote-in-time-counts", {
                slot,
                title: quiz.title,
                reason,
              })
            : said("server.marking.late-decisions.what-came-late-was-left", {
                slot,
                title: quiz.title,
                reason,
              }),
        path: `/attempts/${row.id}/slip`,
      },
    ]);
  });
}

/** What came late and was decided, for who handed it in: what became of each answer. */
export async function decidedLateOf(attemptId: string) {
  const rows = await database()
    .selectDistinctOn([lateWriting.slot], {
      slot: lateWriting.slot,
      decision: lateWriting.decision,
      reason: lateWriting.reason,
      at: lateWriting.decidedAt,
    })
    .from(lateWriting)
    .where(eq(lateWriting.attemptId, attemptId))
    .orderBy(asc(lateWriting.slot), asc(lateWriting.decision));
  return rows.flatMap(({ slot, decision, reason, at }) =>
    decision === null ? [] : [{ slot, decision, reason: reason ?? "", at: at?.getTime() ?? 0 }],
  );
}
