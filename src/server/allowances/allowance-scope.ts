import { eq } from "drizzle-orm";
import { database } from "@/data/database";
import { quiz } from "@/data/schema";
import { courseOf } from "../access/open-course";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";

/** For what an allowance is given: one quiz, or everything in a course. */
export type AllowanceFor = { readonly quiz: string } | { readonly course: string };

/** The same, found, for who may give it. */
export interface AllowanceScope {
  readonly courseId: string;
  readonly courseTitle: string;
  readonly slug: string;
  /** The one quiz; null: the whole course. */
  readonly quiz: typeof quiz.$inferSelect | null;
  /** All quizzes that it can make a difference to. */
  readonly quizIds: readonly string[];
}

/** Opens what allowances are given for. @throws Problem "not found" to who may not give any */
export async function openScope(viewer: Viewer, what: AllowanceFor): Promise<AllowanceScope> {
  if ("quiz" in what) {
    const opened = await openQuiz(viewer, what.quiz);
    mustMay(opened, "allow");
    return {
      courseId: opened.course.id,
      courseTitle: opened.course.title,
      slug: opened.course.slug,
      quiz: opened.quiz,
      quizIds: [opened.quiz.id],
    };
  }
  const course = await courseOf(viewer, what.course);
  mustMay({ role: course.role, given: false }, "allow");
  const quizzes = await database().select({ id: quiz.id }).from(quiz).where(eq(quiz.courseId, course.id));
  return {
    courseId: course.id,
    courseTitle: course.title,
    slug: course.slug,
    quiz: null,
    quizIds: quizzes.map(({ id }) => id),
  };
}
