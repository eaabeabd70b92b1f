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
      title: "The handbook",
      entries: [
        {
          reading:
            "<p>1 The chart and its symbols. 2 A position and how sure it is. 3 Three norths. 4 Tides: Why the range changes; Heights between high and low water; Secondary ports. 5 Marks by day and by night. 6 Streams and leeway: A course through a stream. 7 The steering rules. 8 The passage plan.</p>",
        },
      ],
    },
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
        {
          notice:
            "<p>The half-term paper is written in the chartroom, all together. Bring plotter, dividers and tide tables.</p>",
        },
        { quiz: "half-term" },
        { quiz: "term-review" },
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
      entries: [
        {
          reading:
            "<p>Course notes 1 to 12: 1 Grain and mill. 4 Enzymes at work. 7 The falling number. 9 Protein. 11 Bran.</p>",
        },
        { quiz: "flour" },
        { quiz: "dough-practice" },
      ],
    },
    {
      title: "Water and strength",
      entries: [
        {
          reading:
            "<p>Course notes 13 to 31: 13 Water. 18 Gluten. 22 Preferments in a formula. 26 Scalds. 29 Warmth and time. Watch the folding once more before the quiz.</p>",
        },
        { quiz: "formulas" },
        { quiz: "hydration" },
        { quiz: "arithmetic" },
      ],
    },
    {
      title: "The oven",
      entries: [
        {
          reading: "<p>Course notes 32 to 36: 32 Steam. 33 What makes a crust brown. 35 When is it done?</p>",
        },
        { quiz: "shaping" },
        { quiz: "oven" },
      ],
    },
  ],
  pol: [
    {
      title: "At the field camp",
      starts: -13,
      entries: [
        {
          reading:
            "<p>Reader, chapters 1 to 3: 1 What is a bee? 2 Who nests where. 3 How to count what does not sit still.</p>",
        },
        { quiz: "review" },
        { quiz: "warm-up" },
      ],
    },
    {
      title: "Flowers and visitors",
      starts: -6,
      entries: [
        { reading: "<p>Reader, chapters 4 and 5: 4 Rich or even. 5 Flowers as the visitor sees them.</p>" },
        { quiz: "sampling" },
        { quiz: "shapes" },
        { quiz: "report" },
        { quiz: "one-page" },
      ],
    },
    {
      title: "Out foraging",
      starts: 1,
      entries: [
        { reading: "<p>Reader, chapter 6, “How far they fly”. Advised before the sitting.</p>" },
        { reading: "<p>Reader, chapter 7, “A year of flowers”, for the essays.</p>" },
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
