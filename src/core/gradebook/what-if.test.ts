import fc from "fast-check";
import { expect, test } from "vitest";
import { exact, shown, ZERO } from "../numbers/exact";
import { type Category, courseStanding } from "./standing";
import { withTyped, writtenCategory } from "./what-if";

const item = (id: string, maximum: number, earned: number | null, awaited = 0) => ({
  id,
  maximum: exact(maximum),
  mark: earned === null ? null : { earned: exact(earned), awaited: exact(awaited) },
});
const course: Category[] = [
  {
    id: "quizzes",
    weight: exact("0.4"),
    mean: "by-points",
    dropLowest: 1,
    items: [item("a", 20, 16), item("b", 20, 9), item("c", 20, 12, 4), item("d", 20, 19)],
  },
  {
    id: "written",
    weight: exact("0.6"),
    mean: "by-points",
    dropLowest: 0,
    items: [item("e", 50, 41), item("f", 50, null)],
  },
];
const sofar = (typed: Record<string, string>) => {
  const { result } = withTyped(course.map(writtenCategory), typed);
  const { markedSoFar } = courseStanding(result, { missingCountsZero: false });
  return markedSoFar && shown(markedSoFar.mul(100));
};

test("with nothing typed the course stands as it does", () => {
  const real = courseStanding(course, { missingCountsZero: false }).markedSoFar;
  expect(sofar({})).toBe(shown((real ?? ZERO).mul(100)));
  expect(sofar({})).toEqual("82.77");
});

test("a typed mark takes the place of what is to come or waits, and of nothing else", () => {
  // 47/56 of the quizzes, (41 + 50) / 100 of the written work.
  expect(sofar({ f: "50" })).toEqual("88.17");
  // c as 20 of 20: (16 + 20 + 19) / 60, the lowest dropped.
  expect(sofar({ c: "20" })).toEqual("85.87");
  expect(sofar({ f: "" })).toEqual("82.77");
});

test("what is not a mark of the work is named with what would be right, and changes nothing", () => {
  const { result, problems } = withTyped(course.map(writtenCategory), { f: "51", c: "abc", a: "-1" });
  expect([...problems]).toEqual([
    ["a", "0 to 20"],
    ["c", "a number of marks"],
    ["f", "0 to 50"],
  ]);
  expect(result).toEqual(course);
});

test("sent as text and read again a course is the same", () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 1, max: 9 }), (earned, d) => {
      const [first] = course;
      if (!first) return false;
      const odd = { ...first, weight: exact(`1/${d}`), items: [item("x", 60, earned)] };
      const { result } = withTyped([writtenCategory(odd)], {});
      return (
        result[0]?.weight.equals(odd.weight) === true &&
        result[0].items[0]?.mark?.earned.equals(earned) === true
      );
    }),
  );
});
