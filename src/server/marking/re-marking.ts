import { createHash } from "node:crypto";
import { and, asc, desc, eq, inArray, isNotNull, isNull, lt, or, sql } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { Correction } from "@/core/kinds/correction";
import type { MarkedQuestion } from "@/core/kinds/kind";
import { exactNumber } from "@/core/kinds/shapes";
import { contentBefore, correctedContent } from "@/core/marking/corrected-content";
import type { SlotWork } from "@/core/marking/mark-attempt";
import {
  type AttemptToReMark,
  type ReMarked,
  reMarkAttempt,
  reMarkedWith,
  summaryOfReMarking,
} from "@/core/marking/re-mark";
import { exact, shown, written } from "@/core/numbers/exact";
import type { QuizContent } from "@/core/quiz/quiz-file";
import { type Said, said } from "@/core/said";
import { SECOND } from "@/core/time/instants";
import { database, inTransaction, type Queryable } from "@/data/database";
import {
  answer,
  answerCheck,
  attempt,
  attemptQuestion,
  mark,
  person,
  quiz,
  quizVersion,
  reMarking,
} from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { isConnectionTrouble } from "@/data/troubles";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { type NewMark, setMarks } from "../attempts/marks";
import { seedOf } from "../attempts/seeds";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { log } from "../base/log";
import { badInput, notFound, Problem } from "../base/problems";
import { note } from "../base/record";
import { notify } from "../notices/notify";
import { changeKeys } from "../quizzes/keys";
import { factsOf } from "../quizzes/quiz-facts";
import { versionContent } from "../quizzes/versions";
import { quizOfViewer, revelationsOf } from "../reveal/quizzes-of-person";
import { openRoom } from "./room";

/** So many attempts are worked through before others have their turn and progress is told. */
const AT_ONCE = 50;
/** A process that took one in hand and said nothing for so long is gone. */
const LEASE = 20 * SECOND;

type ReMarkingRow = typeof reMarking.$inferSelect;

/** What a re-marking would do to one attempt, with what it needs to be written. */
interface PlannedChange {
  readonly marked: ReMarked;
  readonly personId: string;
  readonly isReturned: boolean;
  /** Of slots that are put back as they were: the marks that come back, whole. */
  readonly restored: ReadonlyMap<number, typeof mark.$inferSelect>;
}

interface Plan {
  readonly content: QuizContent;
  readonly all: readonly PlannedChange[];
  /** What it changes, as a digest. */
  readonly digest: string;
}

/** A mark as far as totals need it. */
const light = (marks: string, awaiting: string, maximum: string): MarkedQuestion => ({
  marks,
  awaiting,
  maximum,
  state: "none",
  parts: [],
});

/** The attempts that have a question, handed in, in one order. */
const attemptsWith = (db: Queryable, quizId: string, questionId: string) =>
  db
    .select({
      id: attempt.id,
      versionId: attempt.versionId,
      seed: attempt.seed,
      naming: attempt.naming,
      personId: attempt.personId,
      returnedAt: attempt.returnedAt,
      slot: attemptQuestion.slot,
    })
    .from(attempt)
    .innerJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, attempt.id), eq(attemptQuestion.questionId, questionId)),
    )
    .where(and(eq(attempt.quizId, quizId), isNotNull(attempt.handedInAt), isNull(attempt.writtenRemovedAt)))
    .orderBy(asc(attempt.id));

type Row = Awaited<ReturnType<typeof attemptsWith>>[number];

/** What was written to a question in some attempts. */
async function writtenIn(db: Queryable, rows: readonly Row[], questionId: string) {
  const ids = rows.map(({ id }) => id);
  const here = and(eq(attemptQuestion.questionId, questionId), inArray(attemptQuestion.attemptId, ids));
  const answers = await db
    .select({ id: answer.attemptId, answer: answer.answer })
    .from(answer)
    .innerJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, answer.attemptId), eq(attemptQuestion.slot, answer.slot)),
    )
    .where(here);
  const checks = await db
    .select({ id: answerCheck.attemptId, answer: answerCheck.answer, part: answerCheck.part })
    .from(answerCheck)
    .innerJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, answerCheck.attemptId), eq(attemptQuestion.slot, answerCheck.slot)),
    )
    .where(here)
    .orderBy(asc(answerCheck.attemptId), asc(answerCheck.number));
  const works = new Map<string, SlotWork & { checks: { answer: unknown; part: number | null }[] }>();
  for (const { id } of rows) works.set(id, { answer: null, checks: [] });
  for (const { id, answer: given } of answers) {
    const held = works.get(id);
    if (held) works.set(id, { ...held, answer: given });
  }
  for (const { id, ...check } of checks) works.get(id)?.checks.push(check);
  return works;
}

/** The marks that hold in some attempts: those of the question whole, the others as far as totals need them. */
async function marksIn(db: Queryable, rows: readonly Row[], questionId: string) {
  const held = await db
    .selectDistinctOn([mark.attemptId, mark.slot], {
      attemptId: mark.attemptId,
      slot: mark.slot,
      source: mark.source,
      batchId: mark.batchId,
      marks: sql<string>`${mark.detail}->>'marks'`,
      awaiting: sql<string>`${mark.detail}->>'awaiting'`,
      maximum: sql<string>`${mark.detail}->>'maximum'`,
      detail: sql<MarkedQuestion | null>`case when ${mark.questionId} = ${questionId} then ${mark.detail} end`,
    })
    .from(mark)
    .where(
      inArray(
        mark.attemptId,
        rows.map(({ id }) => id),
      ),
    )
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
  const own = new Map<string, typeof held>();
  for (const each of held) own.set(each.attemptId, [...(own.get(each.attemptId) ?? []), each]);
  return own;
}

/** The marks that stood before a re-marking where its own stand now, by attempt and slot. */
async function marksBefore(db: Queryable, batchId: string, rows: readonly Row[]) {
  const found = await db
    .selectDistinctOn([mark.attemptId, mark.slot])
    .from(mark)
    .where(
      and(
        inArray(
          mark.attemptId,
          rows.map(({ id }) => id),
        ),
        sql`${mark.added} < (select min(own.added) from mark own where own.attempt_id = ${mark.attemptId}
          and own.slot = ${mark.slot} and own.batch_id = ${batchId})`,
      ),
    )
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
  return new Map(found.map((row) => [`${row.attemptId} ${row.slot}`, row]));
}

/** What a re-marking would change in some attempts. */
async function planSome(
  db: Queryable,
  rows: readonly Row[],
  terms: { readonly questionId: string; readonly content: QuizContent; readonly undoes: string | null },
): Promise<PlannedChange[]> {
  const { questionId, content, undoes } = terms;
  const works = await writtenIn(db, rows, questionId);
  const marks = await marksIn(db, rows, questionId);
  const before =
    undoes === null ? new Map<string, typeof mark.$inferSelect>() : await marksBefore(db, undoes, rows);
  const planned: PlannedChange[] = [];
  for (const row of rows) {
    const own = marks.get(row.id) ?? [];
    const toReMark: AttemptToReMark = {
      id: row.id,
      writtenOn: await versionContent(row.versionId),
      seed: await seedOf(row),
      work: new Map([[row.slot, works.get(row.id) ?? { answer: null }]]),
      marked: new Map(
        own.map(({ slot, detail, marks: m, awaiting, maximum }) => [
          slot,
          detail ?? light(m, awaiting, maximum),
        ]),
      ),
      byHand: new Set(own.filter(({ source }) => source === "hand").map(({ slot }) => slot)),
    };
    const stands = own.find(({ slot }) => slot === row.slot);
    const restored = new Map<number, typeof mark.$inferSelect>();
    const earlier = before.get(`${row.id} ${row.slot}`);
    // What a person marked since stays theirs.
    if (undoes !== null && stands?.batchId === undoes && earlier) restored.set(row.slot, earlier);
    const marked =
      restored.size > 0
        ? reMarkedWith(toReMark, new Map([...restored].map(([slot, each]) => [slot, each.detail])))
        : reMarkAttempt(toReMark, { questionId, quiz: content });
    planned.push({ marked, personId: row.personId, isReturned: row.returnedAt !== null, restored });
  }
  return planned;
}

/** What is changed where, in one text that is the same for the same changes. */
export function digestOf(all: readonly PlannedChange[]): string {
  const value = ({ marks, awaiting, maximum }: MarkedQuestion) => `${marks} ${awaiting} ${maximum}`;
  const lines = all.flatMap(({ marked }) =>
    marked.changes.map(
      ({ slot, before, after }) =>
        `${marked.id} ${slot} ${before === null ? "" : value(before)} -> ${value(after)}`,
    ),
  );
  return createHash("sha256").update(lines.sort().join("\n")).digest("hex");
}

const correctionShape = yup.lazy((change: { kind?: unknown } | undefined) => {
  const name = () => yup.string().strict().max(5_000).defined();
  const place = () => yup.number().strict().integer().min(0).max(200).required();
  switch (change?.kind) {
    case "credit":
      return yup
        .object({
          kind: yup.string().strict().oneOf(["credit"]).required(),
          credit: exactNumber(0, 1).required(),
          groups: yup
            .array()
            .of(yup.object({ part: place(), identity: name() }).strict().noUnknown().required())
            .min(1, said("server.marking.re-marking.pick-the-answers"))
            .max(500)
            .required(said("server.marking.re-marking.pick-the-answers")),
        })
        .strict()
        .noUnknown();
    case "key":
      return yup
        .object({
          kind: yup.string().strict().oneOf(["key"]).required(),
          part: place(),
          identity: name(),
          written: name(),
        })
        .strict()
        .noUnknown();
    case "drop":
      return yup
        .object({
          kind: yup.string().strict().oneOf(["drop"]).required(),
          dropped: yup.string().strict().oneOf(["marks-to-all", "out-of-the-maximum"]).required(),
        })
        .strict()
        .noUnknown();
    default:
      return yup
        .object({
          kind: yup
            .string()
            .strict()
            .oneOf(["undo"], said("server.marking.re-marking.the-change-must-be"))
            .required(said("server.marking.re-marking.the-change-must-be")),
          undoes: yup
            .string()
            .strict()
            .test("uuid", said("server.marking.share-pile.this-is-not-an-id"), (id) => isUuid(id ?? ""))
            .required(),
        })
        .strict()
        .noUnknown();
  }
});

const body = yup
  .object({
    question: yup.string().strict().max(40).required(),
    change: correctionShape,
    reason: yup.string().strict().trim().max(500).default(""),
    /** What was shown beforehand, as it was told: absent, nothing is done yet. */
    expects: yup.string().strict().length(64),
  })
  .strict()
  .noUnknown();

interface Wanted {
  readonly question: string;
  readonly correction: Correction;
  readonly undoes: string | null;
  readonly reason: string;
  readonly expects: string | null;
}

function wantedIn(input: unknown): Wanted {
  const { question, change: asked, reason = "", expects } = inputOf(body, input);
  const change = asked as {
    kind: string;
    credit?: number | string;
    groups?: { part: number; identity: string }[];
  } & Record<string, unknown>;
  const common = { question, reason, expects: expects ?? null, undoes: null };
  if (change.kind === "credit") {
    const credit = written(exact(change.credit ?? 0));
    const grants = (change.groups ?? []).map(({ part, identity }) => ({ part, identity, credit, reason }));
    return { ...common, correction: { kind: "credit", grants } };
  }
  if (change.kind === "undo")
    return { ...common, correction: { kind: "undo" }, undoes: String(change.undoes) };
  return { ...common, correction: change as unknown as Correction };
}

/** The newest re-marking of a question that holds, with the versions before and after it. */
async function holdingReMarking(db: Queryable, quizId: string, questionId: string) {
  const [row] = await db
    .select({ row: reMarking, number: quizVersion.number })
    .from(reMarking)
    .innerJoin(quizVersion, eq(quizVersion.id, reMarking.versionId))
    .where(
      and(
        eq(reMarking.quizId, quizId),
        eq(reMarking.questionId, questionId),
        isNotNull(reMarking.finishedAt),
      ),
    )
    .orderBy(desc(quizVersion.number))
    .limit(1);
  return row ?? null;
}

/** The newest version of a quiz. */
async function currentVersion(db: Queryable, quizId: string) {
  const [row] = await db
    .select({ id: quizVersion.id, number: quizVersion.number })
    .from(quizVersion)
    .innerJoin(quiz, and(eq(quiz.id, quizVersion.quizId), eq(quiz.currentVersion, quizVersion.number)))
    .where(eq(quiz.id, quizId));
  if (!row) throw notFound();
  return row;
}

/** The quiz as the re-marking makes it. @throws Problem where that cannot be done */
async function contentOf(
  db: Queryable,
  quizId: string,
  { question, correction, undoes }: Pick<Wanted, "question" | "correction" | "undoes">,
): Promise<QuizContent> {
  const current = await versionContent((await currentVersion(db, quizId)).id);
  if (correction.kind !== "undo") {
    const corrected = correctedContent(current, question, correction);
    if (!corrected) throw badInput(t("server.marking.re-marking.this-answer-cannot-be-the-key"));
    return corrected;
  }
  const holding = await holdingReMarking(db, quizId, question);
  if (!holding || holding.row.id !== undoes || holding.row.undoes !== null || holding.row.undoneAt !== null)
    throw new Problem(409, "not-the-last", t("server.marking.re-marking.only-the-last-can-be-undone"));
  const [earlier] = await db
    .select({ id: quizVersion.id })
    .from(quizVersion)
    .where(and(eq(quizVersion.quizId, quizId), lt(quizVersion.number, holding.number)))
    .orderBy(desc(quizVersion.number))
    .limit(1);
  if (!earlier) throw notFound();
  return contentBefore(current, await versionContent(earlier.id), question);
}

/** Lets others have their turn. */
const breathe = () => new Promise<void>((go) => setImmediate(go));

async function planAll(
  db: Queryable,
  quizId: string,
  wanted: Pick<Wanted, "question" | "correction" | "undoes">,
  onProgress: (done: number, total: number) => Promise<void> = async () => {},
): Promise<Plan> {
  const content = await contentOf(db, quizId, wanted);
  const rows = await attemptsWith(db, quizId, wanted.question);
  const all: PlannedChange[] = [];
  for (let i = 0; i < rows.length; i += AT_ONCE) {
    const terms = { questionId: wanted.question, content, undoes: wanted.undoes };
    all.push(...(await planSome(db, rows.slice(i, i + AT_ONCE), terms)));
    await onProgress(all.length, rows.length);
    await breathe();
  }
  return { content, all, digest: digestOf(all) };
}

/** Whose mark changes, from what to what. */
export interface ReMarkingPreview {
  /** Attempts that have the question. */
  readonly attempts: number;
  readonly changed: number;
  readonly gain: number;
  readonly lose: number;
  readonly meanBefore: string | null;
  readonly meanAfter: string | null;
  /** How many of those that change are seen by their students already: they are told. */
  readonly told: number;
  readonly lines: readonly {
    readonly name: string;
    readonly before: string;
    readonly after: string;
    readonly maximum: string;
  }[];
  /** Said again when it is done: it does exactly this, or nothing. */
  readonly expects: string;
}

/** The attempts whose change their students would see at once: what was returned, and marks that the rules show before. */
async function toTell(quizId: string, plan: Plan): Promise<ReadonlySet<string>> {
  const seen = new Set<string>();
  for (const { marked, personId, isReturned } of plan.all) {
    if (marked.changes.length === 0) continue;
    const item = isReturned ? undefined : await quizOfViewer({ id: personId }, quizId);
    const row = item?.attempts.find(({ id }) => id === marked.id);
    const reveal = item && row && revelationsOf(item, row);
    if (isReturned || reveal?.marks.visible || reveal?.total.visible) seen.add(marked.id);
  }
  return seen;
}

async function previewed(quizId: string, plan: Plan, hidden: boolean): Promise<ReMarkingPreview> {
  const changed = plan.all.filter(({ marked }) => marked.changes.length > 0);
  const { gain, lose, meanBefore, meanAfter } = summaryOfReMarking(plan.all.map(({ marked }) => marked));
  const ids = changed.map(({ personId }) => personId);
  const people =
    ids.length === 0
      ? []
      : await database()
          .select({ id: person.id, name: person.name })
          .from(person)
          .where(inArray(person.id, ids));
  const names = new Map(people.map(({ id, name }) => [id, name]));
  const lines = changed.map(({ marked, personId }) => ({
    name: hidden ? "" : (names.get(personId) ?? ""),
    before: shown(marked.before.earned),
    after: shown(marked.after.earned),
    maximum: shown(marked.after.maximum),
  }));
  return {
    attempts: plan.all.length,
    changed: changed.length,
    gain,
    lose,
    meanBefore: meanBefore && shown(meanBefore),
    meanAfter: meanAfter && shown(meanAfter),
    told: (await toTell(quizId, plan)).size,
    lines: lines.sort((a, b) => a.name.localeCompare(b.name)),
    expects: plan.digest,
  };
}

/** How a re-marking goes. */
export interface ReMarkingState {
  readonly id: string;
  readonly question: string;
  readonly reason: string;
  readonly done: number;
  readonly total: number;
  readonly state: "working" | "done" | "refused" | "undone";
  readonly refused: string | null;
  readonly by: string;
  readonly at: number;
  /** Whether it takes another one back. */
  readonly isUndo: boolean;
}

/** The re-markings of a quiz, newest first. */
export async function reMarkingsOf(
  viewer: Viewer,
  quizId: string,
  question?: string,
): Promise<ReMarkingState[]> {
  const { opened } = await openRoom(viewer, quizId, "rule");
  const rows = await database()
    .select({ row: reMarking, by: person.name })
    .from(reMarking)
    .innerJoin(person, eq(person.id, reMarking.makerId))
    .where(
      and(
        eq(reMarking.quizId, opened.quiz.id),
        question === undefined ? undefined : eq(reMarking.questionId, question),
      ),
    )
    .orderBy(desc(reMarking.createdAt), desc(reMarking.id));
  return rows.map(({ row, by }) => ({
    id: row.id,
    question: row.questionId,
    reason: row.reason,
    done: row.done,
    total: row.total,
    state:
      row.undoneAt !== null
        ? "undone"
        : row.refused !== null
          ? "refused"
          : row.finishedAt !== null
            ? "done"
            : "working",
    refused: row.refused,
    by,
    at: row.createdAt.getTime(),
    isUndo: row.undoes !== null,
  }));
}

/**
 * Changes how a question is marked. Without `expects` it only shows what would change; with it, the change is begun: a job marks
 * again, and does exactly what was shown, or nothing.
 */
export async function changeMarking(
  viewer: Viewer,
  quizId: string,
  input: unknown,
): Promise<{ readonly preview: ReMarkingPreview } | { readonly id: string }> {
  const wanted = wantedIn(input);
  const { opened, namesHidden } = await openRoom(viewer, quizId, "rule");
  const { quiz: set } = opened;
  if (wanted.expects === null) {
    return { preview: await previewed(set.id, await planAll(database(), set.id, wanted), namesHidden) };
  }
  if (wanted.reason === "") throw badInput(t("server.marking.re-marking.say-why"));
  // What cannot be done is refused before anything is begun.
  await contentOf(database(), set.id, wanted);
  const rows = await attemptsWith(database(), set.id, wanted.question);
  const id = newId();
  await inTransaction(async (tx) => {
    await tx.insert(reMarking).values({
      id,
      quizId: set.id,
      questionId: wanted.question,
      change: wanted.correction,
      reason: wanted.reason,
      expects: wanted.expects ?? "",
      undoes: wanted.undoes,
      makerId: viewer.id,
      createdAt: new Date(now()),
      total: rows.length,
    });
    await note(tx, {
      actorId: viewer.id,
      action: "re-marking begun",
      subject: "quiz",
      subjectId: set.id,
      details: { question: wanted.question, change: wanted.correction.kind, reason: wanted.reason },
    });
  });
  return { id };
}

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
