import { expect, test } from "vitest";
import { exact, shown } from "./exact";
import { agreeToFigures, inFigures, toFigures } from "./significant-figures";

test.each([
  ["2.84173", 3, "2.84"],
  ["540.3", 3, "540"],
  ["0.0123456", 2, "0.01"],
  ["99.96", 3, "100"],
  ["-2.845", 3, "-2.85"],
  ["0", 3, "0"],
])("%s to %d figures", (text, figures, right) => {
  expect(shown(toFigures(exact(text), figures).value)).toEqual(right);
});

test.each([
  ["2.84173", "2.84", 3, 0, true],
  ["2.84173", "2.85", 3, 0, false],
  ["2.84173", "2.85", 3, 1, true],
  ["540.3", "540", 3, 0, true],
  ["0.0100", "0.00999", 2, 0, true],
])("key %s, written %s, %d figures, u = %d", (key, written, figures, units, right) => {
  expect(agreeToFigures(exact(written), exact(key), figures, units)).toEqual(right);
});

test.each([
  ["6", 2, "6.0"],
  ["540.3", 2, "540"],
  ["70.90909", 3, "70.9"],
  ["99.96", 3, "100"],
  ["0.05", 2, "0.050"],
])("%s written with %d figures", (text, figures, right) =>
  expect(inFigures(exact(text), figures)).toEqual(right),
);
