import { randomBytes } from "node:crypto";
import { and, desc, eq } from "drizzle-orm";
import { attemptsAllowed } from "@/core/attempt/attempts-left";
import { deadlineOf } from "@/core/attempt/deadline";
import { maximumOf, planAttempt } from "@/core/attempt/plan";
import { rulingOnStart } from "@/core/attempt/start-rules";
import { stored } from "@/core/numbers/exact";
import { START_ALLOWANCE } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt } from "@/data/schema";
import { instantOf, iso, now } from "../clock";
import { config } from "../config";
import { Problem } from "../problems";
import { versionContent } from "../quiz-versions";
import { prerequisiteOf } from "../quizzes/first-quiz";
import { openQuiz } from "../quizzes/open-quiz";
import { note } from "../record";
import type { Viewer } from "../viewer";
import { isOverdue, settle } from "./settle";

const attemptsOf = (quizId: string, personId: string) =>
  database()
    .select()
    .from(attempt)
    .where(and(eq(attempt.quizId, quizId), eq(attempt.personId, personId)))
    .orderBy(desc(attempt.number));

/**
 * Starts an attempt, or answers the one that runs already; two starts at once make one. Until the desk confirms that the
 * questions are on the screen, the clock is set to start by itself a little later.
 */
export async function startAttempt(viewer: Viewer, quizId: string): Promise<{ attemptId: string }> {
  const opened = await openQuiz(viewer, quizId);
  if (opened.role !== "student") {
    throw new Problem(
      403,
      "students-only",
      "Only students of this course can start an attempt at this quiz.",
    );
  }
  const { quiz: row, allowance: own, window } = opened;
  let attempts = await attemptsOf(row.id, viewer.id);
  for (const overdue of attempts.filter((each) => isOverdue(each, now()))) {
    await settle(overdue.id);
    attempts = await attemptsOf(row.id, viewer.id);
  }
  const content = await versionContent(opened.versionId);
  const { rules } = content;
  const at = now();
  const ruling = rulingOnStart({
    assigned: opened.assigned,
    first: await prerequisiteOf(row, viewer.id),
    waitBetween: rules.waitBetween,
    lastHandIn: instantOf(attempts[0]?.handedInAt ?? null),
    window,
    now: at,
    zone: config.zone,
    allowed: attemptsAllowed(rules.attempts, own),
    used: attempts.length,
    running: attempts.find((each) => each.handedInAt === null)?.id ?? null,
  });
  if (ruling.may === "resume") return { attemptId: ruling.attempt };
  if (ruling.may === "not") {
    const { rule, words, from } = ruling.refusal;
    throw new Problem(409, rule, words, from === null ? {} : { from: iso(from) });
  }
  const startedAt = at + START_ALLOWANCE;
  const deadline = deadlineOf({
    start: startedAt,
    limitMinutes: rules.timeLimit ?? null,
    allowance: own,
    closes: window.closes,
    closingCuts: rules.closingCutsClock ?? true,
  });
  const seed = randomBytes(16).toString("hex");
  const attemptId = await database().transaction(async (tx) => {
    const [made] = await tx
      .insert(attempt)
      .values({
        quizId: row.id,
        versionId: opened.versionId,
        personId: viewer.id,
        number: ruling.number,
        seed,
        startedAt: new Date(startedAt),
        deadline: deadline === null ? null : new Date(deadline),
        maximum: stored(maximumOf(planAttempt(content, seed))),
      })
      .onConflictDoNothing()
      .returning({ id: attempt.id });
    if (!made) return null;
    await note(tx, { actorId: viewer.id, action: "started", subject: "attempt", subjectId: made.id });
    return made.id;
  });
  if (attemptId) return { attemptId };
  const running = (await attemptsOf(row.id, viewer.id)).find((each) => each.handedInAt === null);
  if (running) return { attemptId: running.id };
  throw new Problem(
    409,
    "started-elsewhere",
    "This attempt was started and handed in somewhere else meanwhile. Read the brief again.",
  );
}
