import { describe, expect, test } from "vitest";
import { english } from "../../../../tests/support/english";
import type { Numeric, NumericPart } from "./question";
import { numericWarnings } from "./warnings";

const part = (change: Partial<NumericPart> & Pick<NumericPart, "key">): NumericPart => ({
  id: "a",
  marks: 1,
  tolerance: { rule: "absolute", within: "0.05" },
  ...change,
});
const warned = (one: NumericPart, change: Partial<Numeric> = {}) =>
  numericWarnings({ id: "q", kind: "numeric", text: "?", marks: 1, parts: [one], ...change }).map(english);

describe("an author is told", () => {
  test("of a unit that another subject reads otherwise, until the question says which it is", () => {
    const leg = part({ key: "6.3", unit: "nm" });
    expect(warned(leg)).toEqual([
      "part a: “nm” is read as nanometres, and otherwise in other subjects; say with unitMeanings what it means here",
    ]);
    expect(warned(leg, { unitMeanings: { nm: "nauticalmile" } })).toEqual([]);
    expect(warned(part({ key: "6.3", unit: "kn" }))).toEqual([]);
  });

  test("of answers with fewer figures than asked for, with the first values and how many", () => {
    const share = part({ key: "100 * b / n", tolerance: { rule: "figures", figures: 3 } });
    const variables = [
      { name: "n", list: ["160", "200"] },
      { name: "b", list: ["40", "50", "21"] },
    ];
    expect(warned(share, { text: "Of {n} visits, {b} were by bees.", variables })).toEqual([
      "part a: the answer 25 has fewer figures than the 3 asked for (with n = 160, b = 40; 3 of 6 draws)",
    ]);
  });

  test("of figures that the data do not have, and of tolerances narrower than they are", () => {
    const text = "High water 4.8 m at 11:20, low water 0.6 m.";
    expect(warned(part({ key: "3.75", tolerance: { rule: "figures", figures: 3 } }), { text })).toEqual([
      "part a: 3 figures are asked for; no number that is given has more than 2",
    ]);
    expect(warned(part({ key: "3.75", tolerance: { rule: "absolute", within: "0.01" } }), { text })).toEqual([
      "part a: 3.8, the answer to as many decimals as the numbers given have, would not be right",
    ]);
    expect(warned(part({ key: "3.75" }), { text })).toEqual([]);
  });

  test("of an answer that only a fraction says, where nothing else would be right", () => {
    expect(warned(part({ key: "640/3", tolerance: { rule: "absolute", within: 0 } }))).toEqual([
      "part a: the answer 640/3 has no end as a decimal and would be shown as a fraction; allow a tolerance",
    ]);
    expect(warned(part({ key: "640/3" }))).toEqual([]);
  });

  test("of a sign that changes, and of a usual mistake that is right or has no value", () => {
    const variables = [{ name: "v", list: [-1, 0, 2] }];
    const feedback = "<p>No.</p>";
    expect(warned(part({ key: "v" }), { variables })).toEqual([
      "part a: the answer is negative in some draws and positive in others",
    ]);
    expect(warned(part({ key: "v^2 + 1", mistakes: [{ value: "v + 3", feedback }] }), { variables })).toEqual(
      ["part a: the usual mistake “v + 3” is right (with v = -1; 2 of 3 draws)"],
    );
    expect(warned(part({ key: "5", mistakes: [{ value: "1 / v", feedback }] }), { variables })).toEqual([
      "part a: the usual mistake “1 / v” has no value (with v = 0; 1 of 3 draws)",
    ]);
  });
});
