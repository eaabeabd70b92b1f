import { and, asc, eq, inArray, max, sql } from "drizzle-orm";
import type { Allowance } from "@/core/attempt/deadline";
import { type QuizStanding, quizStanding } from "@/core/attempt/quiz-state";
import { lockedWords } from "@/core/attempt/start-rules";
import type { Window } from "@/core/attempt/window";
import { type Revelations, revealNow } from "@/core/reveal/reveal";
import { database } from "@/data/database";
import { allowance, attempt, course, enrolment, quiz, quizVersion } from "@/data/schema";
import { allowanceOf, windowOf } from "../attempts/access";
import { isOverdue, settle } from "../attempts/settle";
import { instantOf, now } from "../clock";
import { config } from "../config";
import { prerequisiteFrom } from "../quizzes/first-quiz";
import type { Viewer } from "../viewer";

type AttemptRow = typeof attempt.$inferSelect;

/** A quiz as it stands for one person. */
export interface QuizOfPerson {
  readonly quiz: typeof quiz.$inferSelect;
  readonly course: typeof course.$inferSelect;
  readonly role: "student" | "assistant" | "instructor";
  readonly facts: (typeof quizVersion.$inferSelect)["facts"];
  readonly instructor: string;
  readonly allowance: Allowance;
  readonly window: Window;
  /** In the order of their numbers. */
  readonly attempts: readonly AttemptRow[];
  readonly standing: QuizStanding;
}

/** When the last of the group can still write: the latest due, closing and running deadline over all allowances. */
export const groupEnds = {
  groupDue: sql<
    string | null
  >`greatest(${quiz.due}, (select ${max(allowance.due)} from ${allowance} where ${allowance.quizId} = ${quiz.id}))`,
  groupCloses: sql<
    string | null
  >`greatest(${quiz.closes}, (select ${max(allowance.closes)} from ${allowance} where ${allowance.quizId} = ${quiz.id}))`,
  groupStillWritesUntil: sql<
    string | null
  >`(select max(running.deadline) from attempt running where running.quiz_id = ${quiz.id} and running.handed_in_at is null)`,
};

export interface GroupEnds {
  readonly groupDue: string | null;
  readonly groupCloses: string | null;
  readonly groupStillWritesUntil: string | null;
}

/** What of a handed-in attempt its student may see now. */
export function revelationsOf(
  row: AttemptRow,
  facts: { readonly reveal: QuizOfPerson["facts"]["reveal"] },
  ends: GroupEnds,
  attemptsLeft: boolean,
): Revelations {
  const at = (text: string | null) => (text === null ? null : new Date(text).getTime());
  return revealNow(facts.reveal, {
    now: now(),
    handedInAt: instantOf(row.handedInAt) ?? now(),
    groupDue: at(ends.groupDue),
    groupCloses: at(ends.groupCloses),
    groupStillWritesUntil: at(ends.groupStillWritesUntil),
    returnedAt: instantOf(row.returnedAt),
    attemptsLeft,
    zone: config.zone,
  });
}

/** What has to be done before a quiz, from what was read of the others of its course; null: nothing any more. */
function lockedBy(
  { firstQuizId, firstAtLeast }: QuizOfPerson["quiz"],
  rows: readonly Pick<QuizOfPerson, "quiz">[],
  attempts: readonly AttemptRow[],
): string | null {
  const first = rows.find((row) => row.quiz.id === firstQuizId)?.quiz;
  if (!first) return null;
  const handedIn = attempts.filter((each) => each.quizId === first.id && each.handedInAt !== null);
  return lockedWords(prerequisiteFrom(first.title, firstAtLeast, handedIn));
}

async function attemptsOf(personId: string, quizIds: readonly string[]): Promise<AttemptRow[]> {
  if (quizIds.length === 0) return [];
  const read = () =>
    database()
      .select()
      .from(attempt)
      .where(and(eq(attempt.personId, personId), inArray(attempt.quizId, [...quizIds])))
      .orderBy(asc(attempt.number));
  const rows = await read();
  const overdue = rows.filter((row) => isOverdue(row, now()));
  if (overdue.length === 0) return rows;
  for (const row of overdue) await settle(row.id);
  return read();
}

/** The quizzes of a person's courses (or of one), with the person's attempts, in two queries. */
export async function quizzesOf(
  viewer: Viewer,
  courseId?: string,
): Promise<(QuizOfPerson & { ends: GroupEnds })[]> {
  const rows = await database()
    .select({
      quiz,
      course,
      role: enrolment.role,
      facts: quizVersion.facts,
      allowance,
      instructor: sql<string>`(select name from person where id = ${quiz.instructorId})`,
      ...groupEnds,
    })
    .from(enrolment)
    .innerJoin(course, eq(course.id, enrolment.courseId))
    .innerJoin(quiz, eq(quiz.courseId, course.id))
    .innerJoin(quizVersion, and(eq(quizVersion.quizId, quiz.id), eq(quizVersion.number, quiz.currentVersion)))
    .leftJoin(allowance, and(eq(allowance.quizId, quiz.id), eq(allowance.personId, viewer.id)))
    .where(and(eq(enrolment.personId, viewer.id), courseId ? eq(course.id, courseId) : undefined));
  const attempts = await attemptsOf(
    viewer.id,
    rows.map((row) => row.quiz.id),
  );
  return rows.map((row) => {
    const own = allowanceOf(row.allowance);
    const window = windowOf(row.quiz, own);
    const mine = attempts.filter((each) => each.quizId === row.quiz.id);
    const allowed = row.facts.attempts === null ? null : row.facts.attempts + own.extraAttempts;
    const standing = quizStanding({
      window,
      now: now(),
      allowed,
      attempts: mine.map((each) => ({
        number: each.number,
        handedInAt: instantOf(each.handedInAt),
        returnedAt: instantOf(each.returnedAt),
        awaiting: Number(each.awaited ?? 0) > 0,
      })),
      locked: lockedBy(row.quiz, rows, attempts),
    });
    const { groupDue, groupCloses, groupStillWritesUntil } = row;
    return {
      quiz: row.quiz,
      course: row.course,
      role: row.role,
      facts: row.facts,
      instructor: row.instructor,
      allowance: own,
      window,
      attempts: mine,
      standing,
      ends: { groupDue, groupCloses, groupStillWritesUntil },
    };
  });
}
