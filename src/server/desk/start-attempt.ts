import { and, desc, eq } from "drizzle-orm";
import { attemptsAllowed } from "@/core/attempt/attempts-left";
import { deadlineOf } from "@/core/attempt/deadline";
import { maximumOf, planAttempt, type Slot } from "@/core/attempt/plan";
import { rulingOnStart } from "@/core/attempt/start-rules";
import { isSound } from "@/core/kinds/marking";
import { stored } from "@/core/numbers/exact";
import type { QuizContent } from "@/core/quiz/quiz-file";
import { type Instant, START_ALLOWANCE } from "@/core/time/instants";
import { type Database, database, inTransaction } from "@/data/database";
import { attempt, quiz } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import { allowanceFor, windowOf } from "../access/allowances";
import { openQuiz } from "../access/open-quiz";
import type { Viewer } from "../access/viewer";
import { writeAttemptQuestions } from "../attempts/attempt-questions";
import { currentNaming, newSeed, type Seeded, seedOf } from "../attempts/seeds";
import { isOverdue, settleAll } from "../attempts/settle";
import { instantOf, iso, now } from "../base/clock";
import { config } from "../base/config";
import { log } from "../base/log";
import { notFound, Problem } from "../base/problems";
import { note } from "../base/record";
import { versionContent } from "../quizzes/versions";
import { prerequisiteOf } from "../reveal/prerequisite";

const attemptsOf = (quizId: string, personId: string) =>
  database()
    .select()
    .from(attempt)
    .where(and(eq(attempt.quizId, quizId), eq(attempt.personId, personId)))
    .orderBy(desc(attempt.number));

/** A draw that fails so often cannot be had. */
const MOST_DRAWS = 20;

/** The questions of a new attempt, drawn so that each of them can be shown and marked. @throws Problem where none can. */
async function soundDraw(
  content: QuizContent,
  before: string | null,
): Promise<{ readonly seeded: Seeded; readonly plan: Slot[] }> {
  const naming = await currentNaming();
  for (let draw = 0; draw < MOST_DRAWS; draw += 1) {
    const seeded = { id: newId(), seed: newSeed(before, draw), naming };
    const seed = await seedOf(seeded);
    const plan = planAttempt(content, seed);
    if (plan.every(({ question }) => isSound(question, seed))) return { seeded, plan };
  }
  log.error({ draws: MOST_DRAWS }, "no draw of a quiz has only questions that can be shown and marked");
  throw new Problem(409, "faulty", t("server.desk.start-attempt.this-quiz-cannot-be-started-one"));
}

/** When an attempt that starts now ends. Until it is written nobody changes what that is worked out from. */
async function firstDeadline(tx: Database, quizId: string, personId: string, start: Instant) {
  await tx.select({ id: quiz.id }).from(quiz).where(eq(quiz.id, quizId)).for("share");
  const [found] = await tx
    .select({ quiz, allowance: allowanceFor(personId) })
    .from(quiz)
    .where(eq(quiz.id, quizId));
  if (!found) throw notFound();
  return deadlineOf({
    start,
    limitMinutes: found.quiz.settings.timeLimit ?? null,
    allowance: found.allowance,
    closes: windowOf(found.quiz, found.allowance).closes,
    closingCuts: found.quiz.settings.closingCutsClock ?? true,
  });
}

/**
 * Starts an attempt, or answers the one that runs already; two starts at once make one. Until the desk confirms that the
 * questions are on the screen, the clock is set to start by itself a little later.
 */
export async function startAttempt(viewer: Viewer, quizId: string): Promise<{ attemptId: string }> {
  const opened = await openQuiz(viewer, quizId);
  if (opened.role !== "student") {
    throw new Problem(403, "students-only", t("server.desk.start-attempt.only-students-of-this-course-can"));
  }
  const { quiz: row, allowance: own, window } = opened;
  let attempts = await attemptsOf(row.id, viewer.id);
  const overdue = attempts.filter((each) => isOverdue(each, now()));
  if (overdue.length > 0) {
    await settleAll(overdue);
    attempts = await attemptsOf(row.id, viewer.id);
  }
  const content = await versionContent(opened.versionId);
  const { settings } = row;
  const at = now();
  const ruling = rulingOnStart({
    assigned: opened.assigned,
    first: await prerequisiteOf(row, viewer),
    waitBetween: settings.waitBetween,
    lastHandIn: instantOf(attempts[0]?.handedInAt ?? null),
    window,
    now: at,
    zone: config.zone,
    allowed: attemptsAllowed(settings.attempts, own),
    used: attempts.length,
    running: attempts.find((each) => each.handedInAt === null)?.id ?? null,
  });
  if (ruling.may === "resume") return { attemptId: ruling.attempt };
  if (ruling.may === "not") {
    const { rule, words, from } = ruling.refusal;
    throw new Problem(409, rule, words, from === null ? {} : { from: iso(from) });
  }
  const startedAt = at + START_ALLOWANCE;
  const drawn = await soundDraw(content, attempts[0]?.seed ?? null);
  const attemptId = await inTransaction(async (tx) => {
    const deadline = await firstDeadline(tx, row.id, viewer.id, startedAt);
    const [made] = await tx
      .insert(attempt)
      .values({
        ...drawn.seeded,
        quizId: row.id,
        versionId: opened.versionId,
        personId: viewer.id,
        number: ruling.number,
        startedAt: new Date(startedAt),
        deadline: deadline === null ? null : new Date(deadline),
        maximum: stored(maximumOf(drawn.plan)),
      })
      .onConflictDoNothing()
      .returning({ id: attempt.id });
    if (!made) return null;
    await writeAttemptQuestions(tx, [{ id: made.id, plan: drawn.plan }]);
    await note(tx, { actorId: viewer.id, action: "started", subject: "attempt", subjectId: made.id });
    return made.id;
  });
  if (attemptId) return { attemptId };
  const running = (await attemptsOf(row.id, viewer.id)).find((each) => each.handedInAt === null);
  if (running) return { attemptId: running.id };
  throw new Problem(
    409,
    "started-elsewhere",
    t("server.desk.start-attempt.this-attempt-was-started-and-handed"),
  );
}
