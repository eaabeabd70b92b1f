import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { SaveReceipt } from "@/core/desk/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import { Refusal } from "@/ui/requests";
import { Sender, type SendState } from "./sender";

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

const entry = (slot: number, revision: number, device = "a"): JournalEntry => ({
  slot,
  revision,
  device,
  answer: revision,
  ribbon: false,
  ruledOut: [],
  writtenAt: revision,
});

const receipt = (entries: readonly JournalEntry[]): SaveReceipt => ({
  serverNow: 0,
  deadline: null,
  handedInAt: null,
  page: 0,
  refused: [],
  newer: [],
  saved: entries.map(({ slot, device, revision }) => ({ slot, device, revision })),
});

function sender(post: (entries: readonly JournalEntry[]) => Promise<SaveReceipt>) {
  const sent: (readonly JournalEntry[])[] = [];
  const states: SendState["kind"][] = [];
  const refused: number[] = [];
  let over = false;
  const made = new Sender<JournalEntry, SaveReceipt>({
    post: (entries) => {
      sent.push(entries);
      return post(entries);
    },
    onReceipt: () => {},
    onState: (state) => states.push(state.kind),
    onOver: () => {
      over = true;
    },
    onRefused: (entries) => refused.push(...entries.map(({ slot }) => slot)),
    scatter: () => 0.5,
  });
  return { made, sent, states, refused: () => refused, isOver: () => over };
}

test("a pick goes out at once, typing at its delay, and only the newest of a slot", async () => {
  const { made, sent } = sender(async (entries) => receipt(entries));
  made.add(entry(1, 1), 1_500);
  made.add(entry(1, 2), 1_500);
  await vi.advanceTimersByTimeAsync(1_400);
  expect(sent).toEqual([]);
  made.add(entry(2, 1), 0);
  await vi.advanceTimersByTimeAsync(0);
  expect(sent).toEqual([[entry(1, 2), entry(2, 1)]]);
  expect(made.isDone).toBe(true);
});

test("one request is in flight at a time; what comes meanwhile follows", async () => {
  let answer: (value: SaveReceipt) => void = () => {};
  const { made, sent } = sender(() => new Promise((resolve) => (answer = resolve)));
  made.add(entry(1, 1), 0);
  await vi.advanceTimersByTimeAsync(0);
  made.add(entry(1, 2), 0);
  await vi.advanceTimersByTimeAsync(50);
  expect(sent).toHaveLength(1);
  answer(receipt([entry(1, 1)]));
  await vi.advanceTimersByTimeAsync(0);
  expect(sent[1]).toEqual([entry(1, 2)]);
  expect(made.isDone).toBe(false);
  answer(receipt([entry(1, 2)]));
  await vi.advanceTimersByTimeAsync(0);
  expect(made.isDone).toBe(true);
});

test("a lost network is tried again with growing pauses, and nothing is dropped", async () => {
  let reachable = false;
  const { made, sent, states } = sender(async (entries) => {
    if (!reachable) throw new TypeError("Failed to fetch");
    return receipt(entries);
  });
  made.add(entry(1, 1), 0);
  await vi.advanceTimersByTimeAsync(0);
  expect(states.at(-1)).toBe("unreachable");
  await vi.advanceTimersByTimeAsync(1_000);
  expect(sent).toHaveLength(2);
  await vi.advanceTimersByTimeAsync(1_900);
  expect(sent).toHaveLength(2);
  await vi.advanceTimersByTimeAsync(100);
  expect(sent).toHaveLength(3);
  reachable = true;
  await vi.advanceTimersByTimeAsync(4_000);
  expect(made.isDone).toBe(true);
  expect(states.at(-1)).toBe("idle");
});

test("entries of two pages for one slot go one after the other", async () => {
  const { made, sent } = sender(async (entries) => receipt(entries));
  made.add(entry(1, 1, "old page"), 0);
  made.add(entry(1, 1, "this page"), 0);
  await vi.advanceTimersByTimeAsync(10);
  expect(sent.map((batch) => batch.map(({ device }) => device))).toEqual([["old page"], ["this page"]]);
});

test("a refused entry is not sent for ever; a handed-in attempt ends the sending; a lost session waits", async () => {
  const refusing = sender(() => Promise.reject(new Refusal(422, "bad-input", "No.")));
  refusing.made.add(entry(1, 1), 0);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(refusing.sent).toHaveLength(1);
  expect(refusing.states.at(-1)).toBe("refused");

  const over = sender(() => Promise.reject(new Refusal(409, "handed-in", "Over.")));
  over.made.add(entry(1, 1), 0);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(over.sent).toHaveLength(1);
  expect(over.isOver()).toBe(true);

  const out = sender(() => Promise.reject(new Refusal(401, "not-signed-in", "Sign in.")));
  out.made.add(entry(1, 1), 0);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(out.sent.length).toBeGreaterThan(1);
  expect(out.states.at(-1)).toBe("signed-out");
  expect(out.made.isDone).toBe(false);
});

test("an entry at which the server fails holds up no other; it is given up while the server takes others, and says so", async () => {
  const isPoison = ({ slot }: JournalEntry) => slot === 2;
  const { made, sent, refused } = sender(async (entries) => {
    if (entries.some(isPoison)) throw new Refusal(500, "our-fault", "Something went wrong on our side.");
    return receipt(entries);
  });
  for (const slot of [1, 2, 3]) made.add(entry(slot, 1), 0);
  await vi.advanceTimersByTimeAsync(10_000);
  expect(made.isWaiting(1)).toBe(false);
  expect(made.isWaiting(3)).toBe(false);
  expect(made.isWaiting(2)).toBe(true);
  // Others go on being taken at once.
  for (let revision = 2; revision < 6; revision += 1) {
    made.add(entry(1, revision), 0);
    await vi.advanceTimersByTimeAsync(40_000);
    expect(made.isWaiting(1)).toBe(false);
  }
  expect(refused()).toEqual([2]);
  expect(made.isDone).toBe(true);
  // Written anew, it is tried anew.
  const before = sent.length;
  made.add(entry(2, 2), 0);
  await vi.advanceTimersByTimeAsync(0);
  expect(sent.length).toBe(before + 1);
});

test("a server that fails at everything gives nothing up, however long it lasts", async () => {
  let down = true;
  const { made, refused } = sender(async (entries) => {
    if (down) throw new Refusal(500, "our-fault", "Something went wrong on our side.");
    return receipt(entries);
  });
  for (const slot of [1, 2, 3]) made.add(entry(slot, 1), 0);
  await vi.advanceTimersByTimeAsync(3_600_000);
  expect(refused()).toEqual([]);
  down = false;
  await vi.advanceTimersByTimeAsync(60_000);
  expect(made.isDone).toBe(true);
});

test("too much at once is said, and tried again by itself", async () => {
  let busy = true;
  const { made, states } = sender(async (entries) => {
    if (busy) throw new Refusal(429, "too-much", "Wait a little.");
    return receipt(entries);
  });
  made.add(entry(1, 1), 0);
  await vi.advanceTimersByTimeAsync(10);
  expect(states.at(-1)).toBe("refused");
  busy = false;
  await vi.advanceTimersByTimeAsync(60_000);
  expect(made.isDone).toBe(true);
  expect(states.at(-1)).toBe("idle");
});
