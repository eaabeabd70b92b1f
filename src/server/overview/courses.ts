import { and, asc, eq, sql } from "drizzle-orm";
import { database } from "@/data/database";
import { course, enrolment } from "@/data/schema";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { type QuizOfPerson, quizzesOf } from "../reveal/quizzes-of-person";

/** The courses in which a person is enrolled: those that were opened last first, the others by their code. */
export async function coursesOf(viewer: Viewer): Promise<CourseOfPerson[]> {
  const rows = await database()
    .select({ course, role: enrolment.role, visitedAt: enrolment.visitedAt })
    .from(enrolment)
    .innerJoin(course, eq(course.id, enrolment.courseId))
    .where(eq(enrolment.personId, viewer.id))
    .orderBy(sql`${enrolment.visitedAt} desc nulls last`, asc(course.code));
  return rows.map((row) => ({ ...row.course, role: row.role, visitedAt: row.visitedAt }));
}

/** Remembers that a course was opened, so that it stands first where one chooses among many. */
async function noteVisit(viewer: Viewer, courseId: string): Promise<void> {
  await database()
    .update(enrolment)
    .set({ visitedAt: new Date(now()) })
    .where(and(eq(enrolment.personId, viewer.id), eq(enrolment.courseId, courseId)));
}

export interface CoursePage {
  readonly course: CourseOfPerson;
  /** What can still be worked on or is coming, then what is handed in or over. */
  readonly toDo: readonly QuizOfPerson[];
  readonly done: readonly QuizOfPerson[];
}

const byDue = (a: QuizOfPerson, b: QuizOfPerson) =>
  (a.window.due ?? Number.POSITIVE_INFINITY) - (b.window.due ?? Number.POSITIVE_INFINITY) ||
  a.quiz.title.localeCompare(b.quiz.title);

/** All quizzes of a course, with how each stands for this person. */
export async function coursePage(viewer: Viewer, slug: string): Promise<CoursePage> {
  const found = await courseOf(viewer, slug);
  const [quizzes] = await Promise.all([quizzesOf(viewer, found.id), noteVisit(viewer, found.id)]);
  // What is not set for one is in no list.
  const items = quizzes.filter(({ status: standing }) => standing.state !== "not-assigned").sort(byDue);
  const isToDo = (item: QuizOfPerson) =>
    ["running", "ready", "locked", "not-open-yet"].includes(item.status.state);
  return {
    course: found,
    toDo: items.filter(isToDo),
    done: items.filter((item) => !isToDo(item)),
  };
}
