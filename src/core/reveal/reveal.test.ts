import { expect, test } from "vitest";
import type { RevealRules } from "../quiz/rules";
import { DAY, HOUR } from "../time/instants";
import { lastAttemptsEnd, type RevealFacts, revealNow, shownByClock } from "./reveal";

const noon = Date.parse("2026-11-25T12:00:00Z");
const facts: RevealFacts = {
  now: noon,
  handedInAt: noon,
  groupDue: noon + DAY,
  groupCloses: noon + 2 * DAY,
  groupStillWritesUntil: null,
  returnedAt: null,
  attemptsLeft: false,
  zone: "Europe/London",
};
const rules = (right: RevealRules["right"], onlyAfterLastAttempt = false): RevealRules => ({
  total: "at-hand-in",
  marks: "at-hand-in",
  written: "at-hand-in",
  right,
  worked: "never",
  onlyAfterLastAttempt,
});
const visible = (rule: RevealRules["right"], change: Partial<RevealFacts> = {}, last = false) =>
  revealNow(rules(rule, last), { ...facts, ...change }).right;

test.each([
  ["at-hand-in", noon, true],
  ["after-due", noon + DAY - 1, false],
  ["after-due", noon + DAY, true],
  ["after-closing", noon + 2 * DAY - 1, false],
  ["after-closing", noon + 2 * DAY, true],
  ["when-returned", noon + 9 * DAY, false],
  ["never", noon + 9 * DAY, false],
] as const)("%s at %d", (rule, now, shows) => expect(visible(rule, { now }).visible).toBe(shows));

test("on a date", () => {
  const on = new Date(noon + HOUR).toISOString();
  expect(visible({ on }).visible).toBe(false);
  expect(visible({ on }).when).toBe("after Wed 25 Nov, 13:00");
  expect(visible({ on }, { now: noon + HOUR }).visible).toBe(true);
});

test("returned is returned, whatever the clock says", () => {
  expect(visible("when-returned", { returnedAt: noon }).visible).toBe(true);
});

test("nobody sees a key while anyone may still write", () => {
  const change = { now: noon + 2 * DAY, groupStillWritesUntil: noon + 2 * DAY + HOUR };
  expect(visible("after-closing", change).visible).toBe(false);
  expect(visible("after-closing", { ...change, now: noon + 2 * DAY + HOUR }).visible).toBe(true);
});

test("only after the last attempt", () => {
  expect(visible("at-hand-in", { attemptsLeft: true }, true)).toEqual({
    visible: false,
    when: "once no attempt is left to you",
  });
  expect(visible("at-hand-in", { attemptsLeft: false }, true).visible).toBe(true);
});

test("what is not shown says when it will be", () => {
  expect(visible("after-due").when).toBe("after Thu 26 Nov, 12:00");
  expect(visible("when-returned").when).toBe("when your instructor returns it");
  expect(visible("never").when).toBe("not shown");
});

test("what the clock comes to show to everybody: in a span of time, the end belonging to it", () => {
  const shown = (right: RevealRules["right"], from: number, now: number) =>
    shownByClock({ ...rules(right), total: "after-due" }, from, { ...facts, now });
  expect(shown("after-closing", noon, noon + DAY - 1)).toEqual([]);
  expect(shown("after-closing", noon, noon + DAY)).toEqual(["total"]);
  expect(shown("after-closing", noon + DAY, noon + 2 * DAY)).toEqual(["right"]);
  expect(shown({ on: new Date(noon + HOUR).toISOString() }, noon, noon + DAY)).toEqual(["total", "right"]);
  expect(shown("when-returned", noon + DAY, noon + 9 * DAY)).toEqual([]);
});

test("the attempts that are left end with the closing, and with the last one that is still written", () => {
  const end = (last: boolean, change: Partial<RevealFacts> = {}) =>
    lastAttemptsEnd(rules("at-hand-in", last), { ...facts, ...change });
  expect(end(true)).toBe(noon + 2 * DAY);
  expect(end(true, { groupStillWritesUntil: noon + 3 * DAY })).toBe(noon + 3 * DAY);
  expect(end(true, { groupCloses: null })).toBeNull();
  expect(end(false)).toBeNull();
});
