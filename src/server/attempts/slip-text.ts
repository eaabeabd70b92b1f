import { asc, eq } from "drizzle-orm";
import { answeredFact } from "@/core/attempt/state";
import { said } from "@/core/said";
import { database } from "@/data/database";
import { answer } from "@/data/schema";
import { say, t } from "@/words/t";
import { dayInFull, timeTaken, timeWithSeconds, zoneName } from "@/words/times";
import { config } from "../config";
import type { Viewer } from "../viewer";
import { openAttempt } from "./access";
import { revealedOf } from "./revealed";
import { slipOf } from "./slip";
import { answerDigest, canonicalJson } from "./slips";

const BY = {
  student: said("attempts.slip-text.its-student"),
  clock: said("attempts.slip-text.the-clock-when-time-was-up"),
  instructor: said("attempts.slip-text.the-instructor"),
} as const;

/**
 * A slip as plain text; null while the attempt runs. What was written stands under its digest, so that anyone can work
 * the digest out again; only where the rules show it, and only if it is still what was handed in.
 */
export async function slipText(
  viewer: Viewer,
  attemptId: string,
  verifyAddress: string,
): Promise<{ readonly code: string; readonly body: string } | null> {
  const slip = await slipOf(viewer, attemptId);
  if (!slip) return null;
  const { reveal } = await revealedOf(viewer, await openAttempt(viewer, attemptId, { staff: true }));
  const answers = reveal?.written.visible
    ? await database().select().from(answer).where(eq(answer.attemptId, attemptId)).orderBy(asc(answer.slot))
    : [];
  const { zone } = config;
  const facts: [string, string][] = [
    [t("attempts.slip-text.course"), `${slip.course.title}, ${slip.course.code}`],
    [t("attempts.slip-text.quiz"), slip.title],
    [t("attempts.slip-text.attempt"), String(slip.number)],
    [t("attempts.slip-text.name"), slip.student],
    [
      t("attempts.slip-text.handed-in"),
      `${dayInFull(slip.handedInAt, zone)}, ${timeWithSeconds(slip.handedInAt, zone)} (${zoneName(slip.handedInAt, zone)})`,
    ],
    [t("attempts.slip-text.in-utc"), new Date(slip.handedInAt).toISOString()],
    [t("attempts.slip-text.handed-in-by"), say(BY[slip.by])],
    [t("attempts.slip-text.time-taken"), timeTaken(slip.handedInAt - slip.startedAt)],
    [t("attempts.slip-text.answered"), say(answeredFact(slip.answered, slip.questions, slip.inPart))],
    [t("attempts.slip-text.code"), slip.code],
  ];
  const digests = slip.digests.map((digest, i) => {
    const written = answers.find((each) => each.slot === i + 1)?.answer ?? null;
    const text =
      written !== null && answerDigest(written) === digest ? `\n     ${canonicalJson(written)}` : "";
    return `${String(i + 1).padStart(3)}  ${digest === "" ? t("attempts.slip-text.empty") : digest}${text}`;
  });
  const lines = [
    t("attempts.slip-text.slip", { institution: slip.institution }),
    "",
    ...facts.map(([name, fact]) => `${`${name}:`.padEnd(15)}${fact}`),
    "",
    t("attempts.slip-text.anyone-can-check-the-code-at", { verifyAddress }),
    "",
    t("attempts.slip-text.digest-of-each-answer-sha-256"),
    t("attempts.slip-text.their-characters-where-what-was-written"),
    "",
    t("attempts.slip-text.printf-s-the-line-below-the"),
    "",
    ...digests,
    "",
  ];
  return { code: slip.code, body: lines.join("\n") };
}
