import { randomBytes, randomUUID } from "node:crypto";
import { and, eq, inArray, lte, sql } from "drizzle-orm";
import * as yup from "yup";
import { exactObject } from "@/core/kinds/shapes";
import { NOTICE_KINDS, SECURITY_KINDS } from "@/core/notices/notice-kinds";
import { contradictionsOf } from "@/core/quiz/contradictions";
import { HOUR, type Instant } from "@/core/time/instants";
import { type Database, database, inTransaction } from "@/data/database";
import {
  allowance,
  answerLog,
  attempt,
  course,
  enrolment,
  person,
  quiz,
  quizVersion,
  session,
  trial,
} from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import { signedToken, type Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { quizOfDraft } from "../drafts/assign-draft";
import { followBank } from "../drafts/follow-bank";
import { type OpenedDraft, openDraft } from "../drafts/open-draft";
import { factsOf } from "../quizzes/quiz-facts";

/** A trial ends by itself after so long. */
const LASTS = 12 * HOUR;
/** Where a quiz closes only in a trial, so that what is shown after closing comes when it is closed. */
const WINDOW = 24 * HOUR;

const body = exactObject({
  factor: yup.number().strict().min(1).max(10),
  extraMinutes: yup.number().strict().min(0).max(10_080),
});

/** How a quiz is tried out: with which allowance. */
export type TrialTerms = yup.InferType<typeof body>;

export const trialTermsIn = (input: unknown): TrialTerms => inputOf(body, input);

/** A trial that has begun: where it is, and the session of its student. */
export interface BegunTrial {
  readonly quizId: string;
  readonly session: string;
}

/** Tries a draft out as a student would take it, with any allowance; nothing of it counts anywhere. */
export async function beginTrial(viewer: Viewer, draftId: string, input: unknown): Promise<BegunTrial> {
  const terms = trialTermsIn(input);
  const opened = await openDraft(viewer, draftId);
  return inTransaction(async (tx) => {
    const before = await tx
      .select({ id: trial.id })
      .from(trial)
      .where(and(eq(trial.draftId, opened.draft.id), eq(trial.byId, viewer.id)));
    // One at a time: the one before has served.
    await removeTrials(
      tx,
      before.map(({ id }) => id),
    );
    return writeTrial(tx, opened, terms, { byId: viewer.id, linkId: null, endsAt: now() + LASTS });
  });
}

/** Writes a trial with its course, its quiz and its student. @throws Problem where the draft is not right yet */
export async function writeTrial(
  tx: Database,
  opened: OpenedDraft,
  terms: TrialTerms,
  who: { readonly byId: string | null; readonly linkId: string | null; readonly endsAt: Instant },
): Promise<BegunTrial> {
  await followBank(tx, opened.draft.changedBy, opened.draft);
  const { content, settings } = await quizOfDraft(tx, opened);
  const at = now();
  const ends = new Date(at + WINDOW);
  const [contradiction] = contradictionsOf(
    { ...content.rules, ...settings },
    { due: ends.getTime(), closes: ends.getTime() },
  );
  if (contradiction) throw badInput(contradiction);
  const [courseId, personId, quizId] = [newId(), newId(), newId()];
  const title = t("server.trials.begin-trial.trial-in", { title: opened.course.title });
  await tx.insert(course).values({
    id: courseId,
    slug: `trial-${courseId}`,
    code: opened.course.code,
    title,
    unitMeanings: opened.course.unitMeanings,
  });
  await tx.insert(person).values({
    id: personId,
    name: t("server.trials.begin-trial.a-student"),
    // No mail is ever sent to it, and nobody signs in with it.
    email: `trial-${personId}@trial.invalid`,
    mailOff: [...NOTICE_KINDS, ...SECURITY_KINDS],
  });
  await tx.insert(enrolment).values({ courseId, personId, role: "student" });
  await tx.insert(quiz).values({
    id: quizId,
    courseId,
    title: content.title,
    due: ends,
    closes: ends,
    settings,
    instructorId: opened.draft.createdBy,
    openingTold: new Date(at),
    tellsShownFrom: new Date(at + 10 * 365 * 24 * HOUR),
  });
  await tx.insert(quizVersion).values({ id: newId(), quizId, number: 1, content, facts: factsOf(content) });
  if ((terms.factor ?? 1) !== 1 || (terms.extraMinutes ?? 0) !== 0)
    await tx.insert(allowance).values({
      quizId,
      personId,
      factor: terms.factor ?? 1,
      extraMinutes: terms.extraMinutes ?? 0,
      reason: title,
    });
  await tx.insert(trial).values({
    draftId: opened.draft.id,
    courseId,
    quizId,
    personId,
    byId: who.byId,
    linkId: who.linkId,
    endsAt: new Date(who.endsAt),
  });
  const token = randomBytes(24).toString("base64url");
  await tx
    .insert(session)
    .values({ id: randomUUID(), userId: personId, token, expiresAt: new Date(who.endsAt) });
  return { quizId, session: signedToken(token) };
}

/** Removes trials with everything that was made for them and written in them. */
export async function removeTrials(tx: Database, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  const rows = await tx
    .select()
    .from(trial)
    .where(inArray(trial.id, [...ids]))
    .for("update");
  const [quizzes, courses, people] = [
    rows.map(({ quizId }) => quizId),
    rows.map(({ courseId }) => courseId),
    rows.map(({ personId }) => personId),
  ];
  if (rows.length === 0) return;
  const own = sql`(select ${attempt.id} from ${attempt} where ${inArray(attempt.quizId, quizzes)})`;
  await tx.delete(answerLog).where(sql`${answerLog.attemptId} in ${own}`);
  await tx.delete(attempt).where(inArray(attempt.quizId, quizzes));
  await tx.delete(trial).where(inArray(trial.id, [...ids]));
  await tx.delete(quiz).where(inArray(quiz.id, quizzes));
  await tx.delete(course).where(inArray(course.id, courses));
  await tx.delete(person).where(inArray(person.id, people));
}

/** Removes the trials that have ended. Returns how many. */
export async function removeEndedTrials(): Promise<number> {
  const ended = await database()
    .select({ id: trial.id })
    .from(trial)
    .where(lte(trial.endsAt, new Date(now())));
  for (const { id } of ended) await inTransaction((tx) => removeTrials(tx, [id]));
  return ended.length;
}
