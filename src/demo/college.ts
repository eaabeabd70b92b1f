import type { Scale } from "@/core/gradebook/scales";
import { startOfDay } from "@/core/time/days";
import { DAY, HOUR, type Instant } from "@/core/time/instants";
import arithmetic from "./quizzes/bakers-arithmetic.json";
import onePage from "./quizzes/bees-on-one-page.json";
import buoyage from "./quizzes/buoyage-and-lights.json";
import partOne from "./quizzes/chartroom-part-one.json";
import partTwo from "./quizzes/chartroom-part-two.json";
import compass from "./quizzes/compass-and-variation.json";
import doughPractice from "./quizzes/dough-practice.json";
import review from "./quizzes/field-camp-review.json";
import warmUp from "./quizzes/field-day-warm-up.json";
import notebook from "./quizzes/field-notebook-pages.json";
import flour from "./quizzes/flour-and-enzymes.json";
import shapes from "./quizzes/flower-shapes.json";
import ranges from "./quizzes/foraging-ranges.json";
import hydration from "./quizzes/hydration-and-dough-strength.json";
import letters from "./quizzes/letters-to-a-beekeeper.json";
import glance from "./quizzes/lights-at-a-glance.json";
import essays from "./quizzes/meadow-essays.json";
import names from "./quizzes/names-of-bees.json";
import oven from "./quizzes/oven-and-steam.json";
import sampling from "./quizzes/sampling-pollinators.json";
import shaping from "./quizzes/shaping-and-scoring.json";
import species from "./quizzes/species-list.json";
import steering from "./quizzes/steering-rules.json";
import termReview from "./quizzes/term-review.json";
import tides from "./quizzes/tides-and-clearances.json";

export type CourseKey = "nav" | "brd" | "pol";

/** How Bread Science names what was reached. */
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
    }
  >
> = {
  nav: { slug: "nav-110", code: "NAV 110", title: "Coastal Navigation", letter: "n", classShown: true },
  brd: {
    slug: "brd-120",
    code: "BRD 120",
    title: "Bread Science",
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
const shownOn = (file: typeof names, at: Instant) => {
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
    { key: "tides", course: "nav", file: tides, window: { opens: hoursAgo(26), ...untilEnd(1) } },
    { key: "buoyage", course: "nav", file: buoyage, window: { opens: day(-20, 9), ...endless } },
    { key: "glance", course: "nav", file: glance, window: { opens: day(-20, 9), ...endless } },
    { key: "steering", course: "nav", file: steering, window: { opens: day(-20, 9), ...endless } },
    { key: "term-review", course: "nav", file: termReview, window: { opens: day(-5, 9), ...endless } },
    { key: "part-one", course: "nav", file: partOne, window: sitting },
    { key: "part-two", course: "nav", file: partTwo, window: sitting, first: "part-one" },
    { key: "compass", course: "nav", file: compass, window: { opens: day(-14, 9), ...untilEnd(-7) } },
    {
      key: "second-sitting",
      course: "nav",
      file: { ...compass, title: "Compass and variation, second sitting" },
      window: { opens: hoursAgo(3), ...untilEnd(3) },
      only: ["Quentin Mbeki", "Samir Eastlake"],
    },
    {
      key: "hydration",
      course: "brd",
      file: hydration,
      window: { opens: hoursAgo(18), due: day(2, 17), closes: day(3, 17) },
      extraForNoor: { extraMinutes: 10, reason: "agreed with the support office for this term" },
    },
    {
      key: "shaping",
      course: "brd",
      file: shaping,
      window: { opens: day(-5, 9), due: hoursAgo(20), closes: day(2, 20) },
    },
    { key: "dough-practice", course: "brd", file: doughPractice, window: { opens: day(-10, 9), ...endless } },
    {
      key: "arithmetic",
      course: "brd",
      file: arithmetic,
      window: { opens: hoursAgo(30), ...untilEnd(4) },
    },
    { key: "oven", course: "brd", file: oven, window: { opens: day(-4, 9), ...untilEnd(-1) } },
    { key: "flour", course: "brd", file: flour, window: { opens: day(-8, 9), ...untilEnd(-2) } },
    {
      key: "ranges",
      course: "pol",
      file: ranges,
      window: { opens: day(2, 9), due: day(2, 10, 15), closes: day(2, 10, 15) },
    },
    {
      key: "essays",
      course: "pol",
      file: { ...essays, rules: { ...essays.rules, alike: true } },
      window: { opens: hoursAgo(50), due: day(3, 18), closes: day(5, 18) },
    },
    {
      key: "names",
      course: "pol",
      // Right answers on a day that is set, when everyone has written.
      file: shownOn(names, day(8, 9)),
      window: { opens: hoursAgo(20), ...untilEnd(6) },
    },
    { key: "letters", course: "pol", file: letters, window: { opens: day(-3, 9), ...untilEnd(4) } },
    { key: "species", course: "pol", file: species, window: { opens: day(-2, 8), ...untilEnd(6) } },
    {
      key: "review",
      course: "pol",
      file: review,
      window: { opens: day(-12, 9), due: day(-8, 18), closes: day(-6, 18) },
    },
    { key: "notebook", course: "pol", file: notebook, window: { opens: hoursAgo(50), ...untilEnd(5) } },
    { key: "one-page", course: "pol", file: onePage, window: { opens: day(-4, 9), ...endless } },
    { key: "warm-up", course: "pol", file: warmUp, window: { opens: day(-4, 9), ...endless } },
    { key: "sampling", course: "pol", file: sampling, window: { opens: day(-6, 9), ...untilEnd(-1) } },
    {
      key: "shapes",
      course: "pol",
      file: shapes,
      window: { opens: day(-8, 9), due: hoursAgo(5), closes: hoursAgo(5) + 2 * DAY },
    },
  ];
}
