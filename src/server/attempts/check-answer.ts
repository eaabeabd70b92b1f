import * as yup from "yup";
import { planAttempt } from "@/core/attempt/plan";
import { type TriedPart, triedParts } from "@/core/attempt/standing";
import { readAnswer } from "@/core/kinds/answering";
import { present, rightAnswerTo } from "@/core/kinds/marking";
import { database } from "@/data/database";
import { answerCheck } from "@/data/schema";
import { inputOf } from "../input";
import { badInput, Problem } from "../problems";
import { versionContent } from "../quiz-versions";
import type { Viewer } from "../viewer";
import { openAttempt } from "./access";
import { lockRunning } from "./running";
import { standingIn, workOf } from "./work";

const body = yup
  .object({
    slot: yup
      .number()
      .strict()
      .integer()
      .min(1)
      .max(1000)
      .required("slot is missing: which question to check."),
  })
  .strict()
  .noUnknown();

/** Checks what is saved in one question, where the quiz allows tries; answers the tries at each of its parts. */
export async function checkAnswer(
  viewer: Viewer,
  attemptId: string,
  input: unknown,
): Promise<readonly TriedPart[]> {
  const { slot } = inputOf(body, input);
  const opened = await openAttempt(viewer, attemptId);
  const quiz = await versionContent(opened.attempt.versionId);
  const { tries } = quiz.rules;
  if (!tries) throw new Problem(409, "no-tries", "In this quiz answers are not checked during the attempt.");
  return database().transaction(async (tx) => {
    const row = await lockRunning(tx, attemptId);
    const question = planAttempt(quiz, row.seed)[slot - 1]?.question;
    if (!question) throw badInput(`This attempt has no question ${slot}.`);
    if (rightAnswerTo(question, row.seed) === null) {
      throw new Problem(
        409,
        "no-tries",
        "This kind of question is marked by a person and cannot be checked.",
      );
    }
    const work = await workOf(tx, attemptId, quiz);
    if (standingIn(row, quiz, work).slots[slot - 1]?.state !== "open") {
      throw new Problem(409, "closed", `Question ${slot} is not open.`, { slots: [slot], page: row.page });
    }
    const reading = readAnswer(present(question, row.seed), work.answers.get(slot) ?? null);
    if (!reading.ok || reading.answer === null) {
      throw badInput(`There is nothing to check in question ${slot} yet.`);
    }
    const checks = work.checks.get(slot) ?? [];
    const before = triedParts(question, row.seed, tries, checks);
    if (before.every((part) => part.left === 0)) {
      throw new Problem(409, "no-tries-left", `Question ${slot} has no tries left.`);
    }
    const after = triedParts(question, row.seed, tries, [...checks, reading.answer]);
    // The same wrong answer again is no new try, and leaves no trace.
    if (JSON.stringify(before) !== JSON.stringify(after)) {
      await tx
        .insert(answerCheck)
        .values({ attemptId, slot, number: checks.length + 1, answer: reading.answer });
    }
    return after;
  });
}
