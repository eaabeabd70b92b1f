import { expect, test } from "vitest";
import { ServerClock } from "./server-clock";

/** A device with two clocks that the test moves. */
function device(wall: number) {
  const clocks = { mono: 1_000, wall };
  return {
    clocks,
    timers: { monotonic: () => clocks.mono, wall: () => clocks.wall },
    passes(ms: number) {
      clocks.mono += ms;
      clocks.wall += ms;
    },
  };
}

/** Measures the clock by an answer that was so long on its way. */
function measurer(clock: ServerClock, { clocks, passes }: ReturnType<typeof device>) {
  return (trip: number, serverNow: number) => {
    const sentAt = clocks.mono;
    passes(trip);
    clock.measured(serverNow, sentAt, clocks.mono);
  };
}

const SERVER = 1_800_000_000_000;

test.each([0, 86_400_000, -86_400_000])(
  "is right whatever the device's own clock says (%d ms off)",
  (off) => {
    const { clocks, timers, passes } = device(SERVER + off);
    const clock = new ServerClock(SERVER, clocks.mono, timers);
    passes(60_000);
    expect(clock.now()).toBe(SERVER + 60_000);
    clocks.wall -= 3_600_000;
    expect(clock.now()).toBe(SERVER + 60_000);
  },
);

test("the time on the way is halved between both ways", () => {
  const { clocks, timers, passes } = device(SERVER);
  const clock = new ServerClock(SERVER, clocks.mono, timers);
  const sentAt = clocks.mono;
  passes(400);
  clock.measured(SERVER + 5_200, sentAt, clocks.mono);
  expect(clock.now()).toBe(SERVER + 5_400);
});

test("a slow answer does not spoil a good measurement, but an old one is renewed", () => {
  const on = device(SERVER);
  const { clocks, timers, passes } = on;
  const clock = new ServerClock(SERVER, clocks.mono, timers);
  const measure = measurer(clock, on);
  measure(20, SERVER + 10);
  passes(10_000);
  measure(4_000, SERVER + 99_000);
  expect(clock.now()).toBe(SERVER + 14_020);
  passes(200_000);
  measure(4_000, SERVER + 300_000);
  expect(clock.now()).toBe(SERVER + 302_000);
});

test("sleep, in which the monotonic timer stood still, asks for a measurement and is mended by it", () => {
  const { clocks, timers, passes } = device(SERVER);
  const clock = new ServerClock(SERVER, clocks.mono, timers);
  passes(1_000);
  expect(clock.needsMeasuring()).toBe(false);
  clocks.wall += 600_000;
  expect(clock.needsMeasuring()).toBe(true);
  const sentAt = clocks.mono;
  passes(3_000);
  clock.measured(SERVER + 603_000, sentAt, clocks.mono);
  expect(clock.now()).toBe(SERVER + 604_500);
  expect(clock.needsMeasuring()).toBe(false);
});

test("a slow answer is believed only until the server can be asked again, ever less often while it stays slow", () => {
  const on = device(SERVER);
  const { clocks, timers, passes } = on;
  const clock = new ServerClock(SERVER, clocks.mono, timers);
  const measure = measurer(clock, on);
  measure(3_000, SERVER + 200);
  expect(clock.now()).toBe(SERVER + 1_700);
  const asked = [];
  for (let second = 1; second <= 20; second += 1) {
    passes(1_000);
    if (clock.needsMeasuring()) asked.push(second);
  }
  expect(asked).toEqual([1, 3, 7, 15]);
  measure(100, SERVER + 23_050);
  expect(clock.now()).toBe(SERVER + 23_100);
  passes(60_000);
  expect(clock.needsMeasuring()).toBe(false);
});
