import { expect, test } from "vitest";
import { attemptsAllowed, attemptsLeft, attemptsRemain } from "./attempts-left";

test.each([
  [2, 0, 2],
  [2, 1, 3],
  [null, 1, null],
  [undefined, 0, null],
])("of %s attempts with %s more, %s are allowed", (ofQuiz, extraAttempts, allowed) => {
  expect(attemptsAllowed(ofQuiz, { extraAttempts })).toBe(allowed);
});

test.each([
  [3, 1, 2],
  [3, 3, 0],
  // The allowance was taken back afterwards.
  [1, 2, 0],
  [null, 40, null],
])("of %s allowed and %s used, %s are left", (allowed, used, left) => {
  expect(attemptsLeft(allowed, used)).toBe(left);
});

const terms = { running: false, left: 1, assigned: true, closes: 100, now: 99 };

test.each([
  [{}, true],
  [{ now: 100 }, false],
  [{ left: 0 }, false],
  [{ left: null }, true],
  [{ closes: null }, true],
  [{ assigned: false }, false],
  // The last attempt is used, and closing may be past: but it is still being written.
  [{ running: true, left: 0 }, true],
  [{ running: true, left: 0, now: 100 }, true],
])("with %o a student may still write: %s", (change, remain) => {
  expect(attemptsRemain({ ...terms, ...change })).toBe(remain);
});
