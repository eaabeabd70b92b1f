import { and, asc, eq, gt, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import * as yup from "yup";
import { said } from "@/core/said";
import { GRACE, MINUTE } from "@/core/time/instants";
import { dayAndTime } from "@/core/time/said-times";
import { inTransaction } from "@/data/database";
import { attempt } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { iso, now } from "../base/clock";
import { config } from "../base/config";
import { signalDesks } from "../base/desk-events";
import { hasWords, inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { note } from "../base/record";
import { notify } from "../notices/notify";
import { attemptIdsShape } from "./attempt-ids";

const body = yup
  .object({
    minutes: yup
      .number()
      .strict()
      .moreThan(0, said("server.quizzes.extend-running.minutes-must-be-more-than-0"))
      .max(1_440, said("server.quizzes.extend-running.minutes-must-be-a-day-at"))
      .required(said("server.quizzes.extend-running.minutes-is-missing-how-much-later")),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.quizzes.change-settings.say-why-it-goes-on-record"), hasWords)
      .max(500)
      .required(said("server.quizzes.change-settings.reason-is-missing-it-goes-on")),
    attemptIds: attemptIdsShape(),
  })
  .strict()
  .noUnknown();

/** An instructor gives more time to some running attempts, or to all of a quiz; returns how many got it. */
export async function extendRunning(
  viewer: Viewer,
  quizId: string,
  input: unknown,
): Promise<{ readonly extended: number }> {
  const { minutes, reason, attemptIds } = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "allow");
  const { quiz } = opened;
  return inTransaction(async (tx) => {
    const running = await tx
      .select()
      .from(attempt)
      .where(
        and(
          eq(attempt.quizId, quiz.id),
          isNull(attempt.handedInAt),
          isNotNull(attempt.deadline),
          // Within the grace its answers still arrive: it has not ended.
          gt(attempt.deadline, new Date(now() - GRACE)),
          attemptIds === undefined ? undefined : inArray(attempt.id, attemptIds),
        ),
      )
      .orderBy(asc(attempt.id))
      .for("update");
    if (attemptIds !== undefined && running.length === 0) {
      throw badInput(t("server.quizzes.extend-running.this-attempt-is-not-running-or"));
    }
    const later = running.map(({ id, personId, deadline }) => {
      const from = deadline?.getTime() ?? 0;
      return { id, personId, from, to: from + Math.round(minutes * MINUTE) };
    });
    for (const { id, from, to } of later) {
      await tx
        .update(attempt)
        .set({ deadline: new Date(to), addedMs: sql`${attempt.addedMs} + ${Math.round(minutes * MINUTE)}` })
        .where(eq(attempt.id, id));
      await note(tx, {
        actorId: viewer.id,
        action: "extended",
        subject: "attempt",
        subjectId: id,
        details: { from: iso(from), to: iso(to), reason },
      });
    }
    await notify(
      tx,
      later.map(({ id, personId, to }) => ({
        personId,
        kind: "extended" as const,
        text: said("server.quizzes.extend-running.you-have-other-in-your-time", {
          minutes,
          title: quiz.title,
          to: dayAndTime(to, config.zone),
          reason,
        }),
        path: `/attempts/${id}`,
      })),
    );
    await signalDesks(tx, quiz.id);
    return { extended: running.length };
  });
}
