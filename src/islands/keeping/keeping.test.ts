import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { beforeEach, expect, test, vi } from "vitest";
import { type Written, writtenOrder } from "@/core/journal/merge";
import type { Arrival } from "./arrivals";
import type { HeldEntry } from "./device-store";
import { Journal } from "./journal";
import { Keeping } from "./keeping";
import type { Receipt } from "./sender";

/** Something else than an answer: how many points somebody gives, and why. */
interface Marks extends Written {
  readonly points: number | null;
  readonly remark: string;
}
type Content = Pick<Marks, "points" | "remark">;

const marksIn = (held: HeldEntry): Marks => {
  const { slot, revision, device, writtenAt, points, remark } = held as HeldEntry & Marks;
  return { slot, revision, device, writtenAt, points, remark };
};

beforeEach(() => {
  vi.stubGlobal("indexedDB", new IDBFactory());
});

/** The newest entry of each slot, and all that was ever sent. */
function server() {
  const stands = new Map<number, Marks>();
  const log: Marks[] = [];
  let isThere = true;
  let time = 1_000;
  return {
    stands,
    log,
    now: () => {
      time += 1;
      return time;
    },
    isThere: (is: boolean) => {
      isThere = is;
    },
    async post(entries: readonly Marks[]): Promise<Receipt<Marks>> {
      if (!isThere) throw new TypeError("unreachable");
      const newer: Marks[] = [];
      for (const entry of entries) {
        log.push(entry);
        const held = stands.get(entry.slot);
        if (held && writtenOrder(held, entry) > 0) newer.push(held);
        else stands.set(entry.slot, entry);
      }
      return { serverNow: time, saved: entries, refused: [], newer };
    },
  };
}

/** A page on which marks are given in three slots. */
function page(at: ReturnType<typeof server>, subject: string) {
  const screen = new Map<number, Content>([1, 2, 3].map((slot) => [slot, { points: null, remark: "" }]));
  const told: [Exclude<Arrival, "known">, number][] = [];
  const keeping = new Keeping<Marks>({
    channel: `marks ${subject}`,
    journal: new Journal(subject, marksIn),
    entries: [...at.stands.values()],
    now: at.now,
    post: (entries) => at.post(entries),
    content: (slot) => screen.get(slot) ?? null,
    isThere: (slot) => screen.has(slot),
    isShown: (slot) => screen.has(slot),
    isOpen: (slot) => screen.has(slot),
    differs: ({ slot, points, remark }) =>
      screen.get(slot)?.points !== points || screen.get(slot)?.remark !== remark,
    onWritten: () => {},
    onArrival: (entry, arrival) => {
      told.push([arrival, entry.slot]);
      if (arrival === "shown") screen.set(entry.slot, entry);
    },
    onKeeps: () => {},
    onReceipt: () => {},
    onSending: () => {},
    onRefused: () => {},
    onOver: () => {},
  });
  const give = (slot: number, points: number, remark = "") => {
    screen.set(slot, { points, remark });
    keeping.write(slot);
  };
  return { keeping, screen, told, give };
}

test("what is given is on the server, whatever an entry holds", async () => {
  const at = server();
  const { keeping, give } = page(at, "a");
  give(1, 2, "clear");
  give(1, 3, "clear, and right");
  await vi.waitFor(() => expect(keeping.isSent).toBe(true));
  expect(at.stands.get(1)).toMatchObject({ points: 3, remark: "clear, and right", device: keeping.device });
});

test("what could not be sent is taken up by the next page of the device, and nothing twice", async () => {
  const at = server();
  const first = page(at, "a");
  at.isThere(false);
  first.give(2, 4);
  await vi.waitFor(async () => expect(await new Journal("a", marksIn).read()).toHaveLength(1));
  first.keeping.close();
  at.isThere(true);
  const second = page(at, "a");
  const { held } = await second.keeping.recover();
  expect(held).toMatchObject([{ slot: 2, points: 4, acknowledged: false }]);
  await vi.waitFor(() => expect(second.keeping.isSent).toBe(true));
  expect(at.stands.get(2)?.points).toBe(4);
  await vi.waitFor(async () =>
    expect(await new Journal("a", marksIn).read()).toMatchObject([{ slot: 2, acknowledged: true }]),
  );
  const third = page(at, "a");
  await third.keeping.recover();
  expect(third.keeping.isSent).toBe(true);
  expect(at.log).toHaveLength(1);
});

test("of two who write the later one stands; the other is told, and not while it is being written in", async () => {
  const at = server();
  const one = page(at, "a");
  const other = page(at, "b");
  other.give(1, 1);
  await vi.waitFor(() => expect(other.keeping.isSent).toBe(true));
  one.keeping.writesIn(1);
  one.screen.set(1, { points: 5, remark: "not yet written down" });
  const arrived = at.stands.get(1);
  if (!arrived) throw new Error("nothing arrived");
  expect(one.keeping.lacksAny([arrived])).toBe(true);
  one.keeping.takeFromServer(arrived);
  expect(one.told).toEqual([["waits", 1]]);
  expect(one.screen.get(1)?.points).toBe(5);
  // Written down now, it is later: what waited is told as passed, and never shown.
  one.keeping.write(1);
  expect(one.told).toEqual([
    ["waits", 1],
    ["passed", 1],
  ]);
  await vi.waitFor(() => expect(one.keeping.isSent).toBe(true));
  expect(at.stands.get(1)?.points).toBe(5);
  other.keeping.takeFromServer(at.stands.get(1) as Marks);
  expect(other.told).toEqual([["shown", 1]]);
  expect(other.screen.get(1)?.points).toBe(5);
});

test("typing is written down at its pause, and at once when it is left", async () => {
  vi.useFakeTimers();
  try {
    const at = server();
    const { keeping, screen } = page(at, "a");
    screen.set(3, { points: 1, remark: "f" });
    keeping.later(3);
    expect(keeping.isTyping(3)).toBe(true);
    screen.set(3, { points: 1, remark: "fa" });
    keeping.later(3);
    await vi.advanceTimersByTimeAsync(299);
    expect(keeping.entries.has(3)).toBe(false);
    keeping.writeTyped();
    expect(keeping.isTyping()).toBe(false);
    expect(keeping.entries.get(3)?.remark).toBe("fa");
    await vi.advanceTimersByTimeAsync(10);
    expect(at.log.map(({ remark }) => remark)).toEqual(["fa"]);
  } finally {
    vi.useRealTimers();
  }
});
