import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { KEY } from "../quiz/contradictions";
import { REVEALED, type Revealed, type RevealRules, type RevealWhen } from "../quiz/rules";
import { DAY, GRACE, HOUR } from "../time/instants";
import { type GroupMoments, lastAttemptsEnd, type RevealFacts, revealNow, shownByClock } from "./reveal";

const noon = Date.parse("2026-11-25T12:00:00Z");
const group: GroupMoments = {
  due: noon + DAY,
  closes: noon + 2 * DAY,
  writesUntil: null,
  mayStart: false,
};
const facts: RevealFacts = {
  now: noon,
  handedInAt: noon,
  group,
  returnedAt: null,
  laterRuns: false,
  attemptsLeft: false,
  takeBackUntil: null,
  zone: "Europe/London",
};
const rules = (right: RevealWhen, more: Partial<RevealRules> = {}): RevealRules => ({
  total: "at-hand-in",
  marks: "at-hand-in",
  written: "at-hand-in",
  right,
  worked: "never",
  ...more,
});
interface Change extends Partial<Omit<RevealFacts, "group">> {
  readonly group?: Partial<GroupMoments>;
}
const told = (what: Revealed, own: RevealRules, change: Change = {}) =>
  revealNow(own, { ...facts, ...change, group: { ...group, ...change.group } })[what];
const right = (when: RevealWhen, change: Change = {}, more: Partial<RevealRules> = {}) =>
  told("right", rules(when, more), change);

test.each([
  ["at-hand-in", noon, true],
  // Late work is taken until closing: till then its writers must not know.
  ["after-due", noon + DAY, false],
  ["after-due", noon + 2 * DAY - 1, false],
  ["after-due", noon + 2 * DAY, true],
  ["after-closing", noon + 2 * DAY - 1, false],
  ["after-closing", noon + 2 * DAY, true],
  ["when-returned", noon + 9 * DAY, false],
  ["never", noon + 9 * DAY, false],
] as const)("right answers, %s, at %d", (when, now, shows) =>
  expect(right(when, { now }).visible).toBe(shows),
);

test("what gives no answer away comes at the due time itself", () => {
  const own = rules("never", { total: "after-due" });
  expect(told("total", own, { now: noon + DAY - 1 }).visible).toBe(false);
  expect(told("total", own, { now: noon + DAY }).visible).toBe(true);
});

test("on a date, but not while anyone may still write", () => {
  const on = { on: new Date(noon + 3 * DAY).toISOString() };
  expect(right(on)).toEqual({ visible: false, isNever: false, when: "after Sat 28 Nov, 12:00" });
  expect(right(on, { now: noon + 3 * DAY }).visible).toBe(true);
  const early = { on: new Date(noon + HOUR).toISOString() };
  expect(right(early, { now: noon + HOUR }).visible).toBe(false);
  expect(right(early, { now: noon + 2 * DAY }).visible).toBe(true);
});

test("returned is returned, whatever the clock says", () => {
  expect(right("when-returned", { returnedAt: noon }).visible).toBe(true);
});

describe("nobody sees a key while anyone may still write", () => {
  const end = noon + 2 * DAY;
  test("a running attempt, its moved deadline and the grace", () => {
    const writing = { now: end, group: { writesUntil: end + HOUR } };
    for (const when of ["after-due", "after-closing"] as const) {
      expect(right(when, writing).visible).toBe(false);
      expect(right(when, { ...writing, now: end + HOUR + GRACE - 1 }).visible).toBe(false);
      expect(right(when, { ...writing, now: end + HOUR + GRACE }).visible).toBe(true);
    }
  });

  test("a running attempt without an end, or a hand-in that may be taken back for good: not yet, whatever the clock says", () => {
    const endless = { now: noon + 999 * DAY, group: { writesUntil: Number.POSITIVE_INFINITY } };
    expect(right("after-due", endless)).toEqual({
      visible: false,
      isNever: false,
      when: "once nobody can write in it any more",
    });
    expect(right("after-closing", endless).visible).toBe(false);
  });

  test("a quiz that never closes has no after closing; after its due time only once nobody may start", () => {
    const open = { now: noon + 9 * DAY, group: { closes: null, mayStart: true } };
    expect(right("after-closing", open)).toEqual({
      visible: false,
      isNever: false,
      when: "not shown: this quiz does not close",
    });
    expect(right("after-due", open).visible).toBe(false);
    const used = { ...open, group: { closes: null, mayStart: false } };
    expect(right("after-due", used).visible).toBe(true);
    expect(right("after-closing", used).visible).toBe(false);
  });

  test("own later attempts: only where the rules say so in so many words, and never while one runs", () => {
    expect(right("at-hand-in", { attemptsLeft: true }).visible).toBe(false);
    expect(right("when-returned", { attemptsLeft: true, returnedAt: noon }).visible).toBe(false);
    const said = { laterAttemptsKnow: true };
    expect(right("at-hand-in", { attemptsLeft: true }, said).visible).toBe(true);
    const running = { attemptsLeft: true, laterRuns: true };
    expect(right("at-hand-in", running, said)).toEqual({
      visible: false,
      isNever: false,
      when: "once you have handed in the attempt that runs",
    });
    expect(told("written", rules("never"), running).visible).toBe(false);
    expect(told("total", rules("never"), running).visible).toBe(true);
  });

  test("a hand-in that may be taken back still writes: nothing that tells right from wrong", () => {
    const back = { takeBackUntil: noon + HOUR };
    for (const what of ["total", "marks", "right"] as const) {
      expect(told(what, rules("at-hand-in"), back).visible).toBe(false);
      expect(told(what, rules("at-hand-in"), { ...back, now: noon + HOUR }).visible).toBe(true);
    }
    expect(told("written", rules("at-hand-in"), back).visible).toBe(true);
    expect(right("at-hand-in", { takeBackUntil: Number.POSITIVE_INFINITY }).when).toEqual(
      "once it can no longer be taken back",
    );
  });

  test("whatever the facts are: a key by the clock is shown only when all of them are over", () => {
    const instant = fc.option(fc.integer({ min: -5, max: 5 }).map((hours) => noon + hours * HOUR));
    const when = fc.constantFrom<RevealWhen>("after-due", "after-closing", {
      on: new Date(noon).toISOString(),
    });
    fc.assert(
      fc.property(
        fc.record({ due: instant, closes: instant, writesUntil: instant, mayStart: fc.boolean() }),
        when,
        fc.boolean(),
        (moments, rule, attemptsLeft) => {
          const own = rules(rule, { worked: rule });
          const seen = revealNow(own, { ...facts, group: moments, attemptsLeft });
          for (const what of KEY) {
            if (!seen[what].visible) continue;
            expect(attemptsLeft).toBe(false);
            expect(moments.due ?? noon).toBeLessThanOrEqual(noon);
            expect(moments.closes ?? noon).toBeLessThanOrEqual(noon);
            expect(moments.closes !== null || !moments.mayStart).toBe(true);
            expect((moments.writesUntil ?? Number.NEGATIVE_INFINITY) + GRACE).toBeLessThanOrEqual(noon);
            if (rule === "after-closing") expect(moments.closes).not.toBeNull();
          }
        },
      ),
      { numRuns: 5_000 },
    );
  });
});

test("only after the last attempt", () => {
  const last = { onlyAfterLastAttempt: true };
  expect(right("at-hand-in", { attemptsLeft: true }, last)).toEqual({
    visible: false,
    isNever: false,
    when: "once no attempt is left to you",
  });
  expect(right("at-hand-in", { attemptsLeft: false }, last).visible).toBe(true);
});

test("what is not shown says when it will be", () => {
  expect(right("after-due").when).toEqual("after Fri 27 Nov, 12:00");
  expect(right("when-returned").when).toEqual("when your instructor returns it");
  expect(right("never").when).toEqual("not shown");
});

test("what the clock comes to show to everybody: in a span of time, the end belonging to it", () => {
  const shown = (when: RevealWhen, from: number, now: number) =>
    shownByClock(rules(when, { total: "after-due" }), from, now, group);
  expect(shown("after-closing", noon, noon + DAY - 1)).toEqual([]);
  expect(shown("after-closing", noon, noon + DAY)).toEqual(["total"]);
  expect(shown("after-closing", noon + DAY, noon + 2 * DAY)).toEqual(["right"]);
  const on = { on: new Date(noon + 3 * DAY).toISOString() };
  expect(shown(on, noon, noon + 3 * DAY)).toEqual(["total", "right"]);
  expect(shown("when-returned", noon + DAY, noon + 9 * DAY)).toEqual([]);
  expect(REVEALED.length).toBe(5);
});

test("the attempts that are left end with the closing, and with the last one that is still written", () => {
  const end = (onlyAfterLastAttempt: boolean, change: Partial<GroupMoments> = {}) =>
    lastAttemptsEnd({ onlyAfterLastAttempt }, { ...group, ...change });
  expect(end(true)).toBe(noon + 2 * DAY);
  expect(end(true, { writesUntil: noon + 3 * DAY })).toBe(noon + 3 * DAY + GRACE);
  expect(end(true, { closes: null })).toBeNull();
  expect(end(false)).toBeNull();
});
