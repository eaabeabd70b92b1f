import { startOfDay } from "@/core/time/days";
import { DAY, type Instant } from "@/core/time/instants";
import type { Queryable } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { config } from "@/server/base/config";
import type { CourseKey } from "./college";
import type { DemoQuiz } from "./demo-quiz";

/** What stands in a section: a quiz by its key, or words. */
type Entry = { readonly quiz: string } | { readonly reading: string } | { readonly notice: string };

interface Section {
  readonly title: string;
  /** The days from today to its first one; absent: a topic. */
  readonly starts?: number;
  readonly entries: readonly Entry[];
}

const PLANS: Readonly<Record<CourseKey, readonly Section[]>> = {
  nav: [
    {
      title: "Week 7: the compass",
      starts: -15,
      entries: [
        {
          reading:
            "<p>Handbook, chapter 3, “Three norths”. Do the exercises on deviation before the quiz.</p>",
        },
        { quiz: "compass" },
        { quiz: "second-sitting" },
      ],
    },
    {
      title: "Week 8: lights and rules",
      starts: -8,
      entries: [
        { reading: "<p>Handbook, chapter 5, and the list of lights of the bay.</p>" },
        { quiz: "buoyage" },
        { quiz: "glance" },
        { quiz: "steering" },
      ],
    },
    {
      title: "Week 9: tides",
      starts: -1,
      entries: [
        { notice: "<p>Thursday’s class is on the quay. Wear something warm.</p>" },
        {
          reading:
            "<p>Handbook, chapter 4, “Heights between high and low water”. The rule of twelfths is on the reference sheet.</p>",
        },
        { quiz: "tides" },
        { quiz: "part-one" },
        { quiz: "part-two" },
      ],
    },
    {
      title: "Week 10: the passage plan",
      starts: 6,
      entries: [{ reading: "<p>Handbook, chapter 8. Bring a chart of your own choice.</p>" }],
    },
  ],
  brd: [
    {
      title: "Flour",
      entries: [{ reading: "<p>Course notes 1 to 12.</p>" }, { quiz: "flour" }],
    },
    {
      title: "Water and strength",
      entries: [
        { reading: "<p>Course notes 13 to 31. Watch the folding once more before the quiz.</p>" },
        { quiz: "hydration" },
        { quiz: "arithmetic" },
      ],
    },
    { title: "The oven", entries: [{ quiz: "oven" }] },
  ],
  pol: [
    {
      title: "At the field camp",
      starts: -13,
      entries: [{ reading: "<p>Reader, chapters 1 to 3.</p>" }, { quiz: "review" }, { quiz: "warm-up" }],
    },
    {
      title: "Flowers and visitors",
      starts: -6,
      entries: [{ quiz: "sampling" }, { quiz: "shapes" }, { quiz: "one-page" }],
    },
    {
      title: "Out foraging",
      starts: 1,
      entries: [
        { reading: "<p>Reader, chapter 6, “How far they fly”. Advised before the sitting.</p>" },
        { quiz: "ranges" },
        { quiz: "letters" },
        { quiz: "species" },
        { quiz: "essays" },
        { quiz: "notebook" },
      ],
    },
  ],
};

const readEntry = (entry: Entry) =>
  "quiz" in entry
    ? { kind: "quiz" as const, text: "" }
    : "reading" in entry
      ? { kind: "reading" as const, text: entry.reading }
      : { kind: "note" as const, text: entry.notice };

/** Writes the plan of each course, its weeks around the present one. */
export async function writePlans(
  db: Queryable,
  courses: ReadonlyMap<CourseKey, string>,
  quizzes: readonly DemoQuiz[],
  at: Instant,
): Promise<void> {
  for (const [course, courseId] of courses) {
    for (const [position, { title, starts, entries }] of PLANS[course].entries()) {
      const sectionId = newId();
      const first = starts === undefined ? null : new Date(startOfDay(at + starts * DAY, config.zone));
      await db.insert(schema.planSection).values({ id: sectionId, courseId, title, starts: first, position });
      await db.insert(schema.planEntry).values(
        entries.map((entry, place) => ({
          sectionId,
          ...readEntry(entry),
          quizId: "quiz" in entry ? (quizzes.find(({ key }) => key === entry.quiz)?.id ?? null) : null,
          position: place,
        })),
      );
    }
  }
}
