import { eq } from "drizzle-orm";
import { readSlipCode } from "@/core/attempt/slip-code";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { attempt, course, quiz, slip } from "@/data/schema";
import { t } from "@/words/t";

/** What anyone may learn from a slip's code: that it is genuine, when, and which quiz. No name, no marks. */
export type SlipVerdict =
  | {
      readonly genuine: true;
      readonly code: string;
      readonly quiz: string;
      readonly course: string;
      readonly at: Instant;
      /** When this hand-in was taken back, so that it is no longer what counts; null: it stands. */
      readonly takenBackAt: Instant | null;
    }
  | { readonly genuine: false; readonly problem: string };

/** Whether a code is that of a slip that was given. One query. */
export async function verifySlip(text: string): Promise<SlipVerdict> {
  const code = readSlipCode(text);
  if (code === null) {
    return {
      genuine: false,
      problem: t("server.handed-in.verify-slip.a-code-has-twelve-letters-and"),
    };
  }
  const [row] = await database()
    .select({ quiz: quiz.title, course: course.title, at: slip.handedInAt, back: slip.takenBackAt })
    .from(slip)
    .innerJoin(attempt, eq(attempt.id, slip.attemptId))
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .innerJoin(course, eq(course.id, quiz.courseId))
    .where(eq(slip.code, code));
  return row
    ? {
        genuine: true,
        code,
        quiz: row.quiz,
        course: row.course,
        at: row.at.getTime(),
        takenBackAt: row.back?.getTime() ?? null,
      }
    : { genuine: false, problem: t("server.handed-in.verify-slip.no-slip-with-the-code-was", { code }) };
}
