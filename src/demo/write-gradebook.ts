import type { Scale } from "@/core/gradebook/scales";
import { stored } from "@/core/numbers/exact";
import { quizMaximum } from "@/core/quiz/quiz-file";
import { DAY, type Instant } from "@/core/time/instants";
import type { Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import type { CourseKey } from "./college";
import { type DemoQuiz, type Ids, idOf } from "./demo-quiz";
import { INSTRUCTORS, NOOR } from "./people";

/** A piece of work that counts: a quiz by its key, or something that is marked elsewhere. */
type Work = ({ readonly quiz: string } | { readonly title: string; readonly maximum: number }) & {
  /** What was set by hand for Noor, why, and how many days ago. */
  readonly noor?: readonly [marks: string, reason: string, daysAgo: number];
  readonly fullForTakingPart?: boolean;
  /** Its own scale. */
  readonly scale?: Scale;
  /** The title of the work, written before, that this one may stand in for. */
  readonly standsInFor?: string;
};

/** How Pollinator Ecology tells of some of its work. */
const REACHED: Scale = { kind: "reached", from: 50 };

const GRADEBOOKS: Readonly<
  Record<
    CourseKey,
    readonly {
      readonly title: string;
      readonly weight: string;
      readonly dropLowest?: number;
      readonly work: readonly Work[];
    }[]
  >
> = {
  nav: [
    {
      title: "Quizzes",
      weight: "40",
      dropLowest: 1,
      work: [
        { title: "Chart symbols", maximum: 20, noor: ["9", "marked on paper in week 2", 20] },
        { quiz: "compass" },
        { quiz: "half-term" },
        { quiz: "tides" },
        { quiz: "part-one", standsInFor: "Chart symbols" },
        { quiz: "part-two" },
      ],
    },
    { title: "Written work", weight: "60", work: [{ title: "Passage plan", maximum: 50 }] },
  ],
  brd: [
    {
      title: "Quizzes",
      weight: "50",
      work: [
        {
          quiz: "flour",
          noor: [
            "17",
            "the question on proteases could be read in two ways; one mark more for that answer",
            0,
          ],
        },
        { quiz: "formulas" },
        { quiz: "oven" },
        { quiz: "shaping" },
        { quiz: "hydration" },
        { quiz: "arithmetic" },
      ],
    },
    {
      title: "At the bench",
      weight: "50",
      work: [
        {
          title: "Tuesday’s bake",
          maximum: 50,
          noor: ["41", "marked at the bench: good crumb, pale crust", 2],
        },
      ],
    },
  ],
  pol: [
    {
      title: "Quizzes",
      weight: "70",
      work: [
        { quiz: "review", scale: REACHED },
        { quiz: "sampling" },
        { quiz: "shapes" },
        { quiz: "report" },
        { quiz: "letters", scale: REACHED },
        { quiz: "species" },
        { quiz: "ranges" },
        { quiz: "essays" },
        { quiz: "notebook", fullForTakingPart: true },
        { quiz: "names" },
      ],
    },
    { title: "Field notebook", weight: "30", work: [{ title: "Field notebook", maximum: 30 }] },
  ],
};

/** Writes what counts in each course, and what was set by hand for Noor. */
export async function writeGradebook(
  db: Queryable,
  courses: ReadonlyMap<CourseKey, string>,
  quizzes: readonly DemoQuiz[],
  people: Ids,
  at: Instant,
) {
  for (const [course, courseId] of courses) {
    const items = new Map<string, string>();
    for (const [position, { title, weight, dropLowest = 0, work }] of GRADEBOOKS[course].entries()) {
      const categoryId = newId();
      await db
        .insert(schema.gradebookCategory)
        .values({ id: categoryId, courseId, title, weight, dropLowest, position });
      for (const [place, each] of work.entries()) {
        const itemId = newId();
        const item = itemOf(each, quizzes);
        items.set(item.title, itemId);
        await db.insert(schema.gradebookItem).values({
          id: itemId,
          categoryId,
          ...item,
          position: place,
          fullForTakingPart: each.fullForTakingPart ?? false,
          scale: each.scale ?? null,
          standsInForId: items.get(each.standsInFor ?? "") ?? null,
        });
        if (!each.noor) continue;
        const [marks, reason, daysAgo] = each.noor;
        await db.insert(schema.adjustment).values({
          id: newId(),
          itemId,
          personId: idOf(people, NOOR),
          marks,
          reason,
          setBy: idOf(people, INSTRUCTORS[course]),
          createdAt: new Date(at - daysAgo * DAY),
        });
      }
    }
  }
}

function itemOf(work: Work, quizzes: readonly DemoQuiz[]) {
  if ("title" in work) return { quizId: null, title: work.title, maximum: String(work.maximum) };
  const quiz = quizzes.find(({ key }) => key === work.quiz);
  if (!quiz) throw new Error(`The demo has no quiz ${work.quiz}.`);
  return { quizId: quiz.id, title: quiz.content.title, maximum: stored(quizMaximum(quiz.content)) };
}
