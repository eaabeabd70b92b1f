import { and, asc, eq, gte } from "drizzle-orm";
import * as yup from "yup";
import type { DeskMessage } from "@/core/desk/desk-view";
import { said } from "@/core/said";
import { database, inTransaction } from "@/data/database";
import { deskMessage, person } from "@/data/schema";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { signalDesks } from "../base/desk-events";
import { inputOf } from "../base/input";
import { note } from "../base/record";

const body = yup
  .object({
    text: yup
      .string()
      .strict()
      .trim()
      .min(1, said("server.quizzes.desk-messages.write-what-everybody-should-read"))
      .max(500, said("server.quizzes.desk-messages.a-message-to-the-desks-has"))
      .required(said("server.quizzes.desk-messages.text-is-missing-what-everybody-should")),
  })
  .strict()
  .noUnknown();

/** What was said to the desks of a quiz since a moment, oldest first. */
export async function deskMessages(quizId: string, since: Date): Promise<DeskMessage[]> {
  const rows = await database()
    .select({ id: deskMessage.id, text: deskMessage.text, from: person.name, at: deskMessage.createdAt })
    .from(deskMessage)
    .innerJoin(person, eq(person.id, deskMessage.authorId))
    .where(and(eq(deskMessage.quizId, quizId), gte(deskMessage.createdAt, since)))
    .orderBy(asc(deskMessage.createdAt));
  return rows.map((row) => ({ ...row, at: row.at.getTime() }));
}

/** Staff of a course say something to everybody who is taking a quiz; it stands at their desks within two seconds. */
export async function sayToDesks(viewer: Viewer, quizId: string, input: unknown): Promise<void> {
  const { text } = inputOf(body, input);
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "watch");
  const { quiz } = opened;
  await inTransaction(async (tx) => {
    await tx
      .insert(deskMessage)
      .values({ quizId: quiz.id, authorId: viewer.id, text, createdAt: new Date(now()) });
    await note(tx, {
      actorId: viewer.id,
      action: "said to the desks",
      subject: "quiz",
      subjectId: quiz.id,
      details: { text },
    });
    await signalDesks(tx, quiz.id);
  });
}
