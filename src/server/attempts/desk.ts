import { and, eq, isNull } from "drizzle-orm";
import { attemptsAllowed } from "@/core/attempt/attempts-left";
import { deadlineOf, timeAllowed } from "@/core/attempt/deadline";
import type { AttemptPulse, DeskView } from "@/core/attempt/desk-view";
import { noticesFor } from "@/core/attempt/notices";
import { orderRuleOf, pagesOf, serverTurnsPages } from "@/core/attempt/order";
import { maximumOf, planAttempt } from "@/core/attempt/plan";
import { written } from "@/core/numbers/exact";
import { ruleSentences } from "@/core/quiz/sentences";
import { type Instant, MINUTE, START_ALLOWANCE } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt } from "@/data/schema";
import { instantOf, now } from "../clock";
import { config } from "../config";
import { withFormulas } from "../formulas";
import { versionContent } from "../quiz-versions";
import { deskNotices } from "../quizzes/desk-notices";
import { prerequisiteOf } from "../quizzes/first-quiz";
import type { Viewer } from "../viewer";
import { allowanceOf, type OpenedAttempt, openAttempt, windowOf } from "./access";
import { deskPages } from "./desk-pages";
import { workOf } from "./work";

/** One way, the question on the screen is on the page that was reached. */
function hereIn(row: OpenedAttempt["attempt"], pages: readonly (readonly number[])[]): number {
  const page = pages[row.page] ?? pages.at(-1) ?? [];
  return page.includes(row.here) ? row.here : (page[0] ?? row.here);
}

/** The deadline if the clock had started at this moment. */
async function deadlineFrom(opened: OpenedAttempt, start: number): Promise<Date | null> {
  const { rules } = await versionContent(opened.attempt.versionId);
  const own = allowanceOf(opened.allowance);
  const deadline = deadlineOf({
    start,
    limitMinutes: rules.timeLimit ?? null,
    allowance: own,
    closes: windowOf(opened.quiz, own).closes,
    closingCuts: rules.closingCutsClock ?? true,
  });
  return deadline === null ? null : new Date(deadline);
}

/**
 * Notes the first sending of the questions: from then on the clock waits for the screen, but no longer than the start
 * allowance. Only once, and only while the clock has not started by itself.
 */
async function noteSending(opened: OpenedAttempt): Promise<OpenedAttempt> {
  const row = opened.attempt;
  const at = now();
  if (row.sentAt !== null || row.confirmed || row.startedAt.getTime() <= at) return opened;
  const start = at + START_ALLOWANCE;
  const [updated] = await database()
    .update(attempt)
    .set({ sentAt: new Date(at), startedAt: new Date(start), deadline: await deadlineFrom(opened, start) })
    .where(and(eq(attempt.id, row.id), isNull(attempt.sentAt), eq(attempt.confirmed, false)))
    .returning();
  return updated ? { ...opened, attempt: updated } : openedAgain(opened);
}

const openedAgain = (opened: OpenedAttempt) =>
  database()
    .select()
    .from(attempt)
    .where(eq(attempt.id, opened.attempt.id))
    .then(([row]) => (row ? { ...opened, attempt: row } : opened));

/** The desk confirms that the first question is on the screen: the clock starts now, unless it has started already. */
export async function confirmStart(
  viewer: Viewer,
  attemptId: string,
): Promise<AttemptPulse & { startedAt: number }> {
  const asked = now();
  const opened = await openAttempt(viewer, attemptId);
  let row = opened.attempt;
  if (!row.confirmed && row.handedInAt === null) {
    const at = now();
    const early = at < row.startedAt.getTime();
    const [updated] = await database()
      .update(attempt)
      .set({
        confirmed: true,
        ...(early && { startedAt: new Date(at), deadline: await deadlineFrom(opened, at) }),
      })
      .where(and(eq(attempt.id, row.id), eq(attempt.confirmed, false), isNull(attempt.handedInAt)))
      .returning();
    row = updated ?? (await openedAgain(opened)).attempt;
  }
  return { ...pulse(row, asked), startedAt: row.startedAt.getTime() };
}

/** @param at from before the row was read: what a desk hears later is never older. */
const pulse = (row: typeof attempt.$inferSelect, at: Instant): AttemptPulse => ({
  serverNow: at,
  deadline: instantOf(row.deadline),
  handedInAt: instantOf(row.handedInAt),
  page: row.page,
});

/** How an attempt stands, with what its instructors have said meanwhile: asked by every open desk now and then. */
export async function attemptPulse(viewer: Viewer, attemptId: string): Promise<AttemptPulse> {
  const at = now();
  const { attempt: row } = await openAttempt(viewer, attemptId);
  const notices = await deskNotices(row.quizId, row.startedAt);
  return { ...pulse(row, at), notices };
}

/** The desk of a running attempt; null once it is handed in. */
export async function openDesk(viewer: Viewer, attemptId: string): Promise<DeskView | null> {
  const found = await openAttempt(viewer, attemptId);
  if (found.attempt.handedInAt !== null) return null;
  const opened = await noteSending(found);
  const { attempt: row, quiz, course } = opened;
  const content = await versionContent(row.versionId);
  const { rules } = content;
  const plan = planAttempt(content, row.seed);
  const own = allowanceOf(opened.allowance);
  const pages = pagesOf(content, plan.length);
  const first = await prerequisiteOf(quiz, viewer.id);
  const allowed = timeAllowed(rules.timeLimit ?? null, own);
  return {
    attemptId: row.id,
    quizId: quiz.id,
    title: quiz.title,
    course: course.title,
    student: opened.student.name,
    email: viewer.email,
    number: row.number,
    allowed: attemptsAllowed(rules.attempts, own),
    zone: config.zone,
    clock: { serverNow: now(), startedAt: row.startedAt.getTime(), deadline: instantOf(row.deadline) },
    confirmed: row.confirmed,
    limitMinutes: allowed === null ? null : allowed / MINUTE,
    notices:
      allowed === null
        ? []
        : noticesFor(
            allowed,
            rules.notices?.map((minutes) => minutes * MINUTE),
          ),
    order: {
      rule: orderRuleOf(rules),
      pages,
      answerFirst: rules.answerBeforeMovingOn ?? false,
      tellAtOnce: rules.tellAtOnce ?? false,
      byServer: serverTurnsPages(rules),
    },
    sections: content.sections.map(({ title, draw, questions }) => ({
      title: title ?? null,
      slots: draw ?? questions.length,
    })),
    tries: rules.tries ?? null,
    calculator: rules.calculator ?? "none",
    readAloud: rules.readAloud ?? true,
    takeBack: rules.takeBack ?? false,
    ...(await deskPages(row, content, await workOf(database(), row.id, content))),
    here: orderRuleOf(rules) === "one-way" ? hereIn(row, pages) : row.here,
    fold: rules.fold ?? true,
    reference: content.reference ? withFormulas(content.reference) : null,
    brief: content.brief ? withFormulas(content.brief) : null,
    rules: ruleSentences({
      rules,
      window: windowOf(quiz, own),
      allowance: own,
      used: row.number,
      questions: plan.length,
      drawn: content.sections.some((section) => section.draw !== undefined),
      maximum: written(maximumOf(plan)),
      zone: config.zone,
      first,
      reference: content.reference !== undefined,
    }),
  };
}
