import { expect, test } from "vitest";
import { exact, written } from "../numbers/exact";
import { classSteps, medianOf } from "./class-marks";

const shares = (...all: string[]) => all.map((each) => exact(each));

test("four marks are not shown, five are", () => {
  expect(classSteps(shares("1", "1/2", "1/3", "0"), exact(1))).toBeNull();
  const steps = classSteps(shares("1", "1/2", "1/3", "0", "19/20"), exact("19/20"));
  expect(steps?.map(({ count }) => count)).toEqual([1, 0, 0, 1, 0, 1, 0, 0, 0, 2]);
  expect(steps?.filter(({ own }) => own).map(({ from, to }) => [from, to])).toEqual([[90, 100]]);
});

test("a tenth begins with its own figure, and full marks are in the last one", () => {
  const steps = classSteps(shares("1/10", "1/10", "1/10", "1", "1"), exact("1/10"));
  expect(steps?.[0]?.count).toBe(0);
  expect(steps?.[1]).toEqual({ from: 10, to: 20, count: 3, own: true });
  expect(steps?.[9]?.count).toBe(2);
});

test("the median is the middle one, or the mean of the two in the middle", () => {
  expect(written(medianOf(shares("1", "0", "1/2")))).toEqual("1/2");
  expect(written(medianOf(shares("1", "0", "1/2", "1/4")))).toEqual("3/8");
});
