import { describe, expect, test } from "vitest";
import { exact, shown } from "../numbers/exact";
import { type Category, courseStanding, type Item, markedOverTime, percent } from "./standing";

const item = (id: string, maximum: number, earned: number | null, awaited = 0): Item => ({
  id,
  maximum: exact(maximum),
  mark: earned === null ? null : { earned: exact(earned), awaited: exact(awaited) },
});
const category = (
  id: string,
  weight: number,
  items: Item[],
  dropLowest = 0,
  mean: Category["mean"] = "by-points",
): Category => ({
  id,
  weight: exact(weight),
  mean,
  dropLowest,
  items,
});
const figure = (value: Parameters<typeof percent>[0] | null) =>
  value === null ? null : shown(percent(value));

const worked = [
  category("quizzes", 40, [item("a", 20, 16), item("b", 20, 9), item("c", 20, 12, 4), item("d", 20, 19)], 1),
  category("written", 60, [item("e", 50, 41)]),
];

test("the worked example", () => {
  const standing = courseStanding(worked);
  const [quizzes] = standing.categories;
  expect([...(quizzes?.dropped ?? [])]).toEqual(["b"]);
  expect(figure(quizzes?.markedSoFar ?? null)).toEqual("83.93");
  expect(figure(quizzes?.low ?? null)).toEqual("78.33");
  expect(figure(quizzes?.high ?? null)).toEqual("85");
  expect(figure(standing.markedSoFar)).toEqual("82.77");
  expect(figure(standing.low)).toEqual("80.53");
  expect(figure(standing.high)).toEqual("83.2");
  expect(figure(standing.stillToCome)).toEqual("0");
});

test("over time: each moment as the course stood then, the last as it stands now", () => {
  const shownAt = new Map([
    ["e", 10],
    ["b", 20],
    ["a", 30],
    ["c", 40],
    ["d", 40],
  ]);
  // Written work alone; with the only quiz, that is never dropped; with the better one, which drops it.
  expect(markedOverTime(worked, [9, 10, 20, 30, 40], shownAt).map(figure)).toEqual([
    null,
    "82",
    "67.2",
    "81.2",
    "82.77",
  ]);
});

test("a category with nothing marked leaves the weights of what is marked so far", () => {
  const standing = courseStanding([
    category("a", 40, [item("x", 10, 5)]),
    category("b", 60, [item("y", 10, null)]),
  ]);
  expect(figure(standing.markedSoFar)).toEqual("50");
  expect(figure(standing.stillToCome)).toEqual("60");
});

test("nothing at all is nothing to say, not zero", () => {
  const standing = courseStanding([category("a", 100, [item("x", 10, null)])]);
  expect(standing.markedSoFar).toBeNull();
  expect(standing.low).toBeNull();
});

describe("what each piece of work weighs", () => {
  const weights = (of: Category, options = {}) => {
    const [standing] = courseStanding([of], options).categories;
    const each = [...(standing?.weights ?? [])].map(([id, weight]) => [id, figure(weight)]);
    return { each, toCome: figure(standing?.toCome ?? null) };
  };

  test("by points, what is dropped being out of it: the rest makes up the whole", () => {
    expect(weights(category("a", 1, [...(worked[0]?.items ?? []), item("next", 40, null)], 1))).toEqual({
      each: [
        ["a", "20"],
        ["c", "20"],
        ["d", "20"],
        ["next", "40"],
      ],
      toCome: "40",
    });
  });

  test("all equal, whatever their points", () => {
    const items = [item("x", 10, 5), item("y", 90, null), item("z", 40, null), item("extra", 0, 0)];
    expect(weights(category("a", 1, items, 0, "equal"))).toEqual({
      each: [
        ["x", "33.33"],
        ["y", "33.33"],
        ["z", "33.33"],
        ["extra", "0"],
      ],
      toCome: "66.67",
    });
  });

  test("what is excused has none, and what was missed only where it counts", () => {
    const items = [
      item("x", 10, 5),
      { ...item("gone", 30, null), over: true },
      { ...item("ill", 10, null), excused: true },
      item("y", 10, null),
    ];
    const left = [
      ["x", "50"],
      ["y", "50"],
    ];
    expect(weights(category("a", 1, items))).toEqual({ each: left, toCome: "50" });
    const counted = [
      ["x", "20"],
      ["gone", "60"],
      ["y", "20"],
    ];
    expect(weights(category("a", 1, items), { missingCountsZero: true })).toEqual({
      each: counted,
      toCome: "20",
    });
  });
});

test("a missed item is zero only where the course says so", () => {
  const items = [item("x", 10, 8), { ...item("y", 10, null), over: true }];
  expect(figure(courseStanding([category("a", 1, items)]).low)).toEqual("80");
  expect(figure(courseStanding([category("a", 1, items)], { missingCountsZero: true }).low)).toEqual("40");
});

test("excused work leaves the calculation, and the last marked item is never dropped", () => {
  const excused = { ...item("x", 10, 0), excused: true };
  expect(figure(courseStanding([category("a", 1, [excused, item("y", 10, 7)], 3)]).low)).toEqual("70");
});

test("a category may take the plain mean of percentages", () => {
  const items = [item("x", 10, 10), item("y", 100, 50)];
  expect(figure(courseStanding([category("a", 1, items, 0, "equal")]).low)).toEqual("75");
});

test("what awaits is not dropped while another could be lower", () => {
  const items = [item("waits", 20, 2, 18), item("low", 20, 8), item("fine", 20, 18)];
  expect([...(courseStanding([category("a", 1, items, 1)]).categories[0]?.dropped ?? [])]).toEqual(["low"]);
});
