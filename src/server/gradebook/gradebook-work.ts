import type { Category } from "@/core/gradebook/standing";
import { exact } from "@/core/numbers/exact";
import type { gradebookCategory } from "@/data/schema";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { type QuizOfPerson, quizzesOf } from "../reveal/quizzes-of-person";
import { type Entry, entriesOf, type GradebookRow } from "./entries";
import { itemsOf, type OwnItem } from "./own-items";

/** All work that counts in a course, for one student. */
export interface GradebookWork {
  readonly course: CourseOfPerson;
  readonly quizzes: readonly QuizOfPerson[];
  readonly categories: readonly {
    readonly row: typeof gradebookCategory.$inferSelect;
    readonly category: Category;
    readonly entries: readonly Entry[];
  }[];
}

/** The marks that a person's quizzes have in their gradebooks, by the quiz; for lists, which tell the same. One query. */
export async function marksOfQuizzes(
  viewer: Pick<Viewer, "id">,
  quizzes: readonly QuizOfPerson[],
): Promise<Map<string, GradebookRow>> {
  const courses = new Map(quizzes.map(({ course }) => [course.id, course.missingCountsZero]));
  const entries = entriesOf(await itemsOf(viewer), quizzes, (id) => courses.get(id) ?? false);
  return new Map(
    [...entries.values()].flatMap(({ row }) => (row.quizId === null ? [] : [[row.quizId, row] as const])),
  );
}

/** All work that counts in a course, as it stands for one student: one query beside those of the quizzes and the course. */
export async function gradebookWork(viewer: Viewer, slug: string): Promise<GradebookWork> {
  const course = await courseOf(viewer, slug);
  const [quizzes, items] = await Promise.all([quizzesOf(viewer, course.id), itemsOf(viewer, course.id)]);
  return workIn(course, quizzes, items);
}

/** The same of several courses: two queries, however many there are. */
export async function gradebookWorks(
  viewer: Viewer,
  courses: readonly CourseOfPerson[],
): Promise<GradebookWork[]> {
  const [quizzes, items] = await Promise.all([quizzesOf(viewer), itemsOf(viewer)]);
  return courses.map((course) =>
    workIn(
      course,
      quizzes.filter((each) => each.course.id === course.id),
      items.filter(({ category }) => category.courseId === course.id),
    ),
  );
}

function workIn(
  course: CourseOfPerson,
  quizzes: readonly QuizOfPerson[],
  items: readonly OwnItem[],
): GradebookWork {
  const entries = entriesOf(items, quizzes, () => course.missingCountsZero);
  const categories = [...new Map(items.map(({ category }) => [category.id, category])).values()];
  return {
    course,
    quizzes,
    categories: categories.map((row) => {
      const own = items.flatMap(({ item }) => {
        const entry = item?.categoryId === row.id ? entries.get(item.id) : undefined;
        return entry ? [entry] : [];
      });
      return {
        row,
        entries: own,
        category: {
          id: row.id,
          weight: exact(row.weight),
          mean: row.mean,
          dropLowest: row.dropLowest,
          items: own.map(({ item }) => item),
        },
      };
    }),
  };
}
