import { asc, eq } from "drizzle-orm";
import { answeredFact } from "@/core/attempt/answered-words";
import { said } from "@/core/said";
import { database } from "@/data/database";
import { answer } from "@/data/schema";
import { say, t } from "@/words/t";
import { dayInFull, timeTaken, timeWithSeconds, zoneName } from "@/words/times";
import type { Viewer } from "../access/viewer";
import { openAttempt } from "../attempts/open-attempt";
import { answerDigest, canonicalJson } from "../attempts/slip-code";
import { config } from "../base/config";
import { revealedOf } from "../reveal/revealed";
import { slipOf } from "./slip";

const BY = {
  student: said("server.handed-in.slip-text.its-student"),
  clock: said("server.handed-in.slip-text.the-clock-when-time-was-up"),
  instructor: said("server.handed-in.slip-text.the-instructor"),
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
    [t("server.handed-in.slip-text.course"), `${slip.course.title}, ${slip.course.code}`],
    [t("server.handed-in.slip-text.quiz"), slip.title],
    [t("server.handed-in.slip-text.attempt"), String(slip.number)],
    [t("server.handed-in.slip-text.name"), slip.student],
    [
      t("server.handed-in.slip-text.handed-in"),
      `${dayInFull(slip.handedInAt, zone)}, ${timeWithSeconds(slip.handedInAt, zone)} (${zoneName(slip.handedInAt, zone)})`,
    ],
    [t("server.handed-in.slip-text.in-utc"), new Date(slip.handedInAt).toISOString()],
    [t("server.handed-in.slip-text.handed-in-by"), say(BY[slip.by])],
    [t("server.handed-in.slip-text.time-taken"), timeTaken(slip.handedInAt - slip.startedAt)],
    [t("server.handed-in.slip-text.answered"), say(answeredFact(slip.answered, slip.questions, slip.inPart))],
    [t("server.handed-in.slip-text.code"), slip.code],
  ];
  const digests = slip.digests.map((digest, i) => {
    const written = answers.find((each) => each.slot === i + 1)?.answer ?? null;
    const text =
      written !== null && answerDigest(written) === digest ? `\n     ${canonicalJson(written)}` : "";
    return `${String(i + 1).padStart(3)}  ${digest === "" ? t("server.handed-in.slip-text.empty") : digest}${text}`;
  });
  const lines = [
    t("server.handed-in.slip-text.slip", { institution: slip.institution }),
    "",
    ...facts.map(([name, fact]) => `${`${name}:`.padEnd(15)}${fact}`),
    "",
    t("server.handed-in.slip-text.anyone-can-check-the-code-at", { verifyAddress }),
    "",
    t("server.handed-in.slip-text.digest-of-each-answer-sha-256"),
    t("server.handed-in.slip-text.their-characters-where-what-was-written"),
    "",
    t("server.handed-in.slip-text.printf-s-the-line-below-the"),
    "",
    ...digests,
    "",
  ];
  return { code: slip.code, body: lines.join("\n") };
}
