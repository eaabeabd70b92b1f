import { onScale } from "@/core/gradebook/scales";
import { courseStanding } from "@/core/gradebook/standing";
import { exact, shown, sum } from "@/core/numbers/exact";
import type { Instant } from "@/core/time/instants";
import { say } from "@/words/t";
import type { CourseOfPerson } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { gradebookWorks } from "../gradebook/gradebook-work";
import type { QuizOfPerson } from "../reveal/quizzes-of-person";
import { coursesOf } from "./courses";

/** A course as the list of courses tells of it. */
export interface CourseOverview {
  readonly course: CourseOfPerson;
  /** What can be worked on now and counts, nearest end first. */
  readonly open: readonly { readonly id: string; readonly title: string; readonly due: Instant | null }[];
  /** The next one that opens. */
  readonly next: { readonly title: string; readonly opens: Instant } | null;
  /** How many marks of handed-in work wait for a person, of what may be shown; "0": none. */
  readonly waiting: string;
  /** "83.5 %", with the course's own word where it has one; null: nothing is marked yet. */
  readonly standing: string | null;
}

function overviewOf(
  course: CourseOfPerson,
  work: Awaited<ReturnType<typeof gradebookWorks>>[number],
): CourseOverview {
  const { quizzes } = work;
  const categories = work.categories.map(({ category }) => category);
  const { markedSoFar } = courseStanding(categories, { missingCountsZero: course.missingCountsZero });
  const end = ({ window }: QuizOfPerson) => window.due ?? window.closes;
  const open = quizzes
    .filter(
      ({ status: standing, quiz }) =>
        (standing.mayStart || standing.state === "running") && !quiz.settings.practice,
    )
    .sort((a, b) => (end(a) ?? Number.POSITIVE_INFINITY) - (end(b) ?? Number.POSITIVE_INFINITY));
  const coming = quizzes
    .flatMap(({ status: standing, quiz, window }) =>
      standing.state === "not-open-yet" && window.opens !== null
        ? [{ title: quiz.title, opens: window.opens }]
        : [],
    )
    .sort((a, b) => a.opens - b.opens);
  const marks = categories.flatMap(({ items }) =>
    items.flatMap(({ mark }) => (mark ? [exact(mark.awaited)] : [])),
  );
  const word = markedSoFar && course.scale ? say(onScale(markedSoFar, course.scale)) : null;
  const percent = markedSoFar ? `${shown(markedSoFar.mul(100))} %` : null;
  return {
    course,
    open: open.map((item) => ({ id: item.quiz.id, title: item.quiz.title, due: end(item) })),
    next: coming[0] ?? null,
    waiting: shown(sum(marks)),
    standing: percent && word && word !== percent ? `${percent} · ${word}` : percent,
  };
}

/** The courses of a person, each with what is open, what waits and how it stands: three queries. */
export async function courseOverviews(viewer: Viewer): Promise<CourseOverview[]> {
  const courses = await coursesOf(viewer);
  const works = await gradebookWorks(viewer, courses);
  return courses.flatMap((course, i) => {
    const work = works[i];
    return work ? [overviewOf(course, work)] : [];
  });
}
