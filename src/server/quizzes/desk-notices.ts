import { and, asc, eq, gte } from "drizzle-orm";
import * as yup from "yup";
import type { DeskNotice } from "@/core/desk/desk-view";
import { said } from "@/core/said";
import { database, inTransaction } from "@/data/database";
import { deskNotice, person } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { tellDesks } from "../base/desk-events";
import { inputOf } from "../base/input";
import { Problem } from "../base/problems";
import { note } from "../base/record";

const body = yup
  .object({
    text: yup
      .string()
      .strict()
      .trim()
      .min(1, said("server.quizzes.desk-notices.write-what-everybody-should-read"))
      .max(500, said("server.quizzes.desk-notices.a-notice-to-the-desks-has"))
      .required(said("server.quizzes.desk-notices.text-is-missing-what-everybody-should")),
  })
  .strict()
  .noUnknown();

/** What was said to the desks of a quiz since a moment, oldest first. */
export async function deskNotices(quizId: string, since: Date): Promise<DeskNotice[]> {
  const rows = await database()
    .select({ id: deskNotice.id, text: deskNotice.text, from: person.name, at: deskNotice.createdAt })
    .from(deskNotice)
    .innerJoin(person, eq(person.id, deskNotice.authorId))
    .where(and(eq(deskNotice.quizId, quizId), gte(deskNotice.createdAt, since)))
    .orderBy(asc(deskNotice.createdAt));
  return rows.map((row) => ({ ...row, at: row.at.getTime() }));
}

/** Staff of a course say something to everybody who is taking a quiz; it stands at their desks within two seconds. */
export async function sayToDesks(viewer: Viewer, quizId: string, input: unknown): Promise<void> {
  const { text } = inputOf(body, input);
  const { role, quiz } = await openQuiz(viewer, quizId);
  if (role === "student") {
    throw new Problem(403, "staff-only", t("server.quizzes.desk-notices.only-those-who-teach-this-course"));
  }
  await inTransaction(async (tx) => {
    await tx
      .insert(deskNotice)
      .values({ quizId: quiz.id, authorId: viewer.id, text, createdAt: new Date(now()) });
    await note(tx, {
      actorId: viewer.id,
      action: "said to the desks",
      subject: "quiz",
      subjectId: quiz.id,
      details: { text },
    });
    await tellDesks(tx, quiz.id);
  });
}
