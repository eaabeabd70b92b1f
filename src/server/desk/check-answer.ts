import { eq } from "drizzle-orm";
import * as yup from "yup";
import { type TriedPart, triedParts } from "@/core/attempt/attempt-progress";
import { planAttempt } from "@/core/attempt/plan";
import { readAnswer } from "@/core/kinds/answering";
import { present, rightAnswerTo } from "@/core/kinds/marking";
import { said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { answerCheck, attempt } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { progressIn, workOf } from "../attempts/answers";
import { lockRunning } from "../attempts/lock-running";
import { openAttempt } from "../attempts/open-attempt";
import { seedOf } from "../attempts/seeds";
import { signalAttempt } from "../base/desk-events";
import { inputOf } from "../base/input";
import { badInput, Problem } from "../base/problems";
import { versionContent } from "../quizzes/versions";
import { slotShape } from "./slot-shape";

/** A bound against abuse: wrong tries end far before. */
const MOST_CHECKS = 500;

const body = yup
  .object({
    slot: slotShape().required(said("server.desk.check-answer.slot-is-missing-which-question-to")),
    part: yup.number().strict().integer().min(0).max(100),
    device: yup.string().strict().uuid(),
  })
  .strict()
  .noUnknown();

/** Checks what is saved in one question, where the quiz allows tries; returns the tries at each of its parts. */
export async function checkAnswer(
  viewer: Viewer,
  attemptId: string,
  input: unknown,
): Promise<readonly TriedPart[]> {
  const { slot, part = null, device } = inputOf(body, input);
  const opened = await openAttempt(viewer, attemptId);
  const quiz = await versionContent(opened.attempt.versionId);
  const { tries } = quiz.rules;
  const seed = await seedOf(opened.attempt);
  if (!tries) throw new Problem(409, "no-tries", t("server.desk.check-answer.in-this-quiz-answers-are-not"));
  return inTransaction(async (tx) => {
    const row = await lockRunning(tx, attemptId);
    const question = planAttempt(quiz, seed)[slot - 1]?.question;
    if (!question) throw badInput(t("server.desk.no-such-question", { slot }));
    if (rightAnswerTo(question, seed) === null) {
      throw new Problem(409, "no-tries", t("server.desk.check-answer.this-kind-of-question-is-marked"));
    }
    if (row.checkedOff.includes(slot)) {
      throw new Problem(
        409,
        "no-tries-left",
        t("server.desk.check-answer.question-is-closed-each-of-its", { slot }),
        { slots: [slot], page: row.page },
      );
    }
    const work = await workOf(tx, attemptId, quiz);
    if ((await progressIn(row, quiz, work)).slots[slot - 1]?.access !== "open") {
      throw new Problem(409, "closed", t("server.desk.question-not-open", { slot }), {
        slots: [slot],
        page: row.page,
      });
    }
    const reading = readAnswer(present(question, seed), work.answers.get(slot) ?? null);
    if (!reading.ok || reading.answer === null) {
      throw badInput(t("server.desk.check-answer.there-is-nothing-to-check-in", { slot }));
    }
    const checks = work.checks.get(slot) ?? [];
    if (checks.length >= MOST_CHECKS) {
      throw new Problem(
        409,
        "no-tries-left",
        t("server.desk.check-answer.question-was-checked-times-that-is", { slot, most: MOST_CHECKS }),
      );
    }
    const before = triedParts(question, seed, tries, checks);
    const after = triedParts(question, seed, tries, [...checks, { answer: reading.answer, part }]);
    const stood = (parts: readonly TriedPart[]) =>
      JSON.stringify(parts.map(({ wrong, right, closed }) => [wrong, right, closed]));
    // The same wrong answer again, or one that is not complete, is not a new try and leaves no trace.
    if (stood(before) === stood(after)) return after;
    await tx
      .insert(answerCheck)
      .values({ attemptId, slot, number: checks.length + 1, answer: reading.answer, part });
    await signalAttempt(tx, attemptId, device ?? null);
    // With the last of its parts the question closes: no request changes it any more.
    if (after.every((part) => part.closed)) {
      await tx
        .update(attempt)
        .set({ checkedOff: [...new Set([...row.checkedOff, slot])] })
        .where(eq(attempt.id, attemptId));
    }
    return after;
  });
}
