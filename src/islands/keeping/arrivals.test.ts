import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type JournalEntry, writtenOrder } from "@/core/journal/merge";
import { Arrivals } from "./arrivals";

const entry = (device: string, revision: number, writtenAt: number): JournalEntry => ({
  slot: 1,
  answer: { text: `${device} ${revision}` },
  ribbon: false,
  ruledOut: [],
  revision,
  device,
  writtenAt,
});

describe("what another device wrote", () => {
  test("is shown where it is later, told where it is earlier, and taken once", () => {
    const arrivals = new Arrivals();
    const held = entry("mine", 1, 20);
    arrivals.note(held);
    expect(arrivals.take(entry("other", 1, 30), held, false)).toBe("shown");
    expect(arrivals.take(entry("other", 1, 30), held, false)).toBe("known");
    expect(arrivals.take(entry("other", 2, 10), held, false)).toBe("passed");
    expect(arrivals.take(held, held, false)).toBe("known");
  });

  test("waits while the field is written in, and is given out once when it is left", () => {
    const arrivals = new Arrivals();
    const theirs = entry("other", 1, 30);
    expect(arrivals.take(theirs, entry("mine", 1, 20), true)).toBe("waits");
    expect(arrivals.waiting).toEqual([1]);
    expect(arrivals.release(1)).toEqual(theirs);
    expect(arrivals.release(1)).toBeNull();
    expect(arrivals.waiting).toEqual([]);
  });
});

/** One desk of the model: what it shows, and what it was told of the other's. */
interface Desk {
  readonly device: string;
  readonly arrivals: Arrivals<JournalEntry>;
  shown: JournalEntry | undefined;
  revision: number;
  isTyping: boolean;
  readonly seen: Set<string>;
}

const nameOf = ({ device, revision }: JournalEntry) => `${device} ${revision}`;

/**
 * Two desks write, type, leave their boxes and hear of each other in any order and any number of times: in the end both show
 * what was written last, and whatever took an answer's place, or was passed over, was told.
 */
test("in any order of events two desks come to the same, and nothing changes places in silence", () => {
  const action = fc.record({
    desk: fc.integer({ min: 0, max: 1 }),
    does: fc.constantFrom("write" as const, "hear" as const, "type" as const, "leave" as const),
  });
  fc.assert(
    fc.property(fc.array(action, { maxLength: 40 }), (actions) => {
      let now = 0;
      let server: JournalEntry | undefined;
      const desks: Desk[] = ["a", "b"].map((device) => ({
        device,
        arrivals: new Arrivals(),
        shown: undefined,
        revision: 0,
        isTyping: false,
        seen: new Set(),
      }));
      const show = (desk: Desk, next: JournalEntry) => {
        // What is replaced is told at that moment: the desk has both in its hands.
        if (desk.shown) desk.seen.add(nameOf(desk.shown));
        desk.seen.add(nameOf(next));
        desk.shown = next;
      };
      const hear = (desk: Desk) => {
        if (!server) return;
        const arrival = desk.arrivals.take(server, desk.shown, desk.isTyping);
        desk.seen.add(nameOf(server));
        if (arrival === "shown") show(desk, server);
        if (arrival === "passed")
          expect(writtenOrder(desk.shown as JournalEntry, server)).toBeGreaterThanOrEqual(0);
      };
      const leave = (desk: Desk) => {
        desk.isTyping = false;
        const waited = desk.arrivals.release(1);
        if (waited && (!desk.shown || writtenOrder(desk.shown, waited) < 0)) show(desk, waited);
      };
      for (const { desk: at, does } of actions) {
        const desk = desks[at] as Desk;
        now += 1;
        if (does === "write") {
          desk.revision += 1;
          const next = entry(desk.device, desk.revision, now);
          desk.arrivals.note(next);
          const waited = desk.arrivals.release(1);
          if (waited) desk.seen.add(nameOf(waited));
          show(desk, next);
          if (!server || writtenOrder(server, next) < 0) server = next;
        } else if (does === "hear") hear(desk);
        else if (does === "type") desk.isTyping = true;
        else leave(desk);
      }
      for (const desk of desks) {
        leave(desk);
        hear(desk);
      }
      for (const desk of desks) expect(desk.shown && nameOf(desk.shown)).toBe(server && nameOf(server));
      // The one that stands at the end was seen by both.
      if (server) for (const desk of desks) expect(desk.seen.has(nameOf(server))).toBe(true);
    }),
  );
});
