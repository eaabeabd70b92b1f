import { expect, test } from "vitest";
import { written } from "../numbers/exact";
import { DAY, HOUR } from "../time/instants";
import { countingTotals } from "./late";

const due = Date.parse("2026-11-25T12:00:00Z");
const totals = (after: number, change: Partial<Parameters<typeof countingTotals>[0]> = {}) => {
  const { earned, awaited, daysLate, lateWords } = countingTotals({
    earned: "12",
    awaited: "0",
    maximum: "20",
    handedInAt: due + after,
    due,
    costPerDay: 10,
    ...change,
  });
  return [written(earned), written(awaited), daysLate, lateWords];
};

test("in time costs nothing, and neither does work without a due time", () => {
  expect(totals(0)).toEqual(["12", "0", 0, null]);
  expect(totals(9 * DAY, { due: null })).toEqual(["12", "0", 0, null]);
});

test("each started day costs its share of the maximum", () => {
  expect(totals(1)).toEqual(["10", "0", 1, "1 day late: 10 % of the maximum (2 marks) is lost"]);
  expect(totals(DAY + HOUR)).toEqual(["8", "0", 2, "2 days late: 20 % of the maximum (4 marks) is lost"]);
});

test("never below zero, and never more than everything", () => {
  expect(totals(7 * DAY)).toEqual(["0", "0", 7, "7 days late: 70 % of the maximum (14 marks) is lost"]);
  expect(totals(12 * DAY)).toEqual(["0", "0", 12, "12 days late: 100 % of the maximum (20 marks) is lost"]);
});

test("what waits is counted at the most that it can bring after the cost", () => {
  expect(totals(1, { earned: "1", awaited: "8" })).toEqual(["0", "7", 1, expect.stringMatching(/./)]);
  expect(totals(1, { earned: "5", awaited: "8" })).toEqual(["3", "8", 1, expect.stringMatching(/./)]);
});

test("late without a cost is said all the same", () => {
  expect(totals(1, { costPerDay: null })).toEqual(["12", "0", 1, "late"]);
});
