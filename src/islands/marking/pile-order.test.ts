import { expect, test } from "vitest";
import type { PileLine } from "@/core/desk/room-view";
import { beside, keyOf, nextWaiting, type PileFilter, shownLines } from "./pile-order";

const line = (paper: number, more: Partial<PileLine> = {}): PileLine => ({
  paper,
  slot: 1,
  question: "why",
  size: "",
  state: "awaits",
  marks: null,
  maximum: "6",
  name: null,
  late: null,
  lateWriting: false,
  openAt: null,
  mine: false,
  sections: [],
  ...more,
});
const filter: PileFilter = { question: "why", show: "all", section: null };
const papers = (lines: readonly PileLine[]) => lines.map(({ paper }) => paper);

const lines = [
  line(3, { state: "marked" }),
  line(5, { late: "1 day late", sections: ["a"] }),
  line(8, { openAt: "Yuna Petrides" }),
  line(9, { question: "page", slot: 2 }),
  line(12, { mine: true, lateWriting: true }),
];
const pile = { lines, byStudent: false };

test("one question across students, or all answers of each student", () => {
  expect(papers(shownLines(pile, filter))).toEqual([3, 5, 8, 12]);
  expect(papers(shownLines({ lines, byStudent: true }, filter))).toEqual([3, 5, 8, 9, 12]);
});

test("what is looked at: awaiting, late, one's own, a section", () => {
  const shown = (change: Partial<PileFilter>) => papers(shownLines(pile, { ...filter, ...change }));
  expect(shown({ show: "waiting" })).toEqual([5, 8, 12]);
  expect(shown({ show: "late" })).toEqual([5, 12]);
  expect(shown({ show: "mine" })).toEqual([12]);
  expect(shown({ section: "a" })).toEqual([5]);
});

test("the next that awaits leaves out what others have open, and goes round once", () => {
  const next = (paper: number, at = pile) => nextWaiting({ pile: at, filter }, { paper, slot: 1 })?.paper;
  expect(next(3)).toBe(5);
  expect(next(5)).toBe(12);
  expect(next(12)).toBe(5);
  const last = { lines: [line(1), line(2, { state: "marked" })], byStudent: false };
  // What is on the screen is not the next one.
  expect(next(1, last)).toBeUndefined();
});

test("in a list of what waits, the next is the one after where the marked one stood", () => {
  const marked = {
    ...pile,
    lines: lines.map((each) => (each.paper === 5 ? { ...each, state: "marked" as const } : each)),
  };
  expect(
    nextWaiting({ pile: marked, filter: { ...filter, show: "waiting" } }, { paper: 5, slot: 1 })?.paper,
  ).toBe(12);
});

test("beside, one step at a time, and not over the ends", () => {
  const step = (paper: number, by: 1 | -1) => beside({ pile, filter }, { paper, slot: 1 }, by)?.paper;
  expect([step(3, -1), step(3, 1), step(12, 1)]).toEqual([undefined, 5, undefined]);
  expect(keyOf({ paper: 3, slot: 1 })).toBe("3 1");
});
