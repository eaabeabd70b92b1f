import { eq } from "drizzle-orm";
import * as yup from "yup";
import { contradictionsOf } from "@/core/quiz/contradictions";
import type { QuizSettings } from "@/core/quiz/rules";
import { settingsShape } from "@/core/quiz/rules-shape";
import { said } from "@/core/said";
import { type Database, inTransaction } from "@/data/database";
import { quiz as quizTable, settingChange } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { instantOf, now } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { badInput, notFound } from "../base/problems";
import { note } from "../base/record";
import { holdQuizzes, moveDeadlines } from "./move-deadlines";

const body = yup
  .object({
    settings: yup.mixed().required(said("server.quizzes.change-settings.settings-is-missing-what-holds-for")),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.quizzes.change-settings.say-why-it-goes-on-record"), hasWords)
      .max(500)
      .required(said("server.quizzes.change-settings.reason-is-missing-it-goes-on")),
  })
  .strict()
  .noUnknown();

/**
 * An instructor changes the settings of a quiz: what is not named stays. They hold at once and for all its attempts, those
 * that were handed in before it too; who changed what, from what, and why is kept. Attempts that run move with the limit.
 */
export async function changeSettings(viewer: Viewer, quizId: string, input: unknown): Promise<QuizSettings> {
  const { settings: wanted, reason } = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "rule");
  const { quiz } = opened;
  if (typeof wanted !== "object" || wanted === null || Array.isArray(wanted)) {
    throw badInput(t("server.quizzes.change-settings.settings-must-be-an-object-with"));
  }
  return inTransaction(async (tx) => {
    const change = { actorId: viewer.id, reason };
    const [row] = await holdQuizzes(tx, [quiz.id], change);
    if (!row) throw notFound();
    const settings = await writeSettings(tx, viewer, quiz.id, wanted, reason);
    const [contradiction] = contradictionsOf(settings, {
      due: instantOf(row.due),
      closes: instantOf(row.closes),
    });
    if (contradiction) throw badInput(contradiction);
    await moveDeadlines(tx, [{ ...row, settings }], change);
    return settings;
  });
}

/**
 * Writes settings of a quiz that the caller holds, and keeps what they were. Whether they contradict its window, and what they
 * move, is the caller's to see. @throws Problem where they are none
 */
export async function writeSettings(
  tx: Database,
  viewer: Viewer,
  quizId: string,
  wanted: object,
  reason: string,
): Promise<QuizSettings> {
  const [row] = await tx.select().from(quizTable).where(eq(quizTable.id, quizId));
  if (!row) throw notFound();
  const named = Object.entries({ ...row.settings, ...wanted }).filter(([, value]) => value !== null);
  const settings = inputOf(settingsShape, Object.fromEntries(named)) as QuizSettings;
  if (JSON.stringify(settings) === JSON.stringify(row.settings)) return settings;
  await tx.update(quizTable).set({ settings }).where(eq(quizTable.id, quizId));
  await tx.insert(settingChange).values({
    quizId,
    before: row.settings,
    after: settings,
    reason,
    changedBy: viewer.id,
    createdAt: new Date(now()),
  });
  await note(tx, {
    actorId: viewer.id,
    action: "settings changed",
    subject: "quiz",
    subjectId: quizId,
    details: { reason, named: Object.keys(wanted) },
  });
  return settings;
}
