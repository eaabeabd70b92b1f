import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { JournalEntry } from "@/core/journal/merge";
import { deskEntry } from "./desk-entry";
import { Journal } from "./journal";

beforeEach(() => {
  vi.stubGlobal("indexedDB", new IDBFactory());
});
afterEach(() => {
  vi.unstubAllGlobals();
});

const entry = (slot: number, revision: number, device = "d"): JournalEntry => ({
  slot,
  revision,
  device,
  answer: { parts: { a: String(revision) } },
  ribbon: false,
  ruledOut: [],
  writtenAt: revision,
});

test("keeps the newest entry of each slot and device, over pages", async () => {
  const first = new Journal("a", deskEntry);
  await first.write(entry(1, 1));
  await first.write(entry(1, 2));
  await first.write(entry(2, 1));
  await first.write(entry(1, 9, "other"));
  const kept = await new Journal("a", deskEntry).read();
  expect(kept.map(({ slot, device, revision }) => [slot, device, revision])).toEqual([
    [1, "d", 2],
    [1, "other", 9],
    [2, "d", 1],
  ]);
  expect(first.keeps).toBe(true);
  expect(await new Journal("b", deskEntry).read()).toEqual([]);
});

test("an acknowledgement of an older revision does not end the waiting of a newer one", async () => {
  const journal = new Journal("a", deskEntry);
  await journal.write(entry(1, 1));
  await journal.write(entry(1, 2));
  await journal.acknowledge(1, "d", 1);
  expect((await journal.read())[0]?.acknowledged).toBe(false);
  await journal.acknowledge(1, "d", 2);
  expect((await journal.read())[0]?.acknowledged).toBe(true);
});

test("after the hand-in only what the server never acknowledged stays", async () => {
  const journal = new Journal("a", deskEntry);
  await journal.write(entry(1, 1));
  await journal.write(entry(2, 1));
  await journal.acknowledge(1, "d", 1);
  await journal.noteHandIn(5);
  expect(await journal.handInPressed()).toBe(5);
  await journal.forgetAcknowledged();
  expect((await journal.read()).map(({ slot }) => slot)).toEqual([2]);
  expect(await journal.handInPressed()).toBeNull();
});

test.each([
  [
    "at once",
    () => {
      throw new DOMException("refused", "SecurityError");
    },
  ],
  [
    "later",
    () => {
      const request = {
        error: new DOMException("refused", "UnknownError"),
        addEventListener(name: string, heard: () => void) {
          if (name === "error") setTimeout(heard);
        },
        removeEventListener() {},
      };
      return request;
    },
  ],
])("a device that refuses storage %s keeps nothing, fails nothing, and says so", async (_, open) => {
  vi.stubGlobal("indexedDB", { open });
  const journal = new Journal("a", deskEntry);
  await journal.write(entry(1, 1));
  expect(await journal.read()).toEqual([]);
  await journal.acknowledge(1, "d", 1);
  await journal.forgetAcknowledged();
  expect(await journal.handInPressed()).toBeNull();
  expect(journal.keeps).toBe(false);
});

test("a full storage is said, breaks nothing, and is used again once there is room", async () => {
  const journal = new Journal("a", deskEntry);
  await journal.write(entry(1, 1));
  const { put } = IDBObjectStore.prototype;
  IDBObjectStore.prototype.put = () => {
    throw new DOMException("full", "QuotaExceededError");
  };
  try {
    await journal.write(entry(2, 1));
    expect(journal.keeps).toBe(false);
    await journal.acknowledge(1, "d", 1);
  } finally {
    IDBObjectStore.prototype.put = put;
  }
  // Not noted as acknowledged: it is sent once more rather than never.
  expect((await journal.read()).map(({ slot, acknowledged }) => [slot, acknowledged])).toEqual([[1, false]]);
  await journal.write(entry(2, 2));
  expect(journal.keeps).toBe(true);
});
