import { and, eq, isNull, ne } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { said } from "@/core/said";
import { MINUTE } from "@/core/time/instants";
import { dayAndTime } from "@/core/time/said-times";
import { inTransaction } from "@/data/database";
import { attempt } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { lockAttempt } from "../attempts/lock-attempt";
import { iso, now } from "../base/clock";
import { config } from "../base/config";
import { signalAttempt } from "../base/desk-events";
import { hasWords, inputOf } from "../base/input";
import { badInput, isDuplicate, notFound, Problem } from "../base/problems";
import { note } from "../base/record";
import { reopenAttempt } from "../desk/reopen-attempt";
import { notify } from "../notices/notify";
import { shownTo } from "../reveal/revealed";

const body = yup
  .object({
    attemptId: yup
      .string()
      .strict()
      .test("uuid", said("server.quizzes.extend-running.attemptid-is-not-the-id-of"), (id) =>
        isUuid(id ?? ""),
      )
      .required(said("server.quizzes.attempt-ids.choose-at-least-one")),
    /** From now, where its time is up; else on top of what is left. */
    minutes: yup
      .number()
      .strict()
      .min(0)
      .max(1_440, said("server.quizzes.extend-running.minutes-must-be-a-day-at"))
      .required(said("server.watch.let-in.say-how-many-minutes")),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.watch.end-attempts.say-why-the-student-reads-it"), hasWords)
      .max(500)
      .required(said("server.watch.end-attempts.say-why-the-student-reads-it")),
  })
  .strict()
  .noUnknown();

const refused = (type: string, words: string) => new Problem(409, type, words);

/**
 * An instructor lets a student go on with an attempt that was handed in: the same one, with its answers, and with time to write.
 * Not where its student can see right answers already, where it was returned, or where another attempt of theirs runs.
 */
export async function letIn(viewer: Viewer, quizId: string, input: unknown): Promise<void> {
  const { attemptId, minutes, reason } = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "allow");
  const { quiz } = opened;
  try {
    await inTransaction(async (tx) => {
      const row = await lockAttempt(tx, attemptId);
      if (!row || row.quizId !== quiz.id || row.writtenRemovedAt !== null) throw notFound();
      if (row.handedInAt === null) throw refused("running", t("server.watch.let-in.it-runs-already"));
      if (row.returnedAt !== null) throw refused("returned", t("server.watch.let-in.it-is-returned"));
      const shown = await shownTo(row.personId, row);
      if (shown.includes("right") || shown.includes("worked"))
        throw refused("answers-shown", t("server.watch.let-in.right-answers-are-shown"));
      const [other] = await tx
        .select({ id: attempt.id })
        .from(attempt)
        .where(
          and(
            eq(attempt.quizId, quiz.id),
            eq(attempt.personId, row.personId),
            isNull(attempt.handedInAt),
            ne(attempt.id, row.id),
          ),
        );
      if (other) throw refused("another-runs", t("server.watch.let-in.another-attempt-runs"));
      const at = now();
      const before = row.deadline?.getTime() ?? null;
      const deadline = before === null ? null : Math.max(before, at) + Math.round(minutes * MINUTE);
      if (deadline !== null && deadline <= at)
        throw badInput(t("server.watch.let-in.its-time-is-up-give-some"));
      const late = await reopenAttempt(tx, row);
      await tx
        .update(attempt)
        .set({
          deadline: deadline === null ? null : new Date(deadline),
          addedMs: row.addedMs + (deadline === null || before === null ? 0 : deadline - before),
        })
        .where(eq(attempt.id, row.id));
      await note(tx, {
        actorId: viewer.id,
        action: "let in again",
        subject: "attempt",
        subjectId: row.id,
        details: {
          reason,
          handedInAt: iso(row.handedInAt.getTime()),
          deadline: deadline === null ? null : iso(deadline),
          late,
        },
      });
      await notify(tx, [
        {
          personId: row.personId,
          kind: "extended",
          text:
            deadline === null
              ? said("server.watch.let-in.you-may-go-on", { title: quiz.title, reason })
              : said("server.watch.let-in.you-may-go-on-until", {
                  title: quiz.title,
                  to: dayAndTime(deadline, config.zone),
                  reason,
                }),
          path: `/attempts/${row.id}`,
        },
      ]);
      await signalAttempt(tx, row.id, null);
    });
  } catch (error) {
    // Another attempt was started in this very moment: the database lets one run.
    if (isDuplicate(error)) throw refused("another-runs", t("server.watch.let-in.another-attempt-runs"));
    throw error;
  }
}
