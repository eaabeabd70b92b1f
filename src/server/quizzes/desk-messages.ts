import { and, asc, eq, gte, inArray, isNull, or } from "drizzle-orm";
import * as yup from "yup";
import type { DeskMessage } from "@/core/desk/desk-view";
import { said } from "@/core/said";
import { database, inTransaction } from "@/data/database";
import { attempt, deskMessage, person } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { signalAttempts, signalDesks } from "../base/desk-events";
import { hasWords, inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { note } from "../base/record";
import { attemptIdsShape } from "./attempt-ids";

const body = yup
  .object({
    text: yup
      .string()
      .strict()
      .test("words", said("server.quizzes.desk-messages.write-what-everybody-should-read"), hasWords)
      .max(500, said("server.quizzes.desk-messages.a-message-to-the-desks-has"))
      .required(said("server.quizzes.desk-messages.text-is-missing-what-everybody-should")),
    /** To whom alone; absent: to everybody. */
    attemptIds: attemptIdsShape(),
  })
  .strict()
  .noUnknown();

/** What was said to all desks of a quiz, or to those of one attempt, since a moment, oldest first. */
export async function deskMessages(
  { id, quizId }: { readonly id: string; readonly quizId: string },
  since: Date,
): Promise<DeskMessage[]> {
  const rows = await database()
    .select({ id: deskMessage.id, text: deskMessage.text, from: person.name, at: deskMessage.createdAt })
    .from(deskMessage)
    .innerJoin(person, eq(person.id, deskMessage.authorId))
    .where(
      and(
        eq(deskMessage.quizId, quizId),
        or(isNull(deskMessage.attemptId), eq(deskMessage.attemptId, id)),
        gte(deskMessage.createdAt, since),
      ),
    )
    .orderBy(asc(deskMessage.createdAt));
  return rows.map((row) => ({ ...row, at: row.at.getTime() }));
}

/** Staff of a course say something to everybody who is taking a quiz, or to some; it stands at their desks within two seconds. */
export async function sayToDesks(viewer: Viewer, quizId: string, input: unknown): Promise<void> {
  const { text, attemptIds } = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "watch");
  const { quiz } = opened;
  await inTransaction(async (tx) => {
    const common = { quizId: quiz.id, authorId: viewer.id, text, createdAt: new Date(now()) };
    const own =
      attemptIds === undefined
        ? null
        : await tx
            .select({ id: attempt.id })
            .from(attempt)
            .where(
              and(eq(attempt.quizId, quiz.id), isNull(attempt.handedInAt), inArray(attempt.id, attemptIds)),
            );
    if (own?.length === 0) throw badInput(t("server.quizzes.desk-messages.none-of-them-writes-now"));
    await tx
      .insert(deskMessage)
      .values(own === null ? [common] : own.map(({ id }) => ({ ...common, attemptId: id })));
    await note(tx, {
      actorId: viewer.id,
      action: "said to the desks",
      subject: "quiz",
      subjectId: quiz.id,
      details: { text, ...(own && { attempts: own.map(({ id }) => id) }) },
    });
    if (own === null) await signalDesks(tx, quiz.id);
    else
      await signalAttempts(
        tx,
        own.map(({ id }) => id),
      );
  });
}
