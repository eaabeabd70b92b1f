import { and, eq, gt, isNull, lte, or, sql } from "drizzle-orm";
import { said } from "@/core/said";
import { dayAndTime } from "@/core/time/said-times";
import { database, inTransaction } from "@/data/database";
import { allowance, course, enrolment, quiz } from "@/data/schema";
import { isAssignedTo } from "../access/assigned";
import { now } from "../base/clock";
import { config } from "../base/config";
import { log } from "../base/log";
import { notify } from "../notices/notify";

const hasOpened = (at: Date) => and(lte(quiz.opens, at), gt(quiz.opens, quiz.openingTold));

/** Tells of one quiz that it has opened, unless another process does. */
async function tellOf(quizId: string): Promise<number> {
  return inTransaction(async (tx) => {
    const at = new Date(now());
    const [row] = await tx
      .select()
      .from(quiz)
      .where(and(eq(quiz.id, quizId), hasOpened(at)))
      .for("update", { skipLocked: true });
    if (!row) return 0;
    await tx.update(quiz).set({ openingTold: at }).where(eq(quiz.id, quizId));
    if (row.settings.practice) return 0;
    const students = await tx
      .select({ id: enrolment.personId, course: course.title })
      .from(enrolment)
      .innerJoin(course, eq(course.id, enrolment.courseId))
      .innerJoin(quiz, and(eq(quiz.id, quizId), eq(quiz.courseId, enrolment.courseId)))
      .leftJoin(allowance, and(eq(allowance.quizId, quizId), eq(allowance.personId, enrolment.personId)))
      .where(
        and(
          eq(enrolment.role, "student"),
          isAssignedTo(enrolment.personId),
          // For who has a window of their own it may open at another time.
          or(isNull(allowance.opens), lte(allowance.opens, at)),
          or(isNull(quiz.closes), sql`${quiz.closes} > ${at.toISOString()}::timestamptz`),
        ),
      );
    const due = row.due ?? row.closes;
    const until =
      due === null
        ? ""
        : said("server.jobs.notify-opened.it-is-due", { when: dayAndTime(due.getTime(), config.zone) });
    await notify(
      tx,
      students.map(({ id, course: title }) => ({
        personId: id,
        kind: "opened" as const,
        text: said("server.jobs.notify-opened.in-is-open", { title: row.title, course: title, until }),
        path: `/quizzes/${quizId}`,
      })),
    );
    return students.length;
  });
}

/** Tells the students for whom a quiz is set that it has opened, once for each opening. Any number of processes may call it. */
export async function notifyOpened(): Promise<number> {
  const due = await database()
    .select({ id: quiz.id })
    .from(quiz)
    .where(hasOpened(new Date(now())));
  let count = 0;
  for (const { id } of due) {
    try {
      count += await tellOf(id);
    } catch (error) {
      // One quiz that cannot be told of holds up no other.
      log.error({ err: error, quizId: id }, "an opening could not be told");
    }
  }
  return count;
}
