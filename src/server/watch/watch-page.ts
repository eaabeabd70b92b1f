import { and, asc, eq, notExists, sql } from "drizzle-orm";
import { may } from "@/core/access/may";
import type { Sitting } from "@/core/watch/watch-line";
import { database } from "@/data/database";
import { assignment, attempt, enrolment, person } from "@/data/schema";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { instantOf, now } from "../base/clock";
import { sittingsOf } from "./sittings";
import { tracesOf } from "./traces";

/** The watch of a quiz as its page begins. */
export interface WatchView {
  readonly quizId: string;
  readonly title: string;
  readonly course: { readonly slug: string; readonly title: string };
  readonly opens: number | null;
  readonly closes: number | null;
  readonly sittings: readonly Sitting[];
  /** Who is to take it and has not begun. */
  readonly expected: readonly { readonly personId: string; readonly name: string }[];
  /** Whether the one who looks may give time, end, and let in again. */
  readonly mayAllow: boolean;
  readonly serverNow: number;
}

/** The watch of a quiz, for its staff. @throws Problem "not found" */
export async function watchOf(viewer: Viewer, quizId: string): Promise<WatchView> {
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, "watch");
  const { quiz, course } = opened;
  const sittings = await sittingsOf(quiz);
  const traces = await tracesOf(quiz.id, sittings);
  const began = database()
    .select({ one: sql`1` })
    .from(attempt)
    .where(and(eq(attempt.quizId, quiz.id), eq(attempt.personId, enrolment.personId)));
  const expected = await database()
    .select({ personId: person.id, name: person.name })
    .from(enrolment)
    .innerJoin(person, eq(person.id, enrolment.personId))
    .where(
      and(
        eq(enrolment.courseId, course.id),
        eq(enrolment.role, "student"),
        notExists(began),
        quiz.onlyAssigned
          ? sql`exists (select 1 from ${assignment} where ${assignment.quizId} = ${quiz.id} and ${assignment.personId} = ${enrolment.personId})`
          : undefined,
      ),
    )
    .orderBy(asc(person.name));
  return {
    quizId: quiz.id,
    title: quiz.title,
    course: { slug: course.slug, title: course.title },
    opens: instantOf(quiz.opens),
    closes: instantOf(quiz.closes),
    sittings: sittings.map((each) => ({ ...each, trace: traces.get(each.attemptId) ?? [] })),
    expected,
    mayAllow: may(opened, "allow"),
    serverNow: now(),
  };
}
