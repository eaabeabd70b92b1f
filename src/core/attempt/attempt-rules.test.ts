import { describe, expect, test } from "vitest";
import { deliveryOf, lateChanges } from "../journal/late-writing";
import { exact, written } from "../numbers/exact";
import type { Said } from "../said";
import { DAY, HOUR, MINUTE, SECOND } from "../time/instants";
import { afterLateCost, daysLate } from "./late";
import { quizStatus } from "./quiz-state";
import { lockedWords, rulingOnStart } from "./start-rules";
import { rulingOnTakeBack } from "./take-back";
import { windowFor, windowState } from "./window";

const noon = Date.parse("2026-11-25T12:00:00Z");
const zone = "Europe/London";

describe("the window", () => {
  const window = { opens: noon, due: noon + HOUR, closes: noon + 2 * HOUR };
  test.each([
    [-1, "before"],
    [0, "open"],
    [HOUR, "open"],
    [HOUR + 1, "late"],
    [2 * HOUR - 1, "late"],
    [2 * HOUR, "closed"],
  ])("%d ms after opening: %s", (after, state) => expect(windowState(window, noon + after)).toBe(state));
  test("open ends", () => {
    expect(windowState({ opens: null, due: null, closes: null }, noon)).toEqual("open");
    expect(windowState({ opens: null, due: noon, closes: null }, noon + 9 * DAY)).toEqual("late");
  });
  test("a student's own window stands in for the quiz's, end by end", () => {
    expect(windowFor(window, { opens: null, due: null, closes: noon + DAY })).toEqual({
      ...window,
      closes: noon + DAY,
    });
  });
});

describe("starting", () => {
  const open = {
    window: { opens: null, due: null, closes: null },
    now: noon,
    zone,
    allowed: 3,
    used: 1,
    running: null,
  };
  const first = { title: "Part one", handedIn: true, atLeast: null, reached: null };
  test("another quiz first", () => {
    expect(rulingOnStart({ ...open, first: { ...first, handedIn: false } })).toMatchObject({
      refusal: { rule: "another-first", words: "Hand in “Part one” first." },
    });
    expect(rulingOnStart({ ...open, first }).may).toEqual("start");
    const asked = { ...first, atLeast: 60, reached: exact("59.99") };
    expect(rulingOnStart({ ...open, first: asked })).toMatchObject({
      refusal: { words: "At least 60 % in “Part one” are asked for first; you have 59.99 % so far." },
    });
    expect(rulingOnStart({ ...open, first: { ...asked, reached: exact(60) } }).may).toEqual("start");
    expect(rulingOnStart({ ...open, first: { ...asked, reached: null } })).toMatchObject({
      refusal: { words: expect.stringContaining("it is not marked yet") },
    });
  });
  test("a quiz that another one locks says which, in lists too", () => {
    const standing = (locked: Said | null, attempts: Parameters<typeof quizStatus>[0]["attempts"] = []) =>
      quizStatus({
        window: { opens: null, due: null, closes: null },
        now: noon,
        allowed: 1,
        attempts,
        locked,
      });
    const part = { title: "Part one", handedIn: false, atLeast: null, reached: null };
    expect(standing(lockedWords(part))).toEqual({
      state: "locked",
      mayStart: false,
      words: "locked: hand in “Part one” first",
    });
    expect(standing(lockedWords({ ...part, handedIn: true }))).toMatchObject({
      state: "ready",
      mayStart: true,
    });
    expect(lockedWords({ ...part, handedIn: true, atLeast: 60, reached: exact(59) })).toEqual(
      "At least 60 % in “Part one” are asked for first; you have 59 % so far.",
    );
  });

  test("the wait between attempts", () => {
    const waiting = { ...open, waitBetween: 30, lastHandIn: noon - 10 * MINUTE };
    expect(rulingOnStart(waiting)).toMatchObject({ refusal: { rule: "wait", from: noon + 20 * MINUTE } });
    expect(rulingOnStart({ ...waiting, now: noon + 20 * MINUTE }).may).toEqual("start");
  });
});

describe("taking back", () => {
  const terms = {
    allowed: true,
    handedInBy: "student",
    now: noon,
    due: noon + HOUR,
    added: 0,
    deadline: noon + MINUTE,
    returned: false,
    zone,
  } as const;
  test("before the due time and the deadline, if the quiz allows it", () => {
    expect(rulingOnTakeBack(terms)).toEqual({ may: true });
  });
  test.each([
    [{ allowed: false }, "final"],
    [{ handedInBy: "clock" }, "not-by-you"],
    [{ handedInBy: null }, "running"],
    [{ now: noon + MINUTE }, "time-is-up"],
    [{ deadline: null, now: noon + HOUR }, "past-due"],
    [{ returned: true }, "returned"],
  ] as const)("with %j it is refused: %s", (change, rule) => {
    expect(rulingOnTakeBack({ ...terms, ...change })).toMatchObject({
      may: false,
      rule,
      words: expect.stringMatching(/\.$/),
    });
  });
});

describe("lateness", () => {
  test.each([
    [0, 0],
    [1, 1],
    [DAY, 1],
    [DAY + 1, 2],
  ])("%d ms after the due time is %d days late", (after, days) => {
    expect(daysLate(noon + after, noon)).toBe(days);
    expect(daysLate(noon + after, null)).toBe(0);
  });
  test("costs per cent of the maximum for each started day, never below zero", () => {
    expect(written(afterLateCost(exact(15), exact(20), 2, 10))).toEqual("11");
    expect(written(afterLateCost(exact(3), exact(20), 2, 10))).toEqual("0");
    expect(written(afterLateCost(exact(15), exact(20), 1, "10/3"))).toEqual("43/3");
  });
});

describe("late writing", () => {
  test("what reaches the server within 5 s of the deadline is saved; later, what was written before it is kept apart", () => {
    expect(deliveryOf({ writtenAt: noon + SECOND }, noon + 5 * SECOND, noon)).toEqual("saved");
    expect(deliveryOf({ writtenAt: noon }, noon + 6 * SECOND, noon)).toEqual("late-writing");
    expect(deliveryOf({ writtenAt: noon + 1 }, noon + 6 * SECOND, noon)).toEqual("refused");
    expect(deliveryOf({ writtenAt: noon + DAY }, noon + 2 * DAY, null)).toEqual("saved");
  });

  test("it would change only the slots in which it is newer than what was handed in", () => {
    const entry = (slot: number, writtenAt: number, answer: string) => ({
      slot,
      writtenAt,
      answer,
      ribbon: false,
      ruledOut: [],
      revision: 1,
      device: "a",
    });
    const handedIn = new Map([
      [1, entry(1, 10, "in")],
      [2, entry(2, 10, "in")],
    ]);
    const changes = lateChanges(handedIn, [
      entry(1, 9, "older"),
      entry(2, 11, "newer"),
      entry(2, 12, "newest"),
      entry(3, 1, "new"),
    ]);
    expect([...changes.values()].map((each) => `${each.slot} ${each.answer}`)).toEqual(["2 newest", "3 new"]);
  });
});
