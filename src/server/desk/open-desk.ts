import { attemptsAllowed } from "@/core/attempt/attempts-left";
import { timeAllowed } from "@/core/attempt/deadline";
import { offersRibbons, orderRuleOf, pagesOf, serverTurnsPages } from "@/core/attempt/order";
import { warningsFor } from "@/core/attempt/time-warnings";
import { isStrong } from "@/core/brief/phrases";
import { ruleSentences } from "@/core/brief/rule-sentences";
import type { AttemptPulse, DeskView } from "@/core/desk/desk-view";
import { questionCount } from "@/core/quiz/quiz-file";
import { type Instant, MINUTE } from "@/core/time/instants";
import { database } from "@/data/database";
import type { attempt } from "@/data/schema";
import { say } from "@/words/t";
import { windowOf } from "../access/allowances";
import type { Viewer } from "../access/viewer";
import { workOf } from "../attempts/answers";
import { type OpenedAttempt, openAttempt } from "../attempts/open-attempt";
import { instantOf, now } from "../base/clock";
import { config } from "../base/config";
import { contentLanguage } from "../base/content-language";
import { deskMessages } from "../quizzes/desk-messages";
import { ruleTerms } from "../quizzes/rule-terms";
import { versionContent } from "../quizzes/versions";
import { prerequisiteOf } from "../reveal/prerequisite";
import { withFormulas } from "../text/formulas";
import { confirmStartOf, noteSending } from "./clock-start";
import { deskPages } from "./desk-pages";
import { tracesOf } from "./traces";

/** Without a time limit what ends an attempt is the closing: it is told this long before. */
const BEFORE_CLOSING = [10 * MINUTE, 2 * MINUTE];

/** One way, the question on the screen is on the page that was reached. */
function hereIn(row: OpenedAttempt["attempt"], pages: readonly (readonly number[])[]): number {
  const page = pages[row.page] ?? pages.at(-1) ?? [];
  return page.includes(row.here) ? row.here : (page[0] ?? row.here);
}

/** A question that a device names, if there is one. */
const shown = (here: number | null, pages: readonly (readonly number[])[]): number | null =>
  here !== null && pages.some((page) => page.includes(here)) ? here : null;

/** The desk confirms that the first question is on the screen: the clock starts now, unless it has started already. */
export async function confirmStart(
  viewer: Viewer,
  attemptId: string,
): Promise<AttemptPulse & { startedAt: number }> {
  const asked = now();
  const opened = await openAttempt(viewer, attemptId);
  const row = await confirmStartOf(opened);
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
  const messages = await deskMessages(row, row.startedAt);
  return { ...pulse(row, at), messages, traces: await tracesOf(row.id) };
}

/**
 * The desk of a running attempt; null once it is handed in.
 * @param here the question that the device says was on its screen; the server's own word where it says none.
 */
export async function openDesk(
  viewer: Viewer,
  attemptId: string,
  here: number | null = null,
): Promise<DeskView | null> {
  const opened = await openAttempt(viewer, attemptId);
  if (opened.attempt.handedInAt !== null) return null;
  const row = await noteSending(opened);
  const { quiz, course } = opened;
  const { settings } = quiz;
  const content = await versionContent(row.versionId);
  const { rules } = content;
  const own = opened.allowance;
  const pages = pagesOf(content, questionCount(content));
  const first = await prerequisiteOf(quiz, viewer);
  const allowed = timeAllowed(settings.timeLimit ?? null, own);
  return {
    attemptId: row.id,
    quizId: quiz.id,
    title: quiz.title,
    language: contentLanguage(content),
    course: course.title,
    student: opened.student.name,
    email: viewer.email,
    number: row.number,
    allowed: attemptsAllowed(settings.attempts, own),
    zone: config.zone,
    clock: { serverNow: now(), startedAt: row.startedAt.getTime(), deadline: instantOf(row.deadline) },
    confirmed: row.confirmed,
    limitMinutes: allowed === null ? null : allowed / MINUTE,
    warnings:
      allowed === null
        ? row.deadline === null
          ? []
          : BEFORE_CLOSING
        : warningsFor(
            allowed,
            rules.timeWarnings?.map((minutes) => minutes * MINUTE),
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
    takeBack: settings.takeBack ?? false,
    ...(await deskPages(row, content, await workOf(database(), row.id, content))),
    here: orderRuleOf(rules) === "one-way" ? hereIn(row, pages) : (shown(here, pages) ?? row.here),
    kinds: [...new Set(content.sections.flatMap(({ questions }) => questions.map(({ kind }) => kind)))],
    ribbons: offersRibbons(rules),
    reference: content.reference ? withFormulas(content.reference) : null,
    brief: content.brief ? withFormulas(content.brief) : null,
    // Said here: a desk needs no words for what it only shows.
    rules: ruleSentences(
      ruleTerms({ content, settings, window: windowOf(quiz, own), allowance: own, used: row.number, first }),
    ).map(({ name, text }) => ({
      name: say(name),
      text: text.map((phrase) => (isStrong(phrase) ? { strong: say(phrase.strong) } : say(phrase))),
    })),
  };
}
