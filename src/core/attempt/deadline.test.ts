import { describe, expect, test } from "vitest";
import { deadlineOf } from "./deadline";

const at = (time: string) => Date.parse(`2026-11-25T${time.padEnd(8, ":00")}Z`);

describe("the deadline", () => {
  test.each([
    [20, 1, 0, "10:00:00", "12:00", true, "10:20:00"],
    [20, 1.5, 0, "10:00:00", "12:00", true, "10:30:00"],
    [20, 1.25, 5, "10:00:00", "12:00", true, "10:30:00"],
    [60, 1, 0, "11:30:00", "12:00", true, "12:00:00"],
    [60, 1, 0, "11:30:00", "12:00", false, "12:30:00"],
    [null, 1, 0, "10:00:00", "12:00", true, "12:00:00"],
  ] as const)(
    "limit %s, f %d, e %d, start %s, closes %s, cuts %s",
    (limit, factor, extra, start, closes, cuts, right) => {
      const deadline = deadlineOf({
        start: at(start),
        limitMinutes: limit,
        allowance: { factor, extraMinutes: extra },
        closes: at(closes),
        closingCuts: cuts,
      });
      expect(deadline).toBe(at(right));
    },
  );

  test("without a limit and a closing there is none", () => {
    const allowance = { factor: 1, extraMinutes: 0 };
    expect(
      deadlineOf({ start: 0, limitMinutes: null, allowance, closes: null, closingCuts: true }),
    ).toBeNull();
  });
});
