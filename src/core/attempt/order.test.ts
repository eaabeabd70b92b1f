import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Fill } from "../kinds/kind";
import type { QuizFile } from "../quiz/quiz-file";
import { closingWords, pagesOf, rulingOnMove, serverTurnsPages, slotAccesses, toldOnLeaving } from "./order";

const full: Fill = { state: "full", words: "answered" };
const part: Fill = { state: "part", words: "1 of 2" };
const empty: Fill = { state: "empty", words: "empty" };
const fills = (...all: Fill[]) => new Map(all.map((fill, i) => [i + 1, fill]));
const pages = [[1, 2], [3], [4, 5]];

test("a question a page, a section a page, all on one page; a drawn section has as many as are drawn", () => {
  const quiz = (paging: "question" | "section" | "all") =>
    ({
      rules: { paging },
      sections: [{ questions: [1, 2, 3], draw: 2 }, { questions: [4] }],
    }) as unknown as QuizFile;
  expect(pagesOf(quiz("question"), 3)).toEqual([[1], [2], [3]]);
  expect(pagesOf(quiz("section"), 3)).toEqual([[1, 2], [3]]);
  expect(pagesOf(quiz("all"), 3)).toEqual([[1, 2, 3]]);
});

describe("where each slot stands", () => {
  test("in free order everything is open, but for what was told", () => {
    const states = slotAccesses({ order: "free", tellAtOnce: true }, pages, {
      page: 1,
      told: new Set([2]),
      checkedOff: new Set(),
    });
    expect([...states.values()]).toEqual(["open", "closed", "open", "open", "open"]);
  });

  test("what was told counts only where the quiz tells at once", () => {
    const states = slotAccesses({ order: "free", tellAtOnce: false }, pages, {
      page: 1,
      told: new Set([1]),
      checkedOff: new Set(),
    });
    expect([...states.values()]).toEqual(["open", "open", "open", "open", "open"]);
  });

  test("one way, what was left is closed and what comes is ahead", () => {
    const states = slotAccesses({ order: "one-way" }, pages, {
      page: 1,
      told: new Set(),
      checkedOff: new Set(),
    });
    expect([...states.values()]).toEqual(["closed", "closed", "open", "ahead", "ahead"]);
  });

  test("with an answer asked for first, what comes is ahead and what was left stays open", () => {
    const rules = { order: "free", answerBeforeMovingOn: true } as const;
    const states = slotAccesses(rules, pages, { page: 1, told: new Set(), checkedOff: new Set() });
    expect([...states.values()]).toEqual(["open", "open", "open", "ahead", "ahead"]);
  });

  test("one way, only one page is ever open, however far an attempt has come", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1, maxLength: 12 }),
        fc.nat(11),
        (sizes, reached) => {
          let next = 0;
          const some = sizes.map((size) => Array.from({ length: size }, () => ++next));
          const page = reached % some.length;
          const states = slotAccesses({ order: "one-way" }, some, {
            page,
            told: new Set(),
            checkedOff: new Set(),
          });
          const open = [...states].filter(([, state]) => state === "open").map(([slot]) => slot);
          expect(open).toEqual(some[page]);
        },
      ),
    );
  });
});

describe("turning pages", () => {
  const move = (
    rules: Parameters<typeof serverTurnsPages>[0],
    from: number,
    to: number,
    all = fills(),
    reached = from,
  ) => rulingOnMove({ rules, from, to, pages, reached, fills: all });

  test("in free order any page may be turned to, and no other", () => {
    expect(move({ order: "free" }, 0, 2).may).toBe(true);
    expect(move({ order: "free" }, 2, 0).may).toBe(true);
    expect(move({ order: "free" }, 0, 3)).toMatchObject({ may: false, rule: "no-page" });
    expect(move({ order: "free" }, 1, 9)).toMatchObject({ may: false, rule: "no-page" });
  });

  test("a move opens one page at most, and only when everything before it is answered", () => {
    const rules = { order: "free", answerBeforeMovingOn: true } as const;
    const all = fills(full, full, full, full, full);
    expect(move(rules, 0, 2, all)).toMatchObject({ may: false, rule: "answer-first" });
    expect(move(rules, 0, 1, all).may).toBe(true);
    // From a page further back, past one that is not complete.
    expect(move(rules, 0, 2, fills(full, full, empty), 1)).toMatchObject({
      may: false,
      rule: "answer-first",
    });
    expect(move(rules, 0, 2, fills(full, full, full), 1).may).toBe(true);
    // Among pages that are open one may go as one likes.
    expect(move(rules, 1, 0, fills(full, full, empty), 1).may).toBe(true);
  });

  test("what checking has closed is closed in any order", () => {
    const states = slotAccesses({ order: "free" }, pages, {
      page: 0,
      told: new Set(),
      checkedOff: new Set([3]),
    });
    expect([...states.values()]).toEqual(["open", "open", "closed", "open", "open"]);
  });

  test("one way neither back nor over a page", () => {
    expect(move({ order: "one-way" }, 1, 2).may).toBe(true);
    expect(move({ order: "one-way" }, 1, 0)).toMatchObject({ may: false, rule: "one-way" });
    expect(move({ order: "one-way" }, 0, 2)).toMatchObject({ may: false, rule: "one-way" });
  });

  test("an answer that is asked for first is named, and going back needs none", () => {
    const rules = { order: "free", answerBeforeMovingOn: true } as const;
    expect(move(rules, 0, 1, fills(full, part))).toMatchObject({
      may: false,
      words: "Question 2 is not complete: 1 of 2; this quiz asks for an answer before moving on.",
    });
    expect(move(rules, 0, 1, fills(empty, part))).toMatchObject({
      words: "Questions 1, 2 are not complete: 2 (1 of 2); this quiz asks for an answer before moving on.",
    });
    expect(move(rules, 0, 1, fills(full, full)).may).toBe(true);
    expect(move(rules, 1, 2, fills(full, full, full)).may).toBe(true);
    expect(move(rules, 1, 0, fills(full, full, empty)).may).toBe(true);
  });

  test("the last page can be left where leaving tells", () => {
    expect(move({ order: "one-way", tellAtOnce: true }, 2, 3).may).toBe(true);
    expect(move({ order: "one-way", tellAtOnce: true }, 1, 3).may).toBe(false);
    expect(move({ order: "one-way" }, 2, 3).may).toBe(false);
  });

  test("leaving tells everything one way, and only what is answered in free order", () => {
    const state = fills(full, part);
    expect(toldOnLeaving({ order: "one-way", tellAtOnce: true }, [1, 2], state)).toEqual([1, 2]);
    expect(toldOnLeaving({ order: "free", tellAtOnce: true }, [1, 2], state)).toEqual([1]);
    expect(toldOnLeaving({ order: "one-way" }, [1, 2], state)).toEqual([]);
  });

  test("the server turns pages only where that does something", () => {
    expect(serverTurnsPages({ order: "free" })).toBe(false);
    expect(serverTurnsPages({ order: "one-way" })).toBe(true);
    expect(serverTurnsPages({ order: "free", tellAtOnce: true })).toBe(true);
    expect(serverTurnsPages({ order: "free", answerBeforeMovingOn: true })).toBe(true);
  });
});

test.each([
  [[1], fills(full), "Question 1 closes when you move on, and cannot be opened again."],
  [[1], fills(empty), "Question 1 closes when you move on, and cannot be opened again. Still empty: 1."],
  [
    [1, 2],
    fills(empty, part),
    "Questions 1 and 2 close when you move on, and cannot be opened again. Still empty: 1. Not complete: 2 (1 of 2).",
  ],
  [
    [1, 2, 3],
    fills(full, full, full),
    "Questions 1 to 3 close when you move on, and cannot be opened again.",
  ],
  [
    [1, 2, 3],
    fills(full, empty, part),
    "Questions 1 to 3 close when you move on, and cannot be opened again. Still empty: 2. Not complete: 3 (1 of 2).",
  ],
])("what is said before %j closes", (page, all, words) => {
  expect(closingWords(page, all)).toEqual(words);
});
