import { and, asc, eq, inArray, sql } from "drizzle-orm";
import { attemptsAllowed } from "@/core/attempt/attempts-left";
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
import { isAssignedTo } from "../quizzes/assigned";
import { prerequisiteFrom } from "../quizzes/first-quiz";
import { type GroupEnds, groupEnds, groupInstants } from "../quizzes/group-ends";
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
  /** Whether this person is among those who may take it. */
  readonly assigned: boolean;
  /** How many attempts this person may make; null: as many as one likes. */
  readonly allowed: number | null;
  /** In the order of their numbers. */
  readonly attempts: readonly AttemptRow[];
  readonly standing: QuizStanding;
}

/** What of a handed-in attempt its student may see now. */
export function revelationsOf(
  row: AttemptRow,
  facts: { readonly reveal: QuizOfPerson["facts"]["reveal"] },
  ends: GroupEnds,
  attemptsLeft: boolean,
): Revelations {
  return revealNow(facts.reveal, {
    now: now(),
    handedInAt: instantOf(row.handedInAt) ?? now(),
    ...groupInstants(ends),
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
      assigned: isAssignedTo(viewer.id),
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
  return rows.map((row) => quizOfPerson(row, attempts, lockedBy(row.quiz, rows, attempts)));
}

/** What is read of a quiz to say how it stands for a person. */
interface QuizRead
  extends GroupEnds,
    Pick<QuizOfPerson, "quiz" | "course" | "role" | "facts" | "instructor"> {
  readonly allowance: typeof allowance.$inferSelect | null;
  readonly assigned: boolean;
}

/** A quiz as it stands for one person, from what was read of it and of their attempts. */
export function quizOfPerson(
  { allowance: granted, assigned, groupDue, groupCloses, groupStillWritesUntil, ...read }: QuizRead,
  attempts: readonly AttemptRow[],
  locked: string | null,
): QuizOfPerson & { ends: GroupEnds } {
  const own = allowanceOf(granted);
  const window = windowOf(read.quiz, own);
  const mine = attempts.filter((each) => each.quizId === read.quiz.id);
  const { quiz: set, course: of, role, facts, instructor } = read;
  const allowed = attemptsAllowed(facts.attempts, own);
  return {
    quiz: set,
    course: of,
    role,
    facts,
    instructor,
    allowance: own,
    window,
    assigned,
    allowed,
    attempts: mine,
    standing: quizStanding({
      window,
      now: now(),
      allowed,
      attempts: mine.map((each) => ({
        number: each.number,
        handedInAt: instantOf(each.handedInAt),
        returnedAt: instantOf(each.returnedAt),
        awaiting: Number(each.awaited ?? 0) > 0,
      })),
      locked,
      assigned,
    }),
    ends: { groupDue, groupCloses, groupStillWritesUntil },
  };
}
