import { expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { formulaProblem, formulasProblem } from "./formulas";

test("formulas as people write them are taken", () => {
  for (const tex of ["", "a^2", "\\frac{d}{t}", "\\left(\\frac{1}{1+\\sqrt{x}}\\right)^{2}", "\\{1, 2\\}"]) {
    expect(formulaProblem(tex)).toBeNull();
  }
  expect(formulasProblem(Array.from({ length: 150 }, () => "\\frac{d}{t} = v"))).toBeNull();
});

test.each([
  ["a thousand and one characters", ["x".repeat(1_001)], "too long: 1000 characters"],
  ["five thousand braces", ["{".repeat(500) + "}".repeat(500)], "nested too deep"],
  ["left and right", ["\\left(".repeat(31) + "\\right)".repeat(31)], "nested too deep"],
  ["environments", ["\\begin{matrix}".repeat(31)], "nested too deep"],
  ["two hundred and one", Array.from({ length: 201 }, () => "x"), "too many formulas: 200"],
  ["too much together", Array.from({ length: 11 }, () => "x".repeat(999)), "too long together"],
])("%s: refused with a sentence that says what would be right", (_, formulas, words) => {
  expect(english(formulasProblem(formulas) ?? "")).toContain(words);
});

test("a brace that is a sign opens no group, and closing more than was opened adds no depth", () => {
  expect(formulaProblem("\\{".repeat(100))).toBeNull();
  expect(formulaProblem("}".repeat(100))).toBeNull();
});
