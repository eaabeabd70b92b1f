import { expect, test } from "vitest";
import { calculate, numberInWords } from "./calculate";
import { exact } from "./exact";

test.each([
  ["4.8 − 3 × 0.35", "3.75"],
  ["4,8 - 3/12*4,2", "3.75"],
  ["(1 + 2) ÷ 3", "1"],
  ["1/3", "0.3333333333"],
  ["0.1 + 0.2", "0.3"],
  ["5 − 9", "−4"],
])("plain: %s is %s", (text, words) => expect(calculate(text, "plain")).toMatchObject({ ok: true, words }));

test.each([
  ["√(9) + 2²", "7"],
  ["sind(30)", "0.5"],
  ["sin°(30)", "0.5"],
  ["sin(30)", "0.5"],
  ["sin 30", "0.5"],
  ["SIN(30°)", "0.5"],
  ["asin(0.5)", "30"],
  ["2*cos(60)+tan(45)", "2"],
  ["√16", "4"],
  ["√ 2,25 + 1", "2.5"],
  ["√ans", "6.480740698"],
  ["ln 1", "0"],
  ["log10(1000)", "3"],
  ["2^10", "1024"],
  ["2.08 * sqrt(36)", "12.48"],
  ["ans * 2", "84"],
  ["10^15", "1 × 10^15"],
])("scientific: %s is %s", (text, words) =>
  expect(calculate(text, "scientific", exact(42))).toMatchObject({ ok: true, words }),
);

test.each([
  ["", "Write a calculation"],
  ["1 / 0", "divides by zero"],
  ["2 +", "cannot be read"],
  ["x + 1", "“x” is not known here"],
  ["ans + 1", "no result before"],
  ["alert(1)", "not a function"],
])("%j is refused with a sentence", (text, words) =>
  expect(calculate(text, "scientific")).toMatchObject({ ok: false, problem: expect.stringContaining(words) }),
);

test("the plain calculator has no functions and no powers", () => {
  for (const text of ["sqrt(9)", "2^3"])
    expect(calculate(text, "plain")).toMatchObject({ problem: expect.stringContaining("+ − × ÷") });
});

test("numbers are shown with ten figures at most", () => {
  expect(numberInWords(exact("123456.789"))).toEqual("123456.789");
  expect(numberInWords(exact("0.0000001234"))).toEqual("1.234 × 10^-7");
  expect(numberInWords(exact(0))).toEqual("0");
});
