import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { Refusal } from "@/ui/requests";
import { WaitingHandIn } from "./waiting-hand-in";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

function waiting(...outcomes: (Error | "done")[]) {
  const said: string[] = [];
  let tries = 0;
  const made = new WaitingHandIn({
    attempt: async () => {
      const outcome = outcomes[Math.min(tries, outcomes.length - 1)];
      tries += 1;
      if (outcome !== "done") throw outcome;
    },
    onWaits: () => said.push("waits"),
    onRefused: (sentence) => said.push(sentence),
  });
  return { made, said, tries: () => tries };
}

test("without a connection it is tried again by itself, until it is through, and then no more", async () => {
  const { made, said, tries } = waiting(new TypeError("no network"), new TypeError("no network"), "done");
  await made.try();
  expect(said).toEqual(["waits"]);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(tries()).toBe(3);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(tries()).toBe(3);
});

test("the pauses grow to ten seconds and no further", async () => {
  const { made, tries } = waiting(new TypeError("no network"));
  await made.try();
  await vi.advanceTimersByTimeAsync(600_000);
  expect(tries()).toBeGreaterThan(55);
  expect(tries()).toBeLessThan(75);
});

test("a refusal ends it with its sentence; an ended session and a failing server do not", async () => {
  const refused = waiting(new Refusal(409, "closed", "This attempt was handed in."));
  await refused.made.try();
  expect(refused.said).toEqual(["This attempt was handed in."]);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(refused.tries()).toBe(1);

  const later = waiting(
    new Refusal(401, "signed-out", "Sign in."),
    new Refusal(500, "failed", "Failed."),
    "done",
  );
  await later.made.try();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(later.said).toEqual(["waits", "waits"]);
  expect(later.tries()).toBe(3);
});

test("pressed twice it is tried once; taken back it is not tried again", async () => {
  const { made, tries } = waiting(new TypeError("no network"));
  await Promise.all([made.try(), made.try()]);
  expect(tries()).toBe(1);
  made.stop();
  await vi.advanceTimersByTimeAsync(60_000);
  expect(tries()).toBe(1);
});
