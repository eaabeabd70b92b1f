import { expect, test } from "vitest";
import { exact, shown } from "../numbers/exact";
import { countedMark } from "./counts";

const mark = (earned: number, awaited = 0) => ({ earned: exact(earned), awaited: exact(awaited) });
const range = (rule: Parameters<typeof countedMark>[0], attempts: ReturnType<typeof mark>[]) => {
  const counted = countedMark(rule, attempts);
  return counted && `${shown(counted.low)}..${shown(counted.high)}`;
};

test("while marks are awaited, the mark is a range", () => {
  expect(range("best", [mark(12, 8), mark(15)])).toBe("15..20");
  expect(range("latest", [mark(15), mark(12, 8)])).toBe("12..20");
  expect(range("mean", [mark(15), mark(12, 8)])).toBe("13.5..17.5");
  expect(range("first", [mark(15), mark(12, 8)])).toBe("15..15");
});

test("which attempt counts is told where it can be", () => {
  expect(countedMark("best", [mark(12), mark(15), mark(15)])?.attempt).toBe(1);
  expect(countedMark("best", [mark(12, 8), mark(15)])?.attempt).toBeNull();
  expect(countedMark("latest", [mark(12), mark(15)])?.attempt).toBe(1);
  expect(countedMark("best", [])).toBeNull();
});
