import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { localText } from "../time/local-time";
import { firstDay, movedWindows, type PlannedWindow } from "./moved-windows";

const LONDON = "Europe/London";
const at = (text: string) => Date.parse(`${text}Z`);
const window = (opens: string | null, due: string | null, closes: string | null): PlannedWindow => ({
  opens: opens === null ? null : at(opens),
  due: due === null ? null : at(due),
  closes: closes === null ? null : at(closes),
});
const texts = (windows: readonly PlannedWindow[]) =>
  windows.map(({ opens, due, closes }) =>
    [opens, due, closes].map((each) => (each === null ? null : localText(each, LONDON))),
  );

// Three Mondays of a term, 09:00 to Friday 18:00, in winter time.
const term = [
  window("2026-01-12T09:00", "2026-01-16T18:00", null),
  window("2026-01-26T09:00", "2026-01-30T18:00", "2026-01-31T18:00"),
  window("2026-02-09T09:00", "2026-02-13T18:00", null),
];

describe("windows moved to another term", () => {
  test("keep the day of the week and the time of day, also where the clocks change between", () => {
    expect(texts(movedWindows(term, "2026-09-07", [], LONDON))).toEqual([
      ["2026-09-07T09:00", "2026-09-11T18:00", null],
      ["2026-09-21T09:00", "2026-09-25T18:00", "2026-09-26T18:00"],
      ["2026-10-05T09:00", "2026-10-09T18:00", null],
    ]);
  });

  test("leave out the week of a break, from there on", () => {
    const half = [{ from: "2026-09-21", to: "2026-09-27" }];
    expect(texts(movedWindows(term, "2026-09-07", half, LONDON)).map(([opens]) => opens)).toEqual([
      "2026-09-07T09:00",
      "2026-09-28T09:00",
      "2026-10-12T09:00",
    ]);
  });

  test("step over a single day without teaching, whole, and come back into their places after it", () => {
    const day = [{ from: "2026-09-25", to: "2026-09-25" }];
    expect(texts(movedWindows(term, "2026-09-07", day, LONDON)).slice(1)).toEqual([
      ["2026-09-22T09:00", "2026-09-26T18:00", "2026-09-27T18:00"],
      ["2026-10-05T09:00", "2026-10-09T18:00", null],
    ]);
  });

  test("what has no dates stays without", () => {
    const none = window(null, null, null);
    expect(movedWindows([none], "2026-09-07", [], LONDON)).toEqual([none]);
    expect(firstDay([none], LONDON)).toBeNull();
  });

  test("whatever the breaks are: nothing lies in one, nothing comes nearer, and the first is on its day or later", () => {
    const day = fc.integer({ min: 0, max: 120 });
    const text = (number: number) =>
      new Date(Date.UTC(2026, 8, 1) + number * 86_400_000).toISOString().slice(0, 10);
    fc.assert(
      fc.property(
        fc.array(fc.record({ from: day, length: fc.integer({ min: 1, max: 20 }) }), { maxLength: 4 }),
        fc.array(
          fc.record({ opens: fc.integer({ min: 0, max: 100 }), lasts: fc.integer({ min: 0, max: 3 }) }),
          {
            minLength: 1,
            maxLength: 6,
          },
        ),
        day,
        fc.constantFrom("Europe/London", "Asia/Tokyo", "Pacific/Auckland", "America/St_Johns"),
        (spans, quizzes, first, zone) => {
          const breaks = spans.map(({ from, length }) => ({ from: text(from), to: text(from + length - 1) }));
          const windows = quizzes.map(({ opens, lasts }) => ({
            opens: Date.UTC(2026, 0, 12 + opens, 9),
            due: Date.UTC(2026, 0, 12 + opens + lasts, 17),
            closes: null,
          }));
          const moved = movedWindows(windows, text(first), breaks, zone);
          for (const [i, { opens, due }] of moved.entries()) {
            for (const each of [opens, due]) {
              const local = localText(each ?? 0, zone).slice(0, 10);
              expect(breaks.some(({ from, to }) => local >= from && local <= to)).toBe(false);
              expect(local >= text(first)).toBe(true);
            }
            const before = windows[i] as PlannedWindow;
            const days = (a: number | null, b: number | null) =>
              Math.round(((b ?? 0) - (a ?? 0)) / 86_400_000);
            expect(days(opens, due)).toBe(days(before.opens, before.due));
            expect(localText(opens ?? 0, zone).slice(11)).toBe(localText(before.opens ?? 0, zone).slice(11));
          }
        },
      ),
      { numRuns: 200 },
    );
  });
});
