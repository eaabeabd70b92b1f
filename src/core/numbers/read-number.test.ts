import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { exact } from "./exact";
import { plainWriting, readNumber } from "./read-number";

const value = (text: string) => {
  const reading = readNumber(text);
  return reading.ok ? reading.plain : reading.problem;
};

describe("numbers as people write them", () => {
  test.each([
    ["1.5", "1.5"],
    ["1,5", "1.5"],
    ["1 500", "1500"],
    ["1\u00a0500,25", "1500.25"],
    ["1.5e3", "1500"],
    ["1.5E-3", "0.0015"],
    ["1.5x10^3", "1500"],
    ["1.5 × 10³", "1500"],
    ["1.5 · 10⁻²", "0.015"],
    ["3/4", "0.75"],
    ["1/3", "1/3"],
    ["2*3.1", "6.2"],
    ["-4", "-4"],
    ["−4", "-4"],
    ["+4", "4"],
    [".5", "0.5"],
    ["4.", "4"],
    ["1,234,567", "1234567"],
    ["1.234.567,5", "1234567.5"],
    ["0", "0"],
    ["-0.5", "-0.5"],
    ["-.5", "-0.5"],
    ["６００", "600"],
    ["－４．２", "-4.2"],
    ["- 4", "-4"],
    ["½", "0.5"],
    ["1½", "1.5"],
    ["1 3/4", "1.75"],
    ["- 1 3/4", "-1.75"],
    ["1 500/2", "750"],
    ["10^3", "1000"],
    ["10³", "1000"],
    ["-10^-2", "-0.01"],
    ["1.5x10-3", "0.0015"],
    ["1.5*10+2", "150"],
    ["0,500", "0.5"],
  ])("%s", (text, plain) => expect(value(text)).toBe(plain));
});

test.each([
  ["4.2 m", "4.2", "m"],
  ["4.2m", "4.2", "m"],
  ["15 km/h", "15", "km/h"],
  ["73°", "73", "°"],
  ["70.9 %", "70.9", "%"],
])("a unit behind the number: %s", (text, plain, unit) => {
  expect(readNumber(text)).toMatchObject({ ok: true, plain, unit });
});

test.each([
  ["2.8", 2],
  ["2.80", 3],
  ["540", 3],
  ["5.4e2", 2],
  ["0.050", 2],
  ["0", 1],
  ["1 500", 4],
  ["3/4", Number.POSITIVE_INFINITY],
])("%s has %d significant figures", (text, figures) => {
  expect(readNumber(text)).toMatchObject({ ok: true, figures });
});

test.each([
  "",
  "  ",
  "four",
  "1,2,3",
  "1.2.3",
  "1 50 0",
  "3/0",
  "1e999",
  "<b>",
  "4.2 m; drop",
  "9".repeat(81),
])("what cannot be read is refused with a sentence: %j", (text) => {
  const reading = readNumber(text);
  expect(reading.ok).toBe(false);
  expect(!reading.ok && english(reading.problem)).toMatch(/\.$/);
});

test("a comma with three digits behind it is asked back, unless the quiz says what it means", () => {
  expect(readNumber("1,500")).toMatchObject({ ok: false, either: ["1.500", "1500"] });
  expect(readNumber("-12,345")).toMatchObject({ ok: false, either: ["-12.345", "-12345"] });
  expect(readNumber("1,500", { comma: "decimals" })).toMatchObject({ plain: "1.5" });
  expect(readNumber("1,500", { comma: "thousands" })).toMatchObject({ plain: "1500" });
});

test("what is printed for a number reads back to that number", () => {
  fc.assert(
    fc.property(fc.integer(), fc.integer({ min: 1, max: 100_000 }), (n, d) => {
      const number = exact(`${n}/${d}`);
      const reading = readNumber(plainWriting(number));
      return reading.ok && reading.value.equals(number);
    }),
  );
});

test("no text makes it throw or hang", () => {
  fc.assert(
    fc.property(
      fc.string({ unit: "binary", maxLength: 120 }),
      (text) => typeof readNumber(text).ok === "boolean",
    ),
  );
  fc.assert(
    fc.property(fc.string({ unit: fc.constantFrom(..."0123456789.,+-eE*/^ x×"), maxLength: 80 }), (text) => {
      const started = performance.now();
      readNumber(text);
      return performance.now() - started < 200;
    }),
    { numRuns: 2_000 },
  );
});
