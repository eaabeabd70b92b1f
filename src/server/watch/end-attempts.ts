import { and, asc, eq, inArray, isNull } from "drizzle-orm";
import * as yup from "yup";
import { said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { attempt } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { handInAll } from "../attempts/settle";
import { now } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { note } from "../base/record";
import { notify } from "../notices/notify";
import { attemptIdsShape } from "../quizzes/attempt-ids";

const body = yup
  .object({
    attemptIds: attemptIdsShape().required(said("server.quizzes.attempt-ids.choose-at-least-one")),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.watch.end-attempts.say-why-the-student-reads-it"), hasWords)
      .max(500)
      .required(said("server.watch.end-attempts.say-why-the-student-reads-it")),
  })
  .strict()
  .noUnknown();

/**
 * An instructor ends running attempts: they are handed in as they stand, and their students are told why. One that has ended
 * meanwhile is left as it is. Returns how many were ended.
 */
export async function endAttempts(
  viewer: Viewer,
  quizId: string,
  input: unknown,
): Promise<{ readonly ended: number }> {
  const { attemptIds, reason } = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "allow");
  const { quiz } = opened;
  return inTransaction(async (tx) => {
    const running = await tx
      .select()
      .from(attempt)
      .where(and(eq(attempt.quizId, quiz.id), inArray(attempt.id, attemptIds), isNull(attempt.handedInAt)))
      .orderBy(asc(attempt.id))
      .for("update");
    if (running.length === 0) throw badInput(t("server.watch.end-attempts.none-of-them-runs"));
    const at = now();
    await handInAll(
      tx,
      running.map((row) => {
        const deadline = row.deadline?.getTime() ?? Number.POSITIVE_INFINITY;
        // Its time was up before: then the clock has ended it, and nobody else.
        return at > deadline
          ? { row, by: "clock" as const, at: deadline, actorId: null }
          : { row, by: "instructor" as const, at: Math.max(at, row.startedAt.getTime()), actorId: viewer.id };
      }),
    );
    for (const { id } of running)
      await note(tx, {
        actorId: viewer.id,
        action: "ended",
        subject: "attempt",
        subjectId: id,
        details: { reason },
      });
    await notify(
      tx,
      running.map(({ id, personId }) => ({
        personId,
        kind: "by-clock" as const,
        text: said("server.watch.end-attempts.your-attempt-was-ended", { title: quiz.title, reason }),
        path: `/attempts/${id}/slip`,
      })),
    );
    return { ended: running.length };
  });
}
