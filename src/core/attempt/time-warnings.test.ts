import { expect, test } from "vitest";
import { MINUTE, SECOND } from "../time/instants";
import { clockDigits } from "../time/said-times";
import { currentWarning, warningsFor } from "./time-warnings";

test.each([
  [20, ["10:00", "5:00", "2:00", "0:20"]],
  [8, ["4:00", "2:00", "0:20"]],
  [1, ["0:30", "0:20", "0:15"]],
])("a limit of %d min", (limit, notices) => {
  expect(warningsFor(limit * MINUTE).map(clockDigits)).toEqual(notices);
});

test("a quiz may set its own", () => {
  expect(warningsFor(20 * MINUTE, [MINUTE, 30 * MINUTE, MINUTE])).toEqual([MINUTE]);
});

test("coming back after some were missed, only the latest is current", () => {
  const notices = warningsFor(20 * MINUTE);
  expect(currentWarning(notices, 11 * MINUTE)).toBeNull();
  expect(currentWarning(notices, 10 * MINUTE)).toBe(10 * MINUTE);
  expect(currentWarning(notices, 100 * SECOND)).toBe(2 * MINUTE);
});
