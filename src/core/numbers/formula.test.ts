import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { exact, shown } from "./exact";
import { FormulaProblem, readFormula } from "./formula";
import { openSeed } from "./seeded";
import { drawVariable, fillIn, valueCount } from "./variables";

const value = (text: string, values: Record<string, string> = {}) => {
  const reading = readFormula(text);
  if (!reading.ok) return reading.problem;
  return reading.formula.value(new Map(Object.entries(values).map(([name, each]) => [name, exact(each)])));
};

test.each([
  ["4.8 - 3/12*a", "3.75"],
  ["(1/3) * 3", "1"],
  ["2 ^ -2", "0.25"],
  ["-a ^ 2", "-17.64"],
  ["sqrt(a * a)", "4.2"],
  ["sind(30)", "0.5"],
  ["mod(75 - 80, 360)", "355"],
  ["round(2.5)", "3"],
  ["max(a, 5)", "5"],
  ["2a", "8.4"],
])("%s", (text, right) => {
  const result = value(text, { a: "4.2" });
  expect(typeof result === "string" ? result : shown(result as never)).toEqual(right);
});

test("arithmetic is exact", () => {
  expect(value("0.1 + 0.2 - 0.3")).toMatchObject({ n: 0n });
});

describe("nothing but numbers can be reached", () => {
  test.each([
    "a = 3",
    "import('fs')",
    "constructor",
    "toString()",
    "__proto__",
    "x.constructor",
    "[1, 2]",
    "f(x) = x",
    '"text"',
    "a; b",
    "eval('1')",
    "parse('1')",
    "10!",
    "a ? 1 : 2",
    "1e999",
    `${"(".repeat(60)}1${")".repeat(60)}`,
    `${"1+".repeat(400)}1`,
    "x".repeat(600),
  ])("%s", (text) => {
    const reading = readFormula(text.slice(0, 2_000));
    const reached = () => reading.ok && reading.formula.value(new Map());
    if (reading.ok) expect(reached).toThrow(FormulaProblem);
    else expect(english(reading.problem)).toMatch(/\.$/);
  });

  test("no text makes it hang, throw, or give anything but a finite number", () => {
    const unit = fc.constantFrom(
      "1",
      "9",
      "0",
      ".",
      "+",
      "-",
      "*",
      "/",
      "^",
      "(",
      ")",
      "a",
      "sqrt(",
      "log10(",
      "pi",
      ",",
      "e",
      "!",
      "'",
      "[",
      ";",
      "=",
    );
    fc.assert(
      fc.property(fc.string({ unit, maxLength: 60 }), (text) => {
        const started = performance.now();
        const reading = readFormula(text);
        if (reading.ok) {
          try {
            const result = reading.formula.value(new Map([["a", exact("4.2")]]));
            expect(Number.isFinite(result.valueOf())).toBe(true);
          } catch (error) {
            expect(error).toBeInstanceOf(FormulaProblem);
          }
        }
        expect(performance.now() - started).toBeLessThan(500);
      }),
      { numRuns: 5_000 },
    );
  });

  test("towers of powers end at once", () => {
    const started = performance.now();
    expect(() => value("9^9^9^9")).toThrow(FormulaProblem);
    expect(() => value("(1/3)^64 * (1/7)^64 * (9/11)^64")).not.toThrow();
    expect(performance.now() - started).toBeLessThan(500);
  });
});

describe("variables", () => {
  const depth = { name: "d", from: "0.5", to: "2.0", step: "0.1" };

  test("each value is drawn equally often over 10,000 seeds, and as written", () => {
    expect(valueCount(depth)).toBe(16);
    const counts = new Map<string, number>();
    for (let i = 0; i < 10_000; i += 1) {
      const { text } = drawVariable(depth, openSeed(String(i)), "q");
      counts.set(text, (counts.get(text) ?? 0) + 1);
    }
    expect([...counts.keys()].sort()).toEqual(
      Array.from({ length: 16 }, (_, i) => (0.5 + i / 10).toFixed(1)),
    );
    const expected = 10_000 / 16;
    const statistic = [...counts.values()].reduce(
      (total, count) => total + (count - expected) ** 2 / expected,
      0,
    );
    // 99.9 % of fair draws stay below 37.7 with 15 degrees of freedom.
    expect(statistic).toBeLessThan(37.7);
  });

  test("a list gives its items as they are written; other braces of a text stay", () => {
    const drawn = drawVariable({ name: "n", list: ["4.20"] }, openSeed("s"), "q");
    expect(drawn.text).toEqual("4.20");
    expect(fillIn("{n} m, {other}, {", new Map([["n", drawn.text]]))).toEqual("4.20 m, {other}, {");
    expect(valueCount({ name: "x", from: 1, to: 0, step: 1 })).toBe(0);
  });
});
