import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type FiguredAttempt, quizFigures } from "./question-figures";
import { median } from "./statistics";

const questionsOf = (maxima: readonly number[], section: (i: number) => string = () => "all") =>
  maxima.map((maximum, i) => ({ id: `q${i + 1}`, maximum, section: section(i) }));
const rounded = (value: number | null | undefined, places = 4) =>
  value === null || value === undefined ? value : Number(value.toFixed(places));

describe("figures that are known", () => {
  test("the worked table of the rules", () => {
    const rows = [
      [2, 1, 3, 0],
      [2, 0, 2, 1],
      [1, 1, 3, 1],
      [2, 1, 1, 0],
      [0, 0, 1, 0],
      [2, 1, 3, 1],
    ];
    const found = quizFigures(questionsOf([2, 1, 3, 1]), rows, 0);
    expect(found.questions.map(({ facility }) => rounded(facility))).toEqual([0.75, 0.6667, 0.7222, 0.5]);
    expect(found.questions.map(({ discrimination }) => rounded(discrimination))).toEqual([
      0.4392, 0.4925, 0.6452, 0.3922,
    ]);
    expect([found.mean, found.deviation].map((value) => rounded(value))).toEqual([4.8333, 2.137]);
    expect(found.reliability.map(({ alpha, error }) => [rounded(alpha), rounded(error)])).toEqual([
      [0.6813, 1.2065],
    ]);
  });

  test("of so few nothing is said but how hard it was", () => {
    const found = quizFigures(questionsOf([1, 1]), [
      [1, 0],
      [0, 1],
      [1, 1],
    ]);
    expect(
      found.questions.map(({ discrimination, noDiscrimination }) => [discrimination, noDiscrimination]),
    ).toEqual([
      [null, "too-few"],
      [null, "too-few"],
    ]);
    expect(found.reliability).toEqual([]);
    expect(found.noReliability).toBe("too-few");
    expect(rounded(found.questions[0]?.facility)).toBe(0.6667);
  });

  // Bock and Lieberman, 1970: 1,000 people, five items; how many gave each pattern of answers, from 00000 to 11111.
  const PATTERNS = [
    3, 6, 2, 11, 1, 1, 3, 4, 1, 8, 0, 16, 0, 3, 2, 15, 10, 29, 14, 81, 3, 28, 15, 80, 16, 56, 21, 173, 11, 61,
    28, 298,
  ];
  test("five items of a law school's admission test: facility, corrected correlations and alpha as published", () => {
    const rows = PATTERNS.flatMap((count, pattern) =>
      Array.from({ length: count }, () => [16, 8, 4, 2, 1].map((bit) => (pattern & bit ? 1 : 0))),
    );
    expect(rows).toHaveLength(1_000);
    const found = quizFigures(questionsOf([1, 1, 1, 1, 1]), rows);
    expect(found.questions.map(({ facility }) => rounded(facility, 3))).toEqual([
      0.924, 0.709, 0.553, 0.763, 0.87,
    ]);
    expect(found.questions.map(({ discrimination }) => rounded(discrimination))).toEqual([
      0.1128, 0.1532, 0.1728, 0.1444, 0.1216,
    ]);
    expect(rounded(found.reliability[0]?.alpha, 3)).toBe(0.295);
    expect(found.questions.map(({ remarkable }) => remarkable)).toEqual([
      ["nearly-all-right"],
      [],
      [],
      [],
      [],
    ]);
  });

  // Anscombe, 1973: four sets of eleven pairs that look nothing alike and have the same correlation.
  test.each([
    [
      [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5],
      [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68],
    ],
    [
      [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5],
      [9.14, 8.14, 8.74, 8.77, 9.26, 8.1, 6.13, 3.1, 9.13, 7.26, 4.74],
    ],
    [
      [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5],
      [7.46, 6.77, 12.74, 7.11, 7.81, 8.84, 6.08, 5.39, 8.15, 6.42, 5.73],
    ],
    [
      [8, 8, 8, 8, 8, 8, 8, 19, 8, 8, 8],
      [6.58, 5.76, 7.71, 8.84, 8.47, 7.04, 5.25, 12.5, 5.56, 7.91, 6.89],
    ],
  ])("four sets with one correlation, %#", (x, y) => {
    const found = quizFigures(
      questionsOf([20, 20]),
      x.map((marks, i) => [marks, y[i] ?? 0]),
    );
    expect(found.questions.map(({ discrimination }) => rounded(discrimination, 3))).toEqual([
      expect.closeTo(0.816, 2),
      expect.closeTo(0.816, 2),
    ]);
  });
});

describe("draws, dropped questions, sameness", () => {
  const twelve = (row: (i: number) => FiguredAttempt) => Array.from({ length: 12 }, (_, i) => row(i));

  test("where attempts had different questions, reliability is that of the sections in which they had the same", () => {
    const questions = questionsOf([1, 1, 1, 1], (i) => (i < 2 ? "same" : "drawn"));
    const rows = twelve((i) => [i % 2, i % 3 === 0 ? 1 : 0, i % 2 ? null : 1, i % 2 ? 0 : null]);
    const { reliability, noReliability } = quizFigures(questions, rows);
    expect(reliability.map(({ section, questions: count }) => [section, count])).toEqual([["same", 2]]);
    expect(noReliability).toBeNull();
    const all = quizFigures(
      questionsOf([1, 1]),
      twelve((i) => (i % 2 ? [1, null] : [null, 1])),
    );
    expect(all).toMatchObject({ reliability: [], noReliability: "different-questions" });
  });

  test("a question that everyone gets the same marks for separates nobody, and says so", () => {
    const found = quizFigures(
      questionsOf([1, 1]),
      twelve((i) => [1, i % 2]),
    );
    expect(found.questions[0]).toMatchObject({
      facility: 1,
      discrimination: null,
      noDiscrimination: "same-marks",
    });
    expect(found.questions[1]).toMatchObject({ discrimination: null, noDiscrimination: "same-rest" });
  });

  test("a question that misleads those who know most is told", () => {
    const rows = twelve((i) => [i < 6 ? 1 : 0, i < 6 ? 0 : 1, i < 6 ? 0 : 1]);
    expect(quizFigures(questionsOf([1, 1, 1]), rows).questions[0]?.remarkable).toEqual(["misled"]);
  });

  test("what is out of the maximum takes no part, and nothing at all is nothing", () => {
    const found = quizFigures(
      questionsOf([1, 1, 0]),
      twelve((i) => [i % 2, i % 3 ? 1 : 0, 0]),
    );
    expect(found.reliability[0]?.questions).toBe(2);
    expect(found.questions[2]).toMatchObject({ facility: null, discrimination: null });
    expect(quizFigures(questionsOf([1]), [])).toMatchObject({ attempts: 0, mean: null, deviation: null });
  });
});

test("in any class: figures stay within their bounds, and neither order nor scale of the marks changes them", () => {
  const marks = fc.integer({ min: 0, max: 8 }).map((quarter) => quarter / 4);
  const cell = fc.oneof({ weight: 5, arbitrary: marks }, { weight: 1, arbitrary: fc.constant(null) });
  const size = fc.tuple(fc.integer({ min: 2, max: 6 }), fc.integer({ min: 10, max: 25 }));
  const course = size.chain(([questions, attempts]) =>
    fc.array(fc.array(cell, { minLength: questions, maxLength: questions }), {
      minLength: attempts,
      maxLength: attempts,
    }),
  );
  fc.assert(
    fc.property(course, fc.integer({ min: 2, max: 9 }), (rows, by) => {
      const width = rows[0]?.length ?? 0;
      const questions = questionsOf(Array(width).fill(2));
      const found = quizFigures(questions, rows);
      for (const { facility, discrimination } of found.questions) {
        if (facility !== null) expect(facility >= 0 && facility <= 1).toBe(true);
        if (discrimination !== null) expect(Math.abs(discrimination)).toBeLessThanOrEqual(1);
      }
      for (const { alpha } of found.reliability) expect(alpha).toBeLessThanOrEqual(1 + 1e-9);
      const scaled = quizFigures(
        questionsOf(Array(width).fill(2 * by)),
        [...rows].reverse().map((row) => row.map((each) => (each === null ? null : each * by))),
      );
      for (const [i, { facility, discrimination }] of found.questions.entries()) {
        const other = scaled.questions[i];
        expect(rounded(other?.facility, 8)).toBe(rounded(facility, 8));
        // A correlation near nothing is a matter of the last digit.
        if (discrimination !== null) expect(other?.discrimination ?? 0).toBeCloseTo(discrimination, 8);
      }
      expect(scaled.reliability.map(({ alpha }) => rounded(alpha, 6))).toEqual(
        found.reliability.map(({ alpha }) => rounded(alpha, 6)),
      );
    }),
  );
});

test("the middle of times", () => {
  expect(median([])).toBeNull();
  expect(median([5])).toBe(5);
  expect(median([9, 1, 4])).toBe(4);
  expect(median([1, 4, 9, 2])).toBe(3);
});
