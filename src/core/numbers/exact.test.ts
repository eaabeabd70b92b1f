import fc from "fast-check";
import { expect, test } from "vitest";
import { exact, rounded, shown, stored, sum, written } from "./exact";

test("a third is a third", () => {
  expect(sum([exact("1/3"), exact("1/3"), exact("1/3")]).equals(1)).toBe(true);
  expect(exact(0.1).add(exact(0.2)).equals(exact("0.3"))).toBe(true);
});

test("a sum is the same in any order, over any denominators, with what is taken off", () => {
  const values = ["1/3", "-0.25", "2/7", "0", "-1/3", "12.5"].map(exact);
  const added = values.reduce((total, value) => total.add(value));
  expect(sum(values).equals(added)).toBe(true);
  expect(sum(values.toReversed()).equals(added)).toBe(true);
  expect(shown(sum([exact(1), exact("-5/2")]))).toEqual("-1.5");
  expect(sum([]).equals(0)).toBe(true);
});

test("five marks in three equal parts, the first right at the third try at a cost of 1/3", () => {
  const part = exact(5).div(3);
  const first = part.mul(exact(1).sub(exact("1/3").mul(2)));
  expect(stored(first)).toEqual("0.5556");
  expect(shown(first)).toEqual("0.56");
  const whole = sum([first, part, part]);
  expect(stored(whole)).toEqual("3.8889");
  expect(shown(whole)).toEqual("3.89");
});

test("figures are shown to two decimals, trailing zeros dropped, halves away from zero", () => {
  expect(shown("12")).toEqual("12");
  expect(shown("12.50")).toEqual("12.5");
  expect(shown("0.005")).toEqual("0.01");
  expect(shown("-0.005")).toEqual("-0.01");
  expect(shown("-0.001")).toEqual("0");
  expect(shown("2.675")).toEqual("2.68");
  expect(shown(100)).toEqual("100");
  expect(rounded(exact("7/2"), 0)).toEqual("4");
});

test("scientific writing of small and large numbers is exact", () => {
  expect(exact(1e-7).equals(exact("1/10000000"))).toBe(true);
  expect(exact("1.5e3").equals(1500)).toBe(true);
  expect(exact(1e21).toFraction()).toEqual(`1${"0".repeat(21)}`);
});

test("an exact number is written so that it reads back the same", () => {
  fc.assert(
    fc.property(fc.integer(), fc.integer({ min: 1, max: 10_000 }), (n, d) => {
      const value = exact(`${n}/${d}`);
      return exact(written(value)).equals(value);
    }),
  );
});

test("rounding is never off by more than half a place", () => {
  fc.assert(
    fc.property(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: 1, max: 999 }), (n, d) => {
      const value = exact(`${n}/${d}`);
      return exact(rounded(value, 4)).sub(value).abs().compare(exact("1/20000")) <= 0;
    }),
  );
});
