import { and, eq, sql } from "drizzle-orm";
import { said } from "@/core/said";
import { dayAndTime } from "@/core/time/said-times";
import { database, inTransaction } from "@/data/database";
import { course, enrolment, quiz } from "@/data/schema";
import { allowanceFor, windowOf } from "../access/allowances";
import { isAssignedTo } from "../access/assigned";
import { iso, now } from "../base/clock";
import { config } from "../base/config";
import { log } from "../base/log";
import { notify } from "../notices/notify";

/** Whether it has opened for everyone, or for some who were given a window of their own, since openings were told last. */
const hasOpened = (
  at: Date,
) => sql`((${quiz.opens} <= ${iso(at.getTime())}::timestamptz and ${quiz.opens} > ${quiz.openingTold})
  or exists (select 1 from allowance own where own.quiz_id = ${sql`${quiz.id}`} and own.ended_at is null
    and own.opens <= ${iso(at.getTime())}::timestamptz and own.opens > ${sql`${quiz.openingTold}`}))`;

/** Tells of one quiz that it has opened, unless another process does: everyone for whom it has since it was told last. */
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
      .select({ id: enrolment.personId, course: course.title, allowance: allowanceFor(enrolment.personId) })
      .from(enrolment)
      .innerJoin(course, eq(course.id, enrolment.courseId))
      .innerJoin(quiz, and(eq(quiz.id, quizId), eq(quiz.courseId, enrolment.courseId)))
      .where(and(eq(enrolment.role, "student"), isAssignedTo(enrolment.personId)));
    const told = row.openingTold.getTime();
    const news = students.flatMap(({ id, course: title, allowance }) => {
      const { opens, due, closes } = windowOf(row, allowance);
      if (opens === null || opens <= told || opens > at.getTime()) return [];
      if (closes !== null && closes <= at.getTime()) return [];
      const end = due ?? closes;
      const until =
        end === null
          ? ""
          : said("server.jobs.notify-opened.it-is-due", { when: dayAndTime(end, config.zone) });
      return [
        {
          personId: id,
          kind: "opened" as const,
          text: said("server.jobs.notify-opened.in-is-open", { title: row.title, course: title, until }),
          path: `/quizzes/${quizId}`,
        },
      ];
    });
    await notify(tx, news);
    return news.length;
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
