import { expect, test } from "vitest";
import { readSlipCode } from "./slip-code";

test.each([
  ["7KQ2-M4XA-90TF", "7KQ2-M4XA-90TF"],
  ["7kq2 m4xa 90tf", "7KQ2-M4XA-90TF"],
  ["7KQ2M4XA90TF", "7KQ2-M4XA-90TF"],
  [" 7KQ2–M4XA–9OTF ", "7KQ2-M4XA-90TF"],
  ["iLQ2-M4XA-90TF", "11Q2-M4XA-90TF"],
  ["7KQ2-M4XA-90T", null],
  ["7KQ2-M4XA-90TU", null],
  ["", null],
  ["' or 1=1 --", null],
])("%s is read as %s", (text, code) => {
  expect(readSlipCode(text)).toBe(code);
});
