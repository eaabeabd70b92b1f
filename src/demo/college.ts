import type { Scale } from "@/core/gradebook/scales";
import type { UnitMeanings } from "@/core/numbers/unit-names";
import type { QuizFile } from "@/core/quiz/quiz-file";
import { startOfDay } from "@/core/time/days";
import { DAY, HOUR, type Instant } from "@/core/time/instants";
import { quizFile } from "./quiz-files";

export type CourseKey = "nav" | "brd" | "pol";

/** How Dough and Oven names what was reached. */
const GRADES: Scale = {
  kind: "letters",
  thresholds: [
    { name: "with distinction", from: 85 },
    { name: "with merit", from: 70 },
    { name: "passed", from: 50 },
    { name: "not yet passed", from: 0 },
  ],
};

export const COURSES: Readonly<
  Record<
    CourseKey,
    {
      readonly slug: string;
      readonly code: string;
      readonly title: string;
      readonly letter: string;
      readonly classShown?: boolean;
      readonly scale?: Scale;
      readonly unitMeanings?: UnitMeanings;
    }
  >
> = {
  nav: {
    slug: "nav-110",
    code: "NAV 110",
    title: "Coastal Navigation",
    letter: "n",
    classShown: true,
    // At sea a mile is a nautical mile, and nm is no nanometre.
    unitMeanings: {
      nm: "nauticalmile",
      mile: "nauticalmile",
      miles: "nauticalmile",
      mi: "nauticalmile",
      sm: "nauticalmile",
    },
  },
  brd: {
    slug: "brd-120",
    code: "BRD 120",
    title: "Dough and Oven",
    letter: "b",
    classShown: true,
    scale: GRADES,
  },
  pol: { slug: "pol-101", code: "POL 101", title: "Pollinator Ecology", letter: "p" },
};

/** A quiz set in a course, with its window around the moment at which the demo is written. */
export interface SetQuiz {
  readonly key: string;
  readonly course: CourseKey;
  readonly file: unknown;
  /** The only students who may take it; absent: all of the course. */
  readonly only?: readonly string[];
  /** More time for Noor, and why. */
  readonly extraForNoor?: { readonly extraMinutes: number; readonly reason: string };
  /** The key of a quiz that has to be handed in first; it stands before this one. */
  readonly first?: string;
  readonly window: {
    readonly opens: Instant | null;
    readonly due: Instant | null;
    readonly closes: Instant | null;
  };
}

/** A quiz whose right and worked answers are shown on a day that is set. */
const shownOn = (file: QuizFile, at: Instant) => {
  const on = { on: new Date(at).toISOString() };
  return { ...file, rules: { ...file.rules, reveal: { ...file.rules.reveal, right: on, worked: on } } };
};

/** The quizzes of the demo: one open, one late, one about to open, some returned, whenever it is written. */
export function setQuizzes(now: Instant, zone: string): SetQuiz[] {
  const day = (days: number, hours: number, minutes = 0) =>
    startOfDay(now, zone, days) + hours * HOUR + minutes * 60_000;
  const hoursAgo = (hours: number) => Math.floor((now - hours * HOUR) / HOUR) * HOUR;
  const endless = { due: null, closes: null };
  const untilEnd = (days: number) => ({ due: day(days, 23, 59), closes: day(days, 23, 59) });
  // A sitting for the whole class, in the hours around now.
  const sitting = { opens: hoursAgo(1), due: hoursAgo(-5), closes: hoursAgo(-5) };
  return [
    {
      key: "tides",
      course: "nav",
      file: quizFile("tides-and-clearances"),
      window: { opens: hoursAgo(26), ...untilEnd(1) },
    },
    {
      key: "buoyage",
      course: "nav",
      file: quizFile("buoyage-and-lights"),
      window: { opens: day(-20, 9), ...endless },
    },
    {
      key: "glance",
      course: "nav",
      file: quizFile("lights-at-a-glance"),
      window: { opens: day(-20, 9), ...endless },
    },
    {
      key: "steering",
      course: "nav",
      file: quizFile("steering-rules"),
      window: { opens: day(-20, 9), ...endless },
    },
    {
      key: "term-review",
      course: "nav",
      file: quizFile("term-review"),
      window: { opens: day(-5, 9), ...endless },
    },
    {
      key: "half-term",
      course: "nav",
      file: quizFile("half-term-paper"),
      window: { opens: day(-5, 10), due: day(-5, 12), closes: day(-5, 12) },
    },
    { key: "part-one", course: "nav", file: quizFile("chartroom-part-one"), window: sitting },
    {
      key: "part-two",
      course: "nav",
      file: quizFile("chartroom-part-two"),
      window: sitting,
      first: "part-one",
    },
    {
      key: "compass",
      course: "nav",
      file: quizFile("compass-and-variation"),
      window: { opens: day(-14, 9), ...untilEnd(-7) },
    },
    {
      key: "second-sitting",
      course: "nav",
      file: { ...quizFile("compass-and-variation"), title: "Compass and variation, second sitting" },
      window: { opens: hoursAgo(3), ...untilEnd(3) },
      only: ["Quentin Mbele", "Samir Eastlake"],
    },
    {
      key: "hydration",
      course: "brd",
      file: quizFile("hydration-and-dough-strength"),
      window: { opens: hoursAgo(18), due: day(2, 17), closes: day(3, 17) },
      extraForNoor: { extraMinutes: 10, reason: "agreed with the support office for this term" },
    },
    {
      key: "shaping",
      course: "brd",
      file: quizFile("shaping-and-scoring"),
      window: { opens: day(-5, 9), due: hoursAgo(20), closes: day(2, 20) },
    },
    {
      key: "dough-practice",
      course: "brd",
      file: quizFile("dough-practice"),
      window: { opens: day(-10, 9), ...endless },
    },
    {
      key: "arithmetic",
      course: "brd",
      file: quizFile("bakers-arithmetic"),
      window: { opens: hoursAgo(30), ...untilEnd(4) },
    },
    {
      key: "formulas",
      course: "brd",
      file: quizFile("formulas-for-the-bakery"),
      window: { opens: day(-9, 9), ...untilEnd(4) },
    },
    {
      key: "oven",
      course: "brd",
      file: quizFile("oven-and-steam"),
      window: { opens: day(-4, 9), ...untilEnd(-1) },
    },
    {
      key: "flour",
      course: "brd",
      file: quizFile("flour-and-enzymes"),
      window: { opens: day(-8, 9), ...untilEnd(-2) },
    },
    {
      key: "ranges",
      course: "pol",
      file: quizFile("foraging-ranges"),
      window: { opens: day(2, 9), due: day(2, 10, 15), closes: day(2, 10, 15) },
    },
    {
      key: "essays",
      course: "pol",
      file: quizFile("meadow-essays"),
      window: { opens: hoursAgo(50), due: day(3, 18), closes: day(5, 18) },
    },
    {
      key: "names",
      course: "pol",
      // Right answers on a day that is set, when everyone has written.
      file: shownOn(quizFile("names-of-bees"), day(8, 9)),
      window: { opens: hoursAgo(20), ...untilEnd(6) },
    },
    {
      key: "letters",
      course: "pol",
      file: quizFile("letters-to-a-beekeeper"),
      window: { opens: day(-3, 9), ...untilEnd(4) },
    },
    {
      key: "species",
      course: "pol",
      file: quizFile("species-list"),
      window: { opens: day(-2, 8), ...untilEnd(6) },
    },
    {
      key: "review",
      course: "pol",
      file: quizFile("field-camp-review"),
      window: { opens: day(-12, 9), due: day(-8, 18), closes: day(-6, 18) },
    },
    {
      key: "notebook",
      course: "pol",
      file: quizFile("field-notebook-pages"),
      window: { opens: hoursAgo(50), ...untilEnd(5) },
    },
    {
      key: "report",
      course: "pol",
      file: quizFile("meadow-report"),
      window: { opens: day(-7, 9), due: day(-2, 18), closes: day(-1, 18) },
    },
    {
      key: "one-page",
      course: "pol",
      file: quizFile("bees-on-one-page"),
      window: { opens: day(-4, 9), ...endless },
    },
    {
      key: "warm-up",
      course: "pol",
      file: quizFile("field-day-warm-up"),
      window: { opens: day(-4, 9), ...endless },
    },
    {
      key: "sampling",
      course: "pol",
      file: quizFile("sampling-pollinators"),
      window: { opens: day(-6, 9), ...untilEnd(-1) },
    },
    {
      key: "shapes",
      course: "pol",
      file: quizFile("flower-shapes"),
      window: { opens: day(-8, 9), due: hoursAgo(5), closes: hoursAgo(5) + 2 * DAY },
    },
  ];
}
