import { asc, eq } from "drizzle-orm";
import { answeredFact } from "@/core/attempt/state";
import { dayInFull, timeTaken, timeWithSeconds, zoneName } from "@/core/time/words";
import { database } from "@/data/database";
import { answer } from "@/data/schema";
import { config } from "../config";
import type { Viewer } from "../viewer";
import { openAttempt } from "./access";
import { revealedOf } from "./revealed";
import { slipOf } from "./slip";
import { answerDigest, canonicalJson } from "./slips";

const BY = {
  student: "its student",
  clock: "the clock, when time was up",
  instructor: "the instructor",
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
    ["Course", `${slip.course.title}, ${slip.course.code}`],
    ["Quiz", slip.title],
    ["Attempt", String(slip.number)],
    ["Name", slip.student],
    [
      "Handed in",
      `${dayInFull(slip.handedInAt, zone)}, ${timeWithSeconds(slip.handedInAt, zone)} (${zoneName(slip.handedInAt, zone)})`,
    ],
    ["In UTC", new Date(slip.handedInAt).toISOString()],
    ["Handed in by", BY[slip.by]],
    ["Time taken", timeTaken(slip.handedInAt - slip.startedAt)],
    ["Answered", answeredFact(slip.answered, slip.questions, slip.inPart)],
    ["Code", slip.code],
  ];
  const digests = slip.digests.map((digest, i) => {
    const written = answers.find((each) => each.slot === i + 1)?.answer ?? null;
    const text =
      written !== null && answerDigest(written) === digest ? `\n     ${canonicalJson(written)}` : "";
    return `${String(i + 1).padStart(3)}  ${digest === "" ? "empty" : digest}${text}`;
  });
  const lines = [
    `${slip.institution}: slip`,
    "",
    ...facts.map(([name, fact]) => `${`${name}:`.padEnd(15)}${fact}`),
    "",
    `Anyone can check the code at ${verifyAddress}`,
    "",
    "Digest of each answer: SHA-256 of its JSON in UTF-8, without spaces, the keys of every object in the order of",
    "their characters. Where what was written stands below its digest, this works it out again:",
    "",
    "     printf '%s' '<the line below the digest>' | sha256sum",
    "",
    ...digests,
    "",
  ];
  return { code: slip.code, body: lines.join("\n") };
}
