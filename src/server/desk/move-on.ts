import { eq } from "drizzle-orm";
import * as yup from "yup";
import { orderRuleOf, pagesOf, rulingOnMove, toldOnLeaving } from "@/core/attempt/order";
import type { DeskPages } from "@/core/desk/desk-view";
import { said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { attempt } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { progressIn, workOf } from "../attempts/answers";
import { lockRunning } from "../attempts/lock-running";
import { openAttempt } from "../attempts/open-attempt";
import { signalAttempt } from "../base/desk-events";
import { inputOf } from "../base/input";
import { Problem } from "../base/problems";
import { versionContent } from "../quizzes/versions";
import { noteSending } from "./clock-start";
import { deskPages } from "./desk-pages";

const page = (name: string) =>
  yup
    .number()
    .strict()
    .integer()
    .min(0)
    .max(1000)
    .required(said("server.desk.move-on.is-missing-a-page-counted-from", { name }));
const body = yup
  .object({ from: page("from"), to: page("to"), device: yup.string().strict().uuid() })
  .strict()
  .noUnknown();

/**
 * Turns the page where that closes, tells or opens something: the page that is left is closed (one way) or told
 * (tell-at-once), the next one is sent. Asking again for what has happened changes nothing.
 */
export async function moveOn(viewer: Viewer, attemptId: string, input: unknown): Promise<DeskPages> {
  const { from, to, device } = inputOf(body, input);
  const opened = await openAttempt(viewer, attemptId);
  await noteSending(opened);
  const quiz = await versionContent(opened.attempt.versionId);
  const { rules } = quiz;
  return inTransaction(async (tx) => {
    const row = await lockRunning(tx, attemptId);
    const work = await workOf(tx, attemptId, quiz);
    const rule = orderRuleOf(rules);
    const isDone = rule === "one-way" && from < row.page && to <= row.page;
    if (isDone) return deskPages(row, quiz, work);
    if (rule !== "free" && (from > row.page || (rule === "one-way" && from < row.page))) {
      throw new Problem(409, "closed", t("server.desk.move-on.this-page-is-not-the-one"), {
        page: row.page,
      });
    }
    const { slots } = await progressIn(row, quiz, work);
    const pages = pagesOf(quiz, slots.length);
    const fills = new Map(slots.map(({ fill }, i) => [i + 1, fill]));
    const ruling = rulingOnMove({ rules, from, to, pages, reached: row.page, fills });
    if (!ruling.may) throw new Problem(409, ruling.rule, ruling.words);
    const told = [...new Set([...row.told, ...toldOnLeaving(rules, pages[from] ?? [], fills)])];
    const reached = rule === "one-way" ? to : Math.max(row.page, to);
    const [moved] = await tx
      .update(attempt)
      .set({ page: reached, told, here: pages[to]?.[0] ?? row.here })
      .where(eq(attempt.id, attemptId))
      .returning();
    await signalAttempt(tx, attemptId, device ?? null);
    return deskPages(moved ?? row, quiz, work);
  });
}
