import { expect, test } from "vitest";
import { exact, shown } from "../numbers/exact";
import { countedMark } from "./counts";

const mark = (earned: number, awaited = 0, maximum = 20) => ({
  earned: exact(earned),
  awaited: exact(awaited),
  maximum: exact(maximum),
});
const counted20 = (rule: Parameters<typeof countedMark>[0], attempts: ReturnType<typeof mark>[]) =>
  countedMark(rule, attempts, exact(20));
const range = (rule: Parameters<typeof countedMark>[0], attempts: ReturnType<typeof mark>[]) => {
  const counted = counted20(rule, attempts);
  return counted && `${shown(counted.low)}..${shown(counted.high)}`;
};

test("while marks are awaited, the mark is a range", () => {
  expect(range("best", [mark(12, 8), mark(15)])).toEqual("15..20");
  expect(range("latest", [mark(15), mark(12, 8)])).toEqual("12..20");
  expect(range("mean", [mark(15), mark(12, 8)])).toEqual("13.5..17.5");
  expect(range("first", [mark(15), mark(12, 8)])).toEqual("15..15");
});

test("which attempt counts is told where it can be", () => {
  expect(counted20("best", [mark(12), mark(15), mark(15)])?.attempt).toBe(1);
  expect(counted20("best", [mark(12, 8), mark(15)])?.attempt).toBeNull();
  expect(counted20("latest", [mark(12), mark(15)])?.attempt).toBe(1);
  expect(counted20("best", [])).toBeNull();
});

test("an attempt counts by its share of its own maximum: versions differ, and questions are dropped", () => {
  // 16 of 18 are more than 17 of 20; both are told out of 20.
  expect(range("best", [mark(17), mark(16, 0, 18)])).toEqual("17.78..17.78");
  expect(counted20("best", [mark(17), mark(16, 0, 18)])?.attempt).toBe(1);
  expect(range("mean", [mark(10), mark(9, 0, 18)])).toEqual("10..10");
  expect(range("latest", [mark(9, 0, 0)])).toEqual("0..0");
});
