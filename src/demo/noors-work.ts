import { DAY, HOUR, type Instant, MINUTE } from "@/core/time/instants";
import type { Slips } from "./answers";
import { NOOR } from "./people";

export interface HandMarked {
  readonly question: string;
  /** Marks, or the levels reached in the rubric. */
  readonly marks?: number;
  readonly levels?: Readonly<Record<string, string>>;
  /** What is said of a criterion, by its id. */
  readonly remarks?: Readonly<Record<string, string>>;
  readonly reason: string;
  readonly at: Instant;
  /** Not a person's judgement: the rule was put right, and marked again. */
  readonly ruleChanged?: boolean;
}

export interface SampleAttempt {
  readonly quiz: string;
  readonly student: string;
  readonly number?: number;
  /** Null: so long after the due time that it is late. */
  readonly started: Instant | null;
  readonly took: number;
  /** Still running: nothing was handed in yet. */
  readonly running?: boolean;
  readonly slips: Slips;
  /** What a person marked, by question id, in order of the marking. */
  readonly byHand?: readonly HandMarked[];
  readonly notes?: readonly { readonly question: string; readonly about?: string; readonly text: string }[];
  readonly returned?: Instant;
  readonly feedback?: string;
}

export function noorsAttempts(at: Instant): SampleAttempt[] {
  return [
    {
      quiz: "compass",
      student: NOOR,
      started: at - 9 * DAY,
      took: 21 * MINUTE + 40_000,
      slips: { wrong: ["deviation", "near"], written: { course: { a: "=c - d", b: "=c - d - v" } } },
      returned: at - 6 * DAY,
      feedback: "Watch the signs: from compass to true, east deviation is added.",
    },
    {
      quiz: "compass",
      student: NOOR,
      number: 2,
      started: at - 8 * DAY,
      took: 18 * MINUTE + 4_000,
      slips: { written: { std: { a: "=round(a)", b: "≈round(a) / 3" } } },
      returned: at - 6 * DAY,
      feedback: "Much better. One figure was missing in the last question; see there what it cost.",
    },
    {
      quiz: "flour",
      student: NOOR,
      started: at - 3 * DAY,
      took: 22 * MINUTE + 12_000,
      slips: { wrong: ["proteases"] },
      returned: at - 5 * HOUR,
      feedback:
        "Clear on amylase, and well done on the proofing time. Read again what proteases take apart, and what amylases do.",
    },
    {
      quiz: "sampling",
      student: NOOR,
      started: at - 30 * HOUR,
      took: 24 * MINUTE + 31_000,
      slips: {
        wrong: ["pan"],
        empty: ["when"],
        given: {
          flawed: {
            rich: "<p>Hour, weather and the number of people all differ between the two places, so one cannot tell which of them made the difference. Two people saw 30 bees, that is 15 each; five saw 40, that is 8 each. By that the field would be better.</p><p>I would send the same two people to both places, at noon, above 15 °C and without much wind, on five days, changing which place comes first. And there should be more than one garden and more than one field.</p>",
          },
        },
      },
    },
    {
      quiz: "species",
      student: NOOR,
      started: at - 26 * HOUR,
      took: 20 * MINUTE,
      running: true,
      slips: { empty: ["leaf", "fly"] },
    },
    letters(at),
    review(at),
  ];
}

/** Handed in, one letter marked and returned, the other still waiting. */
const letters = (at: Instant): SampleAttempt => ({
  quiz: "letters",
  student: NOOR,
  started: at - 21 * HOUR,
  took: 48 * MINUTE,
  slips: {
    given: {
      swarm: {
        rich: "<p>Dear neighbour, leave the brigade in their beds. A swarm has no brood and no stores to defend, so it is as gentle as bees ever are. Keep the dog in, look at it from the kitchen, and ring a beekeeper: by tomorrow it will have gone, or be in somebody’s box.</p>",
      },
      spray: {
        rich: "<p>Not while they flower, whatever the label says: what is sprayed on a flower is in the hive an hour later. If it must be, then late in the evening, when nothing flies and nothing is in bloom underneath, and tell the people with hives the day before.</p>",
      },
    },
  },
  byHand: [
    {
      question: "swarm",
      levels: { right: "yes", tone: "half" },
      reason: "right and calm; say also how close she may safely go",
      at: at - 6 * HOUR,
    },
  ],
  returned: at - 5 * HOUR,
});

/** Every kind answered, a day late, marked by rule and by hand, one mark set anew, with notes in the margin. */
const review = (at: Instant): SampleAttempt => ({
  quiz: "review",
  student: NOOR,
  started: null,
  took: 61 * MINUTE + 20_000,
  slips: {
    wrong: ["solitary"],
    given: {
      estimate: (right) => (right && "parts" in right ? { parts: { ...right.parts, b: "95" } } : null),
      buzz: { text: "buzzing" },
      helps: (right) => (right && "picks" in right ? { picks: right.picks.slice(0, 2) } : null),
      tongues: (right) => {
        if (!right || !("pairs" in right)) return null;
        const [prompts, targets] = [Object.keys(right.pairs), Object.values(right.pairs)];
        const order = [targets[1], targets[0], ...targets.slice(2)];
        return { pairs: Object.fromEntries(prompts.map((prompt, i) => [prompt, order[i] ?? ""])) };
      },
      day: (right) => {
        if (!right || !("order" in right)) return null;
        const [first = "", second = "", third = "", ...rest] = right.order;
        return { order: [first, third, second, ...rest] };
      },
      stigma: {
        points: [
          { x: 0.5, y: 0.28 },
          { x: 0.5, y: 0.52 },
        ],
      },
      why: {
        rich: "<p>The bank that faces south is dry by eight o’clock, while the other lies in shadow until ten. A small bee cannot fly until her muscles are warm, so on the sunny bank the day is two hours longer.</p><p>I would count again on three mornings, each time both banks at the same hours, and put the same pots of thyme on both, so that only the warmth differs.</p>",
      },
      page: {
        files: [{ id: NOTEBOOK_FILE, name: "second day.txt", size: NOTEBOOK_PAGE.length }],
        text: "The rain began at eleven, so the last row is short.",
      },
    },
  },
  byHand: [
    {
      question: "why",
      levels: { cause: "one", test: "fair" },
      reason: "a fair test, well said; the thyme is in your test but not among your causes",
      at: at - 3 * DAY - 2 * HOUR,
    },
    {
      question: "page",
      levels: { head: "some", lines: "each" },
      reason: "clear, but the weather is missing at the head",
      at: at - 3 * DAY - HOUR,
    },
    {
      question: "buzz",
      marks: 2,
      reason: "“buzzing” is accepted as right from everybody; marked again",
      at: at - 2 * DAY,
      ruleChanged: true,
    },
  ],
  notes: [
    {
      question: "why",
      about: "the day is two hours longer",
      text: "Exactly the right thought: not more bees, but more hours.",
    },
    {
      question: "why",
      about: "put the same pots of thyme on both",
      text: "So you know that the thyme matters. Say it above, as a cause of its own.",
    },
    {
      question: "page",
      text: "Date, wind and cloud first, always; without them nobody can use your rows next year.",
    },
  ],
  returned: at - 3 * DAY,
  feedback:
    "A day late, which is a pity, for this is careful work. Look at the order of mark and recapture again: you let them mix before they were marked, and so there was nobody to mix.",
});

export const NOTEBOOK_FILE = "6f1d2c58-8d0b-4a1e-9d54-3a7f0c1b2e90";
export const NOTEBOOK_PAGE = new TextEncoder().encode(
  [
    "South-facing bank, second day",
    "",
    "08:10-08:30  thyme        14 visits   9 bumblebees, 5 hoverflies",
    "09:10-09:30  thyme        22 visits  16 bumblebees, 6 small bees",
    "10:10-10:30  thyme        31 visits  19 bumblebees, 12 small bees",
    "10:50-11:00  harebell      4 visits   (rain)",
    "",
  ].join("\n"),
);
