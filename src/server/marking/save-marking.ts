import { and, eq } from "drizzle-orm";
import * as yup from "yup";
import type { RefusedEntry } from "@/core/desk/desk-view";
import type { MarkingReceipt, StandingWork } from "@/core/desk/room-view";
import { exactObject } from "@/core/kinds/shapes";
import { type HandWork, handState } from "@/core/marking/hand-work";
import { handWorkShape } from "@/core/marking/hand-work-shape";
import { exact } from "@/core/numbers/exact";
import type { Said } from "@/core/said";
import { type Database, database, inTransaction } from "@/data/database";
import { answer, attemptQuestion, handMarking, handMarkingLog, person } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { lockAttempt } from "../attempts/lock-attempt";
import { currentMarks } from "../attempts/marks";
import { answerDigest, canonicalJson } from "../attempts/slip-code";
import { now } from "../base/clock";
import { inputOf, mistakeSentence } from "../base/input";
import { notFound } from "../base/problems";
import { claimFor } from "./claims";
import { rubricOf } from "./pile";
import { openRoom, paperOf, takenBack } from "./room";

const MOST_ENTRIES = 50;
const FARTHEST = Date.UTC(2100, 0, 1);

const entryShape = exactObject({
  slot: yup.number().strict().integer().min(0).max(1_000).required(),
  device: yup.string().strict().uuid().required(),
  revision: yup.number().strict().integer().min(1).max(Number.MAX_SAFE_INTEGER).required(),
  writtenAt: yup.number().strict().integer().min(0).max(FARTHEST).required(),
  base: yup.number().strict().integer().min(0).max(1_000_000_000).required(),
  answerDigest: yup
    .string()
    .strict()
    .matches(/^([0-9a-f]{64})?$/)
    .defined(),
  work: handWorkShape,
});
type Entry = Omit<yup.InferType<typeof entryShape>, "work"> & { readonly work: HandWork };

const body = exactObject({
  entries: yup.array(yup.mixed().defined()).strict().max(MOST_ENTRIES).required(),
});

/** What names an entry, so that it can be refused by itself. */
const nameShape = yup.object({
  slot: yup.number().strict().required(),
  device: yup.string().strict().uuid().required(),
  revision: yup.number().strict().required(),
});

const noUndefined = (work: HandWork): HandWork => JSON.parse(JSON.stringify(work)) as HandWork;

/** What stands in a slot of a paper. */
export async function standingWork(
  db: Pick<Database, "select">,
  attemptId: string,
  slot: number,
): Promise<(StandingWork & { readonly returnedVersion: number | null; readonly authorId: string }) | null> {
  const [row] = await db
    .select({ stands: handMarking, author: person.name })
    .from(handMarking)
    .innerJoin(person, eq(person.id, handMarking.authorId))
    .where(and(eq(handMarking.attemptId, attemptId), eq(handMarking.slot, slot)));
  if (!row) return null;
  const { work, version, device, revision, writtenAt, returnedVersion, authorId } = row.stands;
  return {
    work,
    version,
    device,
    revision,
    writtenAt: writtenAt.getTime(),
    author: row.author,
    authorId,
    returnedVersion,
  };
}

/** Digest of what stands as the answer of a slot. */
async function digestOf(tx: Database, attemptId: string, slot: number): Promise<string> {
  const [row] = await tx
    .select({ answer: answer.answer })
    .from(answer)
    .where(and(eq(answer.attemptId, attemptId), eq(answer.slot, slot)));
  return answerDigest(row?.answer ?? null);
}

/** How far what was written decides its question; or why it does not fit it. */
async function fitOf(
  tx: Database,
  row: { readonly id: string; readonly versionId: string },
  { slot, work }: Entry,
): Promise<{ readonly problem: Said | null; readonly done: boolean }> {
  const wrong = (problem: Said) => ({ problem, done: false });
  if (slot === 0) {
    const { criteria, marks, notes } = work;
    return marks === null && notes.length === 0 && Object.keys(criteria).length === 0
      ? { problem: null, done: true }
      : wrong(t("server.marking.save-marking.the-paper-as-a-whole"));
  }
  const [place] = await tx
    .select({ question: attemptQuestion.questionId })
    .from(attemptQuestion)
    .where(and(eq(attemptQuestion.attemptId, row.id), eq(attemptQuestion.slot, slot)));
  const held = (await currentMarks(tx, row.id)).find((each) => each.slot === slot);
  if (!place || !held) return wrong(t("server.desk.no-such-question", { slot }));
  const rubric = await rubricOf(held.versionId ?? row.versionId, place.question);
  if (!rubric && Object.keys(work.criteria).length > 0)
    return wrong(t("server.marking.save-marking.no-rubric"));
  const state = handState(rubric, exact(held.detail.maximum), work);
  return state.ok ? { problem: null, done: state.isDone } : wrong(state.problem);
}

/** The entries of a save that have their shape, and those that do not but can be named. @throws Problem */
function read(entries: readonly unknown[]): { readonly good: Entry[]; readonly refused: RefusedEntry[] } {
  const good: Entry[] = [];
  const refused: RefusedEntry[] = [];
  for (const entry of entries) {
    try {
      const shaped = entryShape.validateSync(entry, { strict: true }) as Entry;
      good.push({ ...shaped, device: shaped.device.toLowerCase(), work: noUndefined(shaped.work) });
    } catch (error) {
      if (!(error instanceof yup.ValidationError)) throw error;
      // What cannot even be named refuses the whole.
      const { slot, device, revision } = inputOf(nameShape, entry);
      refused.push({
        slot,
        device: device.toLowerCase(),
        revision,
        type: "bad-input",
        sentence: mistakeSentence(error),
      });
    }
  }
  return { good, refused };
}

/**
 * Saves what a marker writes to a paper, as it is written: nobody but markers sees it before it is returned. What another page
 * wrote meanwhile is never overwritten: the entry is refused, and what stands is sent back. The same entry again is the same.
 */
export async function saveMarking(
  viewer: Viewer,
  quizId: string,
  paper: number,
  input: unknown,
): Promise<MarkingReceipt> {
  const { entries } = inputOf(body, input);
  const room = await openRoom(viewer, quizId);
  const row = await paperOf(room, paper);
  const { good, refused } = read(entries);
  const saved: MarkingReceipt["saved"][number][] = [];
  const standing: MarkingReceipt["standing"][number][] = [];
  const at = now();
  await inTransaction(async (tx) => {
    // One after the other, whoever writes to this paper.
    const held = await lockAttempt(tx, row.id);
    // Taken back, or removed, in this very moment.
    if (!held || held.writtenRemovedAt !== null) throw notFound();
    if (held.handedInAt === null) throw takenBack();
    for (const entry of good) {
      const { slot, device, revision, base, work } = entry;
      const refuse = (type: RefusedEntry["type"], sentence: Said) =>
        refused.push({ slot, device, revision, type, sentence });
      const where = { attemptId: row.id, slot };
      const [logged] = await tx
        .select({ work: handMarkingLog.work, version: handMarkingLog.version })
        .from(handMarkingLog)
        .where(
          and(
            eq(handMarkingLog.attemptId, row.id),
            eq(handMarkingLog.slot, slot),
            eq(handMarkingLog.device, device),
            eq(handMarkingLog.revision, revision),
          ),
        );
      if (logged) {
        if (canonicalJson(logged.work) === canonicalJson(work)) {
          saved.push({ slot, device, revision, version: logged.version });
        } else refuse("number-taken", t("server.marking.save-marking.this-number-was-given"));
        continue;
      }
      const { problem, done } = await fitOf(tx, row, entry);
      if (problem) {
        refuse("bad-input", problem);
        continue;
      }
      if (slot > 0 && (await digestOf(tx, row.id, slot)) !== entry.answerDigest) {
        refuse("answer-changed", t("server.marking.save-marking.the-answer-has-changed"));
        continue;
      }
      const stands = await standingWork(tx, row.id, slot);
      const isOwn = stands?.device === device && stands.authorId === viewer.id && stands.revision < revision;
      if (!isOwn && (stands?.version ?? 0) !== base) {
        if (stands) {
          const { returnedVersion: _, authorId: __, ...shown } = stands;
          standing.push({ slot, ...shown });
        }
        refuse(
          "written-elsewhere",
          t("server.marking.save-marking.wrote-here-meanwhile", { author: stands?.author ?? "" }),
        );
        continue;
      }
      // Another page of the same person may have it: what it wrote would have been seen by now.
      const holder = await claimFor(tx, where, viewer, device, false);
      if (holder && !holder.isSelf) {
        refuse("held", t("server.marking.save-marking.has-this-answer-open", { name: holder.name }));
        continue;
      }
      const version = (stands?.version ?? 0) + 1;
      const values = {
        ...where,
        work,
        version,
        device,
        revision,
        authorId: viewer.id,
        writtenAt: new Date(Math.min(entry.writtenAt, at)),
        savedAt: new Date(at),
      };
      await tx.insert(handMarkingLog).values(values);
      const now = { ...values, done, answerDigest: entry.answerDigest };
      await tx
        .insert(handMarking)
        .values(now)
        .onConflictDoUpdate({ target: [handMarking.attemptId, handMarking.slot], set: now });
      saved.push({ slot, device, revision, version });
    }
  });
  return { serverNow: at, saved, refused, standing, newer: [] };
}

/** What stands of a paper as a whole. */
export async function wholeOfPaper(
  viewer: Viewer,
  quizId: string,
  paper: number,
): Promise<{ readonly version: number; readonly work: HandWork | null }> {
  const row = await paperOf(await openRoom(viewer, quizId), paper);
  const stands = await standingWork(database(), row.id, 0);
  return { version: stands?.version ?? 0, work: stands?.work ?? null };
}
