import { describe, expect, test } from "vitest";
import { MINUTE } from "../time/instants";
import { happening, inNeed, partOf, type Sitting, TRACE_PARTS } from "./watch-line";

const NOW = 60 * MINUTE;
const sitting = (change: Partial<Sitting> = {}): Sitting => ({
  attemptId: "a",
  personId: "p",
  name: "Noor Haldane",
  number: 1,
  startedAt: 30 * MINUTE,
  deadline: 90 * MINUTE,
  handedInAt: null,
  handedInBy: null,
  here: 3,
  answered: 4,
  questions: 10,
  savedAt: NOW - MINUTE,
  awaySince: null,
  trace: [],
  particular: [],
  ...change,
});

describe("what happens now", () => {
  test.each([
    [{}, "writing"],
    [{ savedAt: NOW - 5 * MINUTE }, "still"],
    [{ savedAt: null, startedAt: NOW - 4 * MINUTE }, "writing"],
    [{ savedAt: null }, "still"],
    [{ awaySince: NOW - MINUTE }, "away"],
    [{ awaySince: NOW - MINUTE, handedInAt: NOW }, "handed-in"],
    [{ deadline: NOW + 2 * MINUTE }, "near-end"],
    [{ deadline: NOW + 2 * MINUTE, answered: 10 }, "writing"],
    [{ deadline: null, savedAt: NOW }, "writing"],
  ] as const)("%j: %s", (change, expected) => {
    expect(happening(sitting(change), NOW)).toBe(expected);
  });

  test("those who may need help stand on top, then everyone by name", () => {
    const all = [
      sitting({ name: "Zofia", handedInAt: 1 }),
      sitting({ name: "Bao" }),
      sitting({ name: "Anneke" }),
      sitting({ name: "Tadhg", savedAt: 0 }),
      sitting({ name: "Uma", awaySince: NOW }),
    ];
    expect([...all].sort(inNeed(NOW)).map(({ name }) => name)).toEqual([
      "Uma",
      "Tadhg",
      "Anneke",
      "Bao",
      "Zofia",
    ]);
  });
});

test("a moment lies in one part of the time, also before its start and after its end", () => {
  const time = { startedAt: 0, deadline: 100 };
  expect([-5, 0, 50, 99, 100, 1_000].map((at) => partOf(at, time))).toEqual([0, 0, 12, 23, 23, 23]);
  expect(partOf(90 * MINUTE, { startedAt: 0, deadline: null })).toBe(TRACE_PARTS / 2);
  expect(partOf(5, { startedAt: 10, deadline: 10 })).toBe(0);
});
