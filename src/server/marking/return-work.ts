import { and, eq, inArray, isNotNull, isNull } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { said } from "@/core/said";
import { inTransaction } from "@/data/database";
import { attempt } from "@/data/schema";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { note } from "../base/record";
import { notify } from "../notices/notify";

const body = yup
  .object({
    attemptIds: yup
      .array()
      .of(
        yup
          .string()
          .strict()
          .test("uuid", said("server.marking.return-work.attemptids-holds-something-that-is-not"), (id) =>
            isUuid(id ?? ""),
          )
          .required(),
      )
      .max(10_000),
  })
  .strict()
  .noUnknown();

/**
 * An instructor returns handed-in work of a quiz, all of it or some attempts: what its rules show "when returned" is visible
 * then, and its students are told. What was returned before stays as it is. Returns how many were returned.
 */
export async function returnWork(
  viewer: Viewer,
  quizId: string,
  input: unknown,
): Promise<{ readonly returned: number }> {
  const { attemptIds } = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "return");
  const { quiz } = opened;
  return inTransaction(async (tx) => {
    const returned = await tx
      .update(attempt)
      .set({ returnedAt: new Date(now()) })
      .where(
        and(
          eq(attempt.quizId, quiz.id),
          isNotNull(attempt.handedInAt),
          isNull(attempt.returnedAt),
          ...(attemptIds === undefined ? [] : [inArray(attempt.id, attemptIds)]),
        ),
      )
      .returning({ id: attempt.id, personId: attempt.personId, number: attempt.number });
    for (const { id } of returned) {
      await note(tx, { actorId: viewer.id, action: "returned", subject: "attempt", subjectId: id });
    }
    await notify(
      tx,
      returned.map(({ id, personId, number }) => ({
        personId,
        kind: "returned" as const,
        text: said("server.marking.return-work.attempt-is-returned-its-marks-and", {
          title: quiz.title,
          number,
        }),
        path: `/attempts/${id}/paper`,
      })),
    );
    return { returned: returned.length };
  });
}
