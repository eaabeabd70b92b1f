import { createHash } from "node:crypto";
import { and, asc, desc, eq, inArray, isNotNull, isNull, lt, sql } from "drizzle-orm";
import type { MarkedQuestion } from "@/core/kinds/kind";
import { contentBefore, correctedContent } from "@/core/marking/corrected-content";
import type { SlotWork } from "@/core/marking/mark-attempt";
import { type AttemptToReMark, type ReMarked, reMarkAttempt, reMarkedWith } from "@/core/marking/re-mark";
import type { QuizContent } from "@/core/quiz/quiz-file";
import type { Queryable } from "@/data/database";
import {
  answer,
  answerCheck,
  attempt,
  attemptQuestion,
  mark,
  quiz,
  quizVersion,
  reMarking,
} from "@/data/schema";
import { t } from "@/words/t";
import { seedOf } from "../attempts/seeds";
import { breathe } from "../base/breathe";
import { badInput, notFound, Problem } from "../base/problems";
import { versionContent } from "../quizzes/versions";
import { quizOfViewer, revelationsOf } from "../reveal/quizzes-of-person";
import type { Wanted } from "./re-marking-request";

/** So many attempts are worked through before others have their turn and progress is told. */
const AT_ONCE = 50;
/** What a re-marking would do to one attempt, with what it needs to be written. */
interface PlannedChange {
  readonly marked: ReMarked;
  readonly personId: string;
  readonly isReturned: boolean;
  /** Of slots that are put back as they were: the marks that come back, whole. */
  readonly restored: ReadonlyMap<number, typeof mark.$inferSelect>;
}

/** The quiz as it will be, and what that changes in all attempts that have the question. */
export interface Plan {
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
export const attemptsWith = (db: Queryable, quizId: string, questionId: string) =>
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
function digestOf(all: readonly PlannedChange[]): string {
  const value = ({ marks, awaiting, maximum }: MarkedQuestion) => `${marks} ${awaiting} ${maximum}`;
  const lines = all.flatMap(({ marked }) =>
    marked.changes.map(
      ({ slot, before, after }) =>
        `${marked.id} ${slot} ${before === null ? "" : value(before)} -> ${value(after)}`,
    ),
  );
  return createHash("sha256").update(lines.sort().join("\n")).digest("hex");
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
export async function currentVersion(db: Queryable, quizId: string) {
  const [row] = await db
    .select({ id: quizVersion.id, number: quizVersion.number })
    .from(quizVersion)
    .innerJoin(quiz, and(eq(quiz.id, quizVersion.quizId), eq(quiz.currentVersion, quizVersion.number)))
    .where(eq(quiz.id, quizId));
  if (!row) throw notFound();
  return row;
}

/** The quiz as the re-marking makes it. @throws Problem where that cannot be done */
export async function contentOf(
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

export async function planAll(
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

/** The attempts whose change their students would see at once: what was returned, and marks that the rules show before. */
export async function toTell(quizId: string, plan: Plan): Promise<ReadonlySet<string>> {
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
