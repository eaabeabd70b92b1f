import { describe, expect, test } from "vitest";
import type { SlotAccess } from "@/core/attempt/order";
import type { DeskOrder } from "@/core/desk/desk-view";
import type { Fill } from "@/core/kinds/kind";
import type { Told } from "@/core/reveal/told";
import { saveWords } from "../keeping/save-words";
import { type DeskState, finishing, goingTo, leavingWords, type SlotOnScreen, withPages } from "./desk-state";
import { entryWords } from "./entry-words";

const FILLS: { readonly [S in Fill["state"]]: Fill } = {
  full: { state: "full", words: "answered" },
  part: { state: "part", words: "1 of 2 picked" },
  empty: { state: "empty", words: "empty" },
};
const TOLD: Told = { state: "none", marks: "0", maximum: "1", parts: [] };

const slot = (
  access: SlotAccess,
  fill: Fill["state"] = "empty",
  change: Partial<SlotOnScreen> = {},
): SlotOnScreen => ({
  access,
  question: null,
  answer: null,
  ribbon: false,
  ruledOut: [],
  fill: FILLS[fill],
  told: null,
  tries: null,
  isDeclaration: false,
  saved: true,
  elsewhere: null,
  keyed: null,
  ...change,
});

const state = (slots: readonly SlotOnScreen[], change: Partial<DeskState> = {}): DeskState => ({
  slots,
  here: 1,
  look: "question",
  page: 0,
  asking: null,
  busy: null,
  problem: null,
  pictures: [],
  messages: [],
  files: [],
  sending: { kind: "idle" },
  savedAt: null,
  unreachableSince: null,
  allSaved: true,
  keepsOnDevice: true,
  startedAt: 0,
  deadline: null,
  moved: null,
  phase: { kind: "running" },
  refusals: [],
  isOpenElsewhere: false,
  isClockSure: true,
  ...change,
});

const order = (change: Partial<DeskOrder> = {}): DeskOrder => ({
  rule: "free",
  pages: [[1], [2], [3]],
  answerFirst: false,
  tellAtOnce: false,
  byServer: false,
  ...change,
});

describe("going to a question", () => {
  test("in free order it is a matter of this device", () => {
    expect(goingTo(state([slot("open"), slot("open"), slot("open")]), order(), 3)).toEqual({ kind: "here" });
  });

  const oneWay = order({ rule: "one-way", byServer: true });

  test("one way the server turns the page; what is empty is said before", () => {
    const slots = [slot("open"), slot("ahead"), slot("ahead")];
    expect(goingTo(state(slots), oneWay, 2)).toEqual({
      kind: "turn",
      from: 0,
      to: 1,
      words: "Question 1 closes when you move on, and cannot be opened again. Still empty: 1.",
    });
    expect(goingTo(state([slot("open", "full"), ...slots.slice(1)]), oneWay, 2)).toMatchObject({
      words: null,
    });
  });

  test("one way neither back nor over, with the reason in words", () => {
    const slots = [slot("closed", "full"), slot("open"), slot("ahead")];
    const at = state(slots, { here: 2, page: 1 });
    expect(goingTo(at, oneWay, 1)).toEqual({
      kind: "not",
      words: "Question 1 is closed: this quiz goes one way.",
    });
    expect(goingTo(state([slot("open"), slot("ahead"), slot("ahead")]), oneWay, 3)).toMatchObject({
      kind: "not",
    });
  });

  test("on from what was told, nothing is turned a second time", () => {
    const slots = [slot("closed", "full", { told: TOLD }), slot("open"), slot("ahead")];
    expect(goingTo(state(slots, { page: 1 }), order({ ...oneWay, tellAtOnce: true }), 2)).toEqual({
      kind: "here",
    });
  });

  test("with an answer asked for first, what is before is named", () => {
    const rule = order({ rule: "up-to", byServer: true, answerFirst: true });
    const slots = [slot("open"), slot("ahead"), slot("ahead")];
    expect(goingTo(state(slots), rule, 2)).toMatchObject({
      kind: "not",
      words: expect.stringContaining("Question 1 is not complete"),
    });
    expect(goingTo(state(slots), rule, 3)).toEqual({
      kind: "not",
      words: "Question 3 opens when the questions before it are answered.",
    });
    expect(goingTo(state([slot("open", "full"), ...slots.slice(1)]), rule, 2)).toMatchObject({
      kind: "turn",
      words: null,
    });
  });

  test("in free order, leaving an answered question tells it; an empty one stays open", () => {
    const telling = order({ byServer: true, tellAtOnce: true });
    expect(goingTo(state([slot("open", "full"), slot("open"), slot("open")]), telling, 3)).toMatchObject({
      kind: "turn",
      to: 2,
    });
    expect(goingTo(state([slot("open"), slot("open"), slot("open")]), telling, 3)).toEqual({ kind: "here" });
  });

  test("on the last page the final look waits for what is told of it", () => {
    const telling = order({ rule: "one-way", byServer: true, tellAtOnce: true });
    const slots = [slot("closed"), slot("closed"), slot("open", "full")];
    expect(finishing(state(slots, { here: 3, page: 2 }), telling)).toMatchObject({
      kind: "turn",
      from: 2,
      to: 3,
    });
    expect(finishing(state(slots, { here: 3, page: 2 }), order())).toEqual({ kind: "here" });
  });
});

test("what leaving does is said beside the way on, only where it does something", () => {
  const slots = [slot("open", "full"), slot("open")];
  expect(leavingWords(state(slots), order())).toBeNull();
  expect(leavingWords(state(slots), order({ tellAtOnce: true }))).toBe(
    "When you move on, an answered question says whether it is right, and closes.",
  );
  expect(leavingWords(state(slots), order({ rule: "one-way" }))).toContain("Question 1 closes");
  expect(leavingWords(state([slot("closed")]), order({ rule: "one-way" }))).toBeNull();
});

test("what was just told stays on the screen until the student goes on; what is closed for good leaves the device", () => {
  const question = { kind: "true-or-false" } as unknown as SlotOnScreen["question"];
  const before = state([slot("open", "full", { question }), slot("open", "full", { question })]);
  const pages = {
    progress: {
      page: 1,
      slots: [
        {
          access: "closed" as const,
          question: null,
          fill: FILLS.full,
          told: TOLD,
          tries: null,
          isDeclaration: false,
        },
        {
          access: "closed" as const,
          question: null,
          fill: FILLS.full,
          told: null,
          tries: null,
          isDeclaration: false,
        },
      ],
    },
    answers: [],
    pictures: [],
  };
  const after = withPages(
    { ...before, slots: before.slots.map((each) => ({ ...each, question: null })) },
    pages,
    new Map(),
    () => true,
    [1, 2],
  );
  expect(after.page).toBe(1);
  expect(after.slots.map((each) => each.access)).toEqual(["closed", "closed"]);
  expect(after.slots.map((each) => each.question)).toEqual([null, null]);
});

test.each([
  [slot("open"), "Question 4, empty"],
  [slot("open", "part"), "Question 4, 1 of 2 picked"],
  [
    slot("open", "full", { ribbon: true, saved: false }),
    "Question 4, answered, with a ribbon, not on the server yet",
  ],
  [slot("closed", "full", { told: TOLD }), "Question 4, answered, not right, closed"],
  [slot("ahead"), "Question 4, not open yet"],
])("a question of the row in words: %#", (record, words) => {
  expect(entryWords(4, record, false)).toBe(words);
  expect(entryWords(4, record, true)).toBe(words.replace("4,", "4, here,"));
});

describe("the save state in words", () => {
  const at = Date.UTC(2026, 10, 25, 10, 42, 7);
  const words = (change: Partial<DeskState>) => saveWords(state([], change), "Europe/London");

  test.each([
    [{ savedAt: null }, "safe", "Nothing to save yet"],
    [{ savedAt: at }, "safe", "All saved 10:42:07"],
    [{ allSaved: false }, "working", "Saving"],
    [
      { unreachableSince: at, allSaved: false },
      "waiting",
      "Kept on this device, no connection since 10:42:07",
    ],
    [
      { unreachableSince: at, keepsOnDevice: false, allSaved: false },
      "refused",
      "Not saved, no connection since 10:42:07. Leave this page open.",
    ],
  ] as const)("%j", (change, mood, said) => {
    expect(words(change)).toEqual({ mood, words: said });
  });

  test("a file on its way is told with its share, and one that waits by its name", () => {
    const file = { id: "f", slot: 1, name: "page.png", size: 200, sent: 50, problem: null };
    expect(words({ files: [{ ...file, state: "sending" }] }).words).toBe("Sending “page.png”, 25 %");
    expect(words({ files: [{ ...file, state: "unreachable" }] })).toEqual({
      mood: "waiting",
      words: "“page.png” waits for the connection",
    });
  });

  test("a refusal and an ended session say so before anything else", () => {
    expect(words({ sending: { kind: "signed-out" }, unreachableSince: at }).words).toBe(
      "Not saved yet: signed out",
    );
    expect(
      words({ sending: { kind: "refused", sentence: "Question 1 is closed." } as DeskState["sending"] })
        .words,
    ).toBe("Not saved: Question 1 is closed.");
  });
});
