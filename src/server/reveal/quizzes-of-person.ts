import { and, asc, eq, inArray, sql } from "drizzle-orm";
import type { CourseRole } from "@/core/access/may";
import { attemptsAllowed, attemptsLeft, attemptsRemain as mayWrite } from "@/core/attempt/attempts-left";
import type { Allowance } from "@/core/attempt/deadline";
import { type QuizStatus, quizStatus } from "@/core/attempt/quiz-state";
import { lockedWords, type Prerequisite } from "@/core/attempt/start-rules";
import { takeBackEnd } from "@/core/attempt/take-back";
import type { Window } from "@/core/attempt/window";
import { type Exact, ZERO } from "@/core/numbers/exact";
import { type GroupMoments, type Revelations, revealNow } from "@/core/reveal/reveal";
import type { Said } from "@/core/said";
import { database } from "@/data/database";
import { attempt, course, enrolment, quiz, quizVersion } from "@/data/schema";
import { allowanceFor, windowOf } from "../access/allowances";
import { isAssignedTo } from "../access/assigned";
import { type GroupEnds, groupEnds, groupMoments } from "../access/group-ends";
import { isGivenTo, isSeenBy } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { isOverdue, settleAll } from "../attempts/settle";
import { instantOf, now } from "../base/clock";
import { config } from "../base/config";
import { countingOf } from "./counting-totals";

type AttemptRow = typeof attempt.$inferSelect;

/** A quiz as it stands for one person. */
export interface QuizOfPerson {
  readonly quiz: typeof quiz.$inferSelect;
  readonly course: typeof course.$inferSelect;
  readonly role: CourseRole;
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
  readonly status: QuizStatus;
  /** Who of everyone it is set for may still write, and until when. */
  readonly group: GroupMoments;
}

/** Whether this student may still write in it: in a running attempt, or in another one, now or later. */
export const attemptsRemain = (item: QuizOfPerson): boolean =>
  mayWrite({
    running: item.attempts.some(({ handedInAt }) => handedInAt === null),
    left: attemptsLeft(item.allowed, item.attempts.length),
    assigned: item.assigned,
    closes: item.window.closes,
    now: now(),
  });

/** What of a handed-in attempt its student may see now: the one place in which that is worked out. */
export const revelationsOf = (item: QuizOfPerson, row: AttemptRow): Revelations =>
  revealNow(item.quiz.settings.reveal, {
    now: now(),
    handedInAt: instantOf(row.handedInAt) ?? now(),
    group: item.group,
    returnedAt: instantOf(row.returnedAt),
    laterRuns: item.attempts.some(({ id, handedInAt }) => handedInAt === null && id !== row.id),
    attemptsLeft: attemptsRemain(item),
    takeBackUntil: takeBackEnd({
      allowed: item.quiz.settings.takeBack ?? false,
      handedInBy: row.handedInBy,
      due: item.window.due,
      added: row.addedMs,
      deadline: instantOf(row.deadline),
      returned: row.returnedAt !== null,
    }),
    zone: config.zone,
  });

/** Whether something of a handed-in attempt's marked paper may be read now: marks, right answers or feedback. */
export function paperReadable(item: QuizOfPerson, row: AttemptRow): boolean {
  const { total, marks, right, worked } = revelationsOf(item, row);
  return [total, marks, right, worked].some(({ visible }) => visible);
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
  await settleAll(overdue);
  return read();
}

const read = (viewer: Pick<Viewer, "id">) => ({
  quiz,
  course,
  role: enrolment.role,
  facts: quizVersion.facts,
  allowance: allowanceFor(viewer.id),
  assigned: isAssignedTo(viewer.id),
  given: isGivenTo(viewer.id),
  instructor: sql<string>`(select name from person where id = ${quiz.instructorId})`,
  ...groupEnds(),
});

/** The quizzes of a person's courses (or of one), with the person's attempts, in two queries. */
export async function quizzesOf(viewer: Pick<Viewer, "id">, courseId?: string): Promise<QuizOfPerson[]> {
  const found = await database()
    .select(read(viewer))
    .from(enrolment)
    .innerJoin(course, eq(course.id, enrolment.courseId))
    .innerJoin(quiz, eq(quiz.courseId, course.id))
    .innerJoin(quizVersion, and(eq(quizVersion.quizId, quiz.id), eq(quizVersion.number, quiz.currentVersion)))
    .where(and(eq(enrolment.personId, viewer.id), courseId ? eq(course.id, courseId) : undefined));
  const rows = found.filter(isSeenBy);
  const attempts = await attemptsOf(
    viewer.id,
    rows.map((row) => row.quiz.id),
  );
  const items = rows.map((row) => quizOfPerson(row, attempts, null));
  const byId = new Map(items.map((item) => [item.quiz.id, item]));
  return items.map((item, i) => {
    const first = item.quiz.firstQuizId === null ? undefined : byId.get(item.quiz.firstQuizId);
    const locked = first ? lockedWords(prerequisiteFrom(first, item.quiz.firstAtLeast)) : null;
    const row = rows[i];
    return locked === null || !row ? item : quizOfPerson(row, attempts, locked);
  });
}

/** One quiz as it stands for a person, whether or not that person is still in its course. Two queries. */
export async function quizOfViewer(
  viewer: Pick<Viewer, "id">,
  quizId: string,
): Promise<QuizOfPerson | undefined> {
  const [row] = await database()
    .select(read(viewer))
    .from(quiz)
    .innerJoin(course, eq(course.id, quiz.courseId))
    .innerJoin(quizVersion, and(eq(quizVersion.quizId, quiz.id), eq(quizVersion.number, quiz.currentVersion)))
    .leftJoin(enrolment, and(eq(enrolment.courseId, quiz.courseId), eq(enrolment.personId, viewer.id)))
    .where(eq(quiz.id, quizId));
  if (!row) return undefined;
  const { role } = row;
  const own = { ...row, role: role ?? ("student" as const), assigned: row.assigned && role !== null };
  return quizOfPerson(own, await attemptsOf(viewer.id, [quizId]), null);
}

/** What is read of a quiz to say how it stands for a person. */
interface QuizRead
  extends GroupEnds,
    Pick<QuizOfPerson, "quiz" | "course" | "role" | "facts" | "instructor" | "allowance" | "assigned"> {}

/** A quiz as it stands for one person, from what was read of it and of their attempts. */
export function quizOfPerson(
  row: QuizRead,
  attempts: readonly AttemptRow[],
  locked: Said | null,
): QuizOfPerson {
  const { quiz: set, course: of, role, facts, instructor, assigned, allowance: own } = row;
  const window = windowOf(set, own);
  const mine = attempts.filter((each) => each.quizId === set.id);
  const allowed = attemptsAllowed(set.settings.attempts, own);
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
    status: quizStatus({
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
      waitsFor: instructor,
    }),
    group: groupMoments(row),
  };
}

/** How the quiz that comes first stands: what is reached in it counts from when its student may know it. */
export function prerequisiteFrom(first: QuizOfPerson, atLeast: string | null): Prerequisite {
  const handedIn = first.attempts.filter((each) => each.handedInAt !== null);
  const shown = handedIn.map((each) => ({ each, total: revelationsOf(first, each).total }));
  const shares = shown.flatMap(({ each, total }): Exact[] => {
    const { earned, maximum } = countingOf(first, each);
    return total.visible && maximum.compare(ZERO) > 0 ? [earned.div(maximum).mul(100)] : [];
  });
  return {
    title: first.quiz.title,
    handedIn: handedIn.length > 0,
    atLeast,
    reached: shares.reduce<Exact | null>(
      (best, each) => (best === null || each.compare(best) > 0 ? each : best),
      null,
    ),
    heldBack: shown.find(({ total }) => !total.visible)?.total ?? null,
  };
}
