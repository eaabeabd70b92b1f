import { and, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { type AssetFiles, assembled } from "@/core/draft/assembled";
import type { AssignEffect, QuestionEffect } from "@/core/draft/assign-view";
import { assetsOf } from "@/core/draft/pieces";
import { changedQuestions, keptCorrections } from "@/core/draft/version-changes";
import { exactNumber, exactObject } from "@/core/kinds/shapes";
import { exact, written } from "@/core/numbers/exact";
import { contradictionsOf } from "@/core/quiz/contradictions";
import { type QuizContent, readQuizFile, splitFile } from "@/core/quiz/quiz-file";
import type { QuizSettings } from "@/core/quiz/rules";
import { type Said, said } from "@/core/said";
import { sameValue } from "@/core/same-value";
import { plainText } from "@/core/text/plain-text";
import { type Database, inTransaction } from "@/data/database";
import { asset, attempt, attemptQuestion, draft, quiz, quizVersion } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { instantOf, now } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { badInput, notFound, Problem } from "../base/problems";
import { note } from "../base/record";
import { tried } from "../base/tried";
import { notify } from "../notices/notify";
import { writeSettings } from "../quizzes/change-settings";
import { cleanQuiz } from "../quizzes/clean-quiz";
import { changeKeys } from "../quizzes/keys";
import { moment } from "../quizzes/moments";
import { holdQuizzes, moveDeadlines } from "../quizzes/move-deadlines";
import { factsOf } from "../quizzes/quiz-facts";
import { setTakers, takersShape } from "../quizzes/set-times";
import { briefLine, inOrder, timesOfStudents } from "../quizzes/times-of-students";
import { newestChange, piecesOfDraft } from "./draft-pieces";
import { followBank, noteBankUse } from "./follow-bank";
import { followQuiz } from "./follow-quiz";
import { type OpenedDraft, openDraft } from "./open-draft";

/** So much of a question's text names it in a list, in characters. */
const NAMED_BY = 90;

const body = exactObject({
  opens: moment("opens"),
  due: moment("due"),
  closes: moment("closes"),
  onlyFor: takersShape(),
  /** What has to be handed in first, and the share in per cent that has to be reached in it; null: nothing. */
  first: exactObject({
    quizId: yup
      .string()
      .strict()
      .test("uuid", said("server.drafts.assign-draft.no-such-quiz"), (id) => isUuid(id ?? ""))
      .required(),
    atLeast: exactNumber(0, 100).nullable(),
  })
    .nullable()
    .default(undefined),
  /** Why a quiz that was assigned before is changed: it goes on record. */
  reason: yup
    .string()
    .strict()
    .test("words", said("server.quizzes.change-settings.say-why-it-goes-on-record"), hasWords)
    .max(500),
  /** The newest change of the draft that was looked over; absent: whatever it is. */
  expects: yup.number().strict().integer().min(0),
});

type Wanted = yup.InferType<typeof body>;

/** What assigning a draft would do; nothing is done. */
export async function lookOverAssigning(
  viewer: Viewer,
  draftId: string,
  input: unknown,
): Promise<AssignEffect> {
  const wanted = inputOf(body, input);
  const opened = await openDraft(viewer, draftId);
  // What it takes in from elsewhere stays, so that what is looked over is what is assigned afterwards.
  await inTransaction((tx) => takeIn(tx, viewer, opened.draft));
  return tried((tx) => assign(tx, viewer, opened, wanted, true));
}

/**
 * Makes a version of a draft that never changes: the first time a quiz for those for whom it is set, who are told; later the
 * next version of that quiz, on which attempts begin from then on.
 */
export async function assignDraft(viewer: Viewer, draftId: string, input: unknown): Promise<AssignEffect> {
  const wanted = inputOf(body, input);
  const opened = await openDraft(viewer, draftId);
  return inTransaction((tx) => assign(tx, viewer, opened, wanted, false));
}

/** Takes into a draft what was changed elsewhere: in its quiz, and in the banks that it takes from. */
async function takeIn(tx: Database, viewer: Viewer, held: typeof draft.$inferSelect): Promise<void> {
  await followQuiz(tx, viewer, held);
  await followBank(tx, viewer.id, held);
}

/** The bytes of what a draft shows and plays, as data addresses. */
async function filesOf(tx: Database, courseId: string, ids: readonly string[]): Promise<AssetFiles> {
  const rows =
    ids.length === 0
      ? []
      : await tx
          .select({ id: asset.id, type: asset.type, bytes: asset.bytes })
          .from(asset)
          .where(and(eq(asset.courseId, courseId), inArray(asset.id, [...ids])));
  const byId = new Map(
    rows.map(({ id, type, bytes }) => [id, `data:${type};base64,${bytes.toString("base64")}`]),
  );
  const data = (id: string) => ({ data: byId.get(id) ?? "" });
  return { picture: data, recording: data };
}

/** A draft as a quiz that can be assigned. @throws Problem where something is to be put right */
export async function quizOfDraft(
  tx: Database,
  opened: OpenedDraft,
): Promise<{ readonly content: QuizContent; readonly settings: QuizSettings }> {
  const pieces = await piecesOfDraft(tx, opened.draft.id);
  const shown = assetsOf(pieces);
  const files = await filesOf(tx, opened.course.id, shown);
  const reading = readQuizFile(assembled(pieces, files).quiz);
  if (!reading.ok)
    throw new Problem(
      422,
      "to-put-right",
      t("server.drafts.assign-draft.put-right-first", { count: reading.mistakes.length }),
    );
  return splitFile(cleanQuiz(reading.quiz), opened.course.unitMeanings);
}

async function assign(
  tx: Database,
  viewer: Viewer,
  opened: OpenedDraft,
  wanted: Wanted,
  isLook: boolean,
): Promise<AssignEffect> {
  const found = tx.select().from(draft).where(eq(draft.id, opened.draft.id));
  const [held] = await (isLook ? found : found.for("update"));
  if (!held || held.removedAt !== null) throw notFound();
  await takeIn(tx, viewer, held);
  const expects = await newestChange(tx, held.id);
  if (wanted.expects !== undefined && wanted.expects !== expects)
    throw new Problem(409, "changed-meanwhile", t("server.drafts.assign-draft.changed-meanwhile"));
  const made = await quizOfDraft(tx, { ...opened, draft: held });
  const first = await firstOf(tx, held, wanted);
  const terms = { viewer, held, wanted, ...made, first, isLook };
  const effect =
    held.quizId === null ? await assignNew(tx, terms) : await assignAgain(tx, terms, held.quizId);
  if (!isLook && effect.quizId !== null)
    await noteBankUse(tx, effect.quizId, await piecesOfDraft(tx, held.id));
  return { ...effect, expects };
}

interface Terms {
  readonly viewer: Viewer;
  readonly held: typeof draft.$inferSelect;
  readonly wanted: Wanted;
  readonly content: QuizContent;
  readonly settings: QuizSettings;
  readonly first: { readonly quizId: string; readonly atLeast: string | null } | null | undefined;
  readonly isLook: boolean;
}

type Effect = Omit<AssignEffect, "expects">;

/** What has to come first. @throws Problem where there is no such quiz, or it would wait for itself */
async function firstOf(
  tx: Database,
  held: typeof draft.$inferSelect,
  { first }: Wanted,
): Promise<Terms["first"]> {
  if (first === undefined || first === null) return first;
  const seen = new Set<string>(held.quizId === null ? [] : [held.quizId]);
  let next: string | null = first.quizId;
  while (next !== null) {
    if (seen.has(next)) throw badInput(t("server.drafts.assign-draft.waits-for-itself"));
    seen.add(next);
    const [row]: { firstQuizId: string | null }[] = await tx
      .select({ firstQuizId: quiz.firstQuizId })
      .from(quiz)
      .where(and(eq(quiz.id, next), eq(quiz.courseId, held.courseId)));
    if (!row) throw badInput(t("server.drafts.assign-draft.no-such-quiz"));
    next = row.firstQuizId;
  }
  const { quizId, atLeast } = first;
  return { quizId, atLeast: atLeast === null || atLeast === undefined ? null : written(exact(atLeast)) };
}

const instant = (text: string | null | undefined): number | null => (text ? Date.parse(text) : null);
const date = (at: number | null) => (at === null ? null : new Date(at));

async function assignNew(tx: Database, terms: Terms): Promise<Effect> {
  const { viewer, held, wanted, content, settings, first, isLook } = terms;
  const window = {
    opens: instant(wanted.opens),
    due: instant(wanted.due),
    closes: instant(wanted.closes),
  };
  if (!inOrder(window)) throw badInput(t("server.quizzes.set-times.a-quiz-opens-first-is-due"));
  const contradictions = contradictionsOf({ ...content.rules, ...settings }, window);
  if (!isLook && contradictions[0]) throw badInput(contradictions[0]);
  const id = newId();
  await tx.insert(quiz).values({
    id,
    courseId: held.courseId,
    title: content.title,
    opens: date(window.opens),
    due: date(window.due),
    closes: date(window.closes),
    settings,
    instructorId: viewer.id,
    ...(first ? { firstQuizId: first.quizId, firstAtLeast: first.atLeast } : {}),
    // What opens from now on is told when it opens; that it was set is told at once.
    openingTold: new Date(now()),
    tellsShownFrom: new Date(now()),
  });
  await setTakers(tx, { id, courseId: held.courseId }, wanted.onlyFor ?? null);
  await tx
    .insert(quizVersion)
    .values({ id: newId(), quizId: id, number: 1, content, facts: factsOf(content), createdBy: viewer.id });
  const students = [...(await timesOfStudents(tx, [id])).values()];
  if (!isLook) {
    await tx
      .update(draft)
      .set({ quizId: id, ofVersion: 1, settings, assignedAt: new Date(now()) })
      .where(eq(draft.id, held.id));
    await note(tx, {
      actorId: viewer.id,
      action: "assigned",
      subject: "quiz",
      subjectId: id,
      details: { version: 1, onlyFor: wanted.onlyFor ?? null },
    });
    await notify(
      tx,
      students.map((each) => ({
        personId: each.personId,
        kind: "moved" as const,
        text: said("server.drafts.assign-draft.is-set-for-you", {
          title: content.title,
          line: briefLine(each),
        }),
        path: `/quizzes/${id}`,
      })),
    );
  }
  return {
    quizId: isLook ? null : id,
    version: 1,
    students: students.length,
    told: students.length,
    running: 0,
    handedIn: 0,
    questions: [],
    contradictions,
  };
}

/** How many attempts at a quiz run, and how many were handed in. */
async function attemptsAt(tx: Database, quizId: string) {
  const [row] = await tx
    .select({
      running: sql<number>`count(*) filter (where ${attempt.handedInAt} is null)::int`,
      handedIn: sql<number>`count(*) filter (where ${attempt.handedInAt} is not null)::int`,
    })
    .from(attempt)
    .where(eq(attempt.quizId, quizId));
  return { running: row?.running ?? 0, handedIn: row?.handedIn ?? 0 };
}

/** What becomes otherwise in the questions, with how many handed-in attempts each concerns. */
async function questionEffects(
  tx: Database,
  quizId: string,
  before: QuizContent,
  after: QuizContent,
): Promise<QuestionEffect[]> {
  const changed = changedQuestions(before, after);
  const ids = changed.map(({ id }) => id);
  const rows =
    ids.length === 0
      ? []
      : await tx
          .select({ id: attemptQuestion.questionId, attempts: sql<number>`count(*)::int` })
          .from(attemptQuestion)
          .innerJoin(attempt, eq(attempt.id, attemptQuestion.attemptId))
          .where(
            and(
              eq(attempt.quizId, quizId),
              isNotNull(attempt.handedInAt),
              inArray(attemptQuestion.questionId, ids),
            ),
          )
          .groupBy(attemptQuestion.questionId);
  const counts = new Map(rows.map(({ id, attempts }) => [id, attempts]));
  return changed.map(({ id, change, question }) => ({
    id,
    change,
    text: plainText(question.text).trim().slice(0, NAMED_BY),
    attempts: counts.get(id) ?? 0,
  }));
}

async function assignAgain(tx: Database, terms: Terms, quizId: string): Promise<Effect> {
  const { viewer, held, wanted, content, settings, first, isLook } = terms;
  const { reason } = wanted;
  if (!isLook && reason === undefined)
    throw badInput(t("server.quizzes.change-settings.say-why-it-goes-on-record"));
  const by = { actorId: viewer.id, reason: isLook ? null : (reason ?? "") };
  // Whoever marks by the keys as they are ends first.
  if (!isLook) await changeKeys(tx, quizId);
  const [row] = await holdQuizzes(tx, [quizId], by);
  if (!row) throw notFound();
  const [current] = await tx
    .select()
    .from(quizVersion)
    .where(and(eq(quizVersion.quizId, quizId), eq(quizVersion.number, row.currentVersion)));
  if (!current) throw notFound();
  const corrections = keptCorrections(current.content, content);
  const next: QuizContent = corrections ? { ...content, corrections } : content;
  const window = { due: instantOf(row.due), closes: instantOf(row.closes) };
  const contradictions: Said[] = contradictionsOf({ ...content.rules, ...settings }, window);
  if (!isLook && contradictions[0]) throw badInput(contradictions[0]);
  const isNew = !sameValue(next, current.content);
  const version = isNew ? row.currentVersion + 1 : null;
  const students = [...(await timesOfStudents(tx, [quizId])).values()];
  const effect: Effect = {
    quizId,
    version,
    students: students.length,
    told: 0,
    ...(await attemptsAt(tx, quizId)),
    questions: await questionEffects(tx, quizId, current.content, next),
    contradictions,
  };
  if (isLook) return effect;
  if (version !== null) {
    await tx.insert(quizVersion).values({
      id: newId(),
      quizId,
      number: version,
      content: next,
      facts: factsOf(next),
      createdBy: viewer.id,
    });
    await tx.update(quiz).set({ currentVersion: version, title: next.title }).where(eq(quiz.id, quizId));
  }
  if (!sameValue(settings, row.settings)) {
    // What is not named any more is no longer set.
    const left = Object.fromEntries(
      Object.keys(row.settings)
        .filter((name) => !Object.hasOwn(settings, name))
        .map((name) => [name, null]),
    );
    await writeSettings(tx, viewer, quizId, { ...left, ...settings }, reason ?? "");
    const [after] = await holdQuizzes(tx, [quizId], by);
    if (after) await moveDeadlines(tx, [after], by);
  }
  if (first !== undefined)
    await tx
      .update(quiz)
      .set({ firstQuizId: first?.quizId ?? null, firstAtLeast: first?.atLeast ?? null })
      .where(eq(quiz.id, quizId));
  await tx
    .update(draft)
    .set({ ofVersion: version ?? row.currentVersion, settings, assignedAt: new Date(now()) })
    .where(and(eq(draft.id, held.id), isNull(draft.removedAt)));
  await note(tx, {
    actorId: viewer.id,
    action: "assigned",
    subject: "quiz",
    subjectId: quizId,
    details: {
      reason,
      version: version ?? row.currentVersion,
      questions: effect.questions.map(({ id, change }) => ({ id, change })),
    },
  });
  return effect;
}
