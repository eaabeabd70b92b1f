import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type DeskPhase, isWritable, type PhaseEvent, phaseAfter, RUNNING } from "./desk-phase";

const handingIn: DeskPhase = { kind: "handing-in", pressedAt: 5 };
const waits: DeskPhase = { kind: "hand-in-waits", pressedAt: 5 };
const timeUp: DeskPhase = { kind: "time-up", reached: 100 };
const foundOver: DeskPhase = { kind: "time-up", reached: null };
const over: DeskPhase = { kind: "over" };
const told = (change: Partial<Extract<PhaseEvent, { type: "told" }>> = {}): PhaseEvent => ({
  type: "told",
  now: 50,
  deadline: 100,
  handedIn: false,
  ...change,
});
const pressed: PhaseEvent = { type: "hand-in-pressed", at: 5 };
const waiting: PhaseEvent = { type: "hand-in-waits" };
const givenUp: PhaseEvent = { type: "hand-in-given-up" };
const end: PhaseEvent = { type: "end-reached", deadline: 100 };
const saveOver: PhaseEvent = { type: "save-found-it-over" };
const handedIn: PhaseEvent = { type: "handed-in" };

describe("every transition", () => {
  test.each<[string, DeskPhase, PhaseEvent, DeskPhase]>([
    ["pressing hands in", RUNNING, pressed, handingIn],
    ["nothing waits while nothing was pressed", RUNNING, waiting, RUNNING],
    ["giving up what was not pressed", RUNNING, givenUp, RUNNING],
    ["the end", RUNNING, end, timeUp],
    ["a save that comes too late", RUNNING, saveOver, foundOver],
    ["told that it runs", RUNNING, told(), RUNNING],
    ["told that it is handed in, elsewhere", RUNNING, told({ handedIn: true }), over],
    ["handed in", RUNNING, handedIn, over],

    ["pressed twice", handingIn, { type: "hand-in-pressed", at: 9 }, handingIn],
    ["no connection", handingIn, waiting, waits],
    ["refused, or kept working", handingIn, givenUp, RUNNING],
    ["the end while it is on its way", handingIn, end, timeUp],
    ["a save that finds it over on the way", handingIn, saveOver, foundOver],
    ["told that it still runs", handingIn, told(), handingIn],
    ["told that it is handed in", handingIn, told({ handedIn: true }), over],
    ["through", handingIn, handedIn, over],

    ["pressed while it waits", waits, pressed, waits],
    ["waits on", waits, waiting, waits],
    ["kept working", waits, givenUp, RUNNING],
    ["the end while it waits: the clock hands in", waits, end, timeUp],
    ["a save that finds it over while it waits", waits, saveOver, foundOver],
    ["told that it runs while it waits", waits, told(), waits],
    ["told that the clock handed in", waits, told({ handedIn: true }), over],
    ["through at last", waits, handedIn, over],

    ["nothing can be pressed when time is up", timeUp, pressed, timeUp],
    ["nothing waits when time is up", timeUp, waiting, timeUp],
    ["nothing is given up when time is up", timeUp, givenUp, timeUp],
    ["the end again", timeUp, { type: "end-reached", deadline: 200 }, timeUp],
    ["a late save", timeUp, saveOver, timeUp],
    ["the same end, a moment before it by the server's clock", timeUp, told({ now: 99 }), timeUp],
    ["the same end, passed", timeUp, told({ now: 101 }), timeUp],
    ["more time, given while there was no connection", timeUp, told({ now: 101, deadline: 160 }), RUNNING],
    ["more time that is over too", timeUp, told({ now: 161, deadline: 160 }), timeUp],
    ["no end any more", timeUp, told({ deadline: null }), RUNNING],
    ["handed in by the clock", timeUp, told({ handedIn: true }), over],
    ["handed in by a press that got through", timeUp, handedIn, over],

    ["taken back on another device", foundOver, told(), RUNNING],
    ["found over, and its time is up", foundOver, told({ now: 101 }), foundOver],
    ["found over, and handed in", foundOver, told({ handedIn: true }), over],
  ])("%s", (_, phase, event, after) => expect(phaseAfter(phase, event)).toEqual(after));

  test.each([pressed, waiting, givenUp, end, saveOver, handedIn, told(), told({ handedIn: true })])(
    "what is over stays over: %j",
    (event) => expect(phaseAfter(over, event)).toBe(over),
  );
});

test("whatever happens: a desk that is not over opens again at a word of time, and is over at a word of the hand-in", () => {
  const at = fc.integer({ min: 0, max: 200 });
  const event: fc.Arbitrary<PhaseEvent> = fc.oneof(
    fc.record({ type: fc.constant("hand-in-pressed" as const), at }),
    fc.constant(waiting),
    fc.constant(givenUp),
    fc.record({ type: fc.constant("end-reached" as const), deadline: at }),
    fc.constant(saveOver),
    fc.record({
      type: fc.constant("told" as const),
      now: at,
      deadline: fc.option(at),
      handedIn: fc.constant(false),
    }),
  );
  fc.assert(
    fc.property(fc.array(event, { maxLength: 40 }), (events) => {
      const phase = events.reduce(phaseAfter, RUNNING);
      expect(phase.kind).not.toBe("over");
      expect(isWritable(phaseAfter(phase, told({ now: 300, deadline: 400 })))).toBe(true);
      expect(phaseAfter(phase, told({ handedIn: true })).kind).toBe("over");
    }),
    { numRuns: 2_000 },
  );
});
