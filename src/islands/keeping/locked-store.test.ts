import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import type { JournalEntry } from "@/core/journal/merge";
import { deskEntry } from "./desk-entry";
import { openDeviceStore } from "./device-store";
import { Journal } from "./journal";
import { forgetLeft, leftOnDevice, lockLeft } from "./locked-store";

let signedInAs: string | null = "noor";

beforeEach(() => {
  signedInAs = "noor";
  vi.stubGlobal("indexedDB", new IDBFactory());
  vi.stubGlobal("fetch", async (path: string) => {
    if (signedInAs === null) throw new TypeError("offline");
    // The attempts a and b are Noor's.
    if (/^\/api\/(attempts\/[ab]|drafts\/q\/states)$/.test(path))
      return new Response("{}", { status: signedInAs === "noor" ? 200 : 404 });
    if (path !== "/api/device-key") return new Response("{}", { status: 404 });
    const key = btoa(signedInAs.padEnd(32, "."));
    return new Response(JSON.stringify({ name: `key of ${signedInAs}`, key }));
  });
});
afterEach(() => {
  vi.unstubAllGlobals();
});

const entry = (slot: number, revision: number, text = String(revision)): JournalEntry => ({
  slot,
  revision,
  device: "d",
  answer: { text },
  ribbon: false,
  ruledOut: [],
  writtenAt: revision,
});

/** Everything that lies in clear on the device, as text. */
async function inClear(): Promise<string> {
  const db = await openDeviceStore();
  const all = [...(await db.getAll("entries")), ...(await db.getAll("files"))];
  db.close();
  return JSON.stringify(all);
}

test("signing out forgets what the server has, and tells what it has not", async () => {
  const journal = new Journal("a", deskEntry);
  await journal.write(entry(1, 1));
  await journal.write(entry(2, 2));
  await journal.write(entry(3, 3));
  await journal.acknowledge(1, "d", 1);
  await new Journal("b", deskEntry).write(entry(1, 4));
  expect(await leftOnDevice()).toEqual({ answers: 3, files: 0, attempts: ["a", "b"] });
  expect((await journal.read()).map(({ slot }) => slot)).toEqual([2, 3]);
});

test("what is written in a draft, and is not on the server yet, is its author's too", async () => {
  await new Journal("draft q", deskEntry).write(entry(1, 1, "the key is 4.2"));
  await new Journal("draft other", deskEntry).write(entry(1, 1, "somebody else's"));
  expect((await leftOnDevice()).attempts).toEqual(["draft q"]);
  await lockLeft(["draft q"]);
  expect(await inClear()).not.toContain("4.2");
});

test("what is locked is not in clear, opens for its owner alone, and is then where it was", async () => {
  await new Journal("a", deskEntry).write(entry(1, 1, "a secret thought"));
  const db = await openDeviceStore();
  await db.put("files", { id: "f", attemptId: "a", slot: 2, name: "page.png", content: new Blob(["bytes"]) });
  db.close();
  await lockLeft(["a"]);
  expect(await inClear()).toBe("[]");
  signedInAs = "somebody else";
  expect(await new Journal("a", deskEntry).read()).toEqual([]);
  signedInAs = null;
  expect(await new Journal("a", deskEntry).read()).toEqual([]);
  signedInAs = "noor";
  expect(await new Journal("a", deskEntry).read()).toMatchObject([
    { slot: 1, answer: { text: "a secret thought" } },
  ]);
  const again = await openDeviceStore();
  expect((await again.getAll("files")).map(({ name }) => name)).toEqual(["page.png"]);
  again.close();
  // Once it is out of the lock it is not taken out again.
  await forgetLeft(["a", "b"]);
  expect(await new Journal("a", deskEntry).read()).toEqual([]);
});

test("without a connection nothing is locked and nothing is lost", async () => {
  await new Journal("a", deskEntry).write(entry(1, 1));
  signedInAs = null;
  await expect(lockLeft(["a"])).rejects.toThrow();
  expect(await new Journal("a", deskEntry).read()).toHaveLength(1);
});

test("what was written later than the lock is not overwritten by it", async () => {
  await new Journal("a", deskEntry).write(entry(1, 1, "earlier"));
  await lockLeft(["a"]);
  signedInAs = null;
  await new Journal("a", deskEntry).write(entry(1, 2, "later"));
  signedInAs = "noor";
  expect(await new Journal("a", deskEntry).read()).toMatchObject([{ answer: { text: "later" } }]);
});

test("what somebody else left on the device is not told, not locked and not deleted by whoever signs out next", async () => {
  await new Journal("a", deskEntry).write(entry(1, 1, "of Noor"));
  signedInAs = "somebody else";
  const left = await leftOnDevice();
  expect(left).toEqual({ answers: 0, files: 0, attempts: [] });
  await lockLeft(left.attempts);
  await forgetLeft(left.attempts);
  signedInAs = "noor";
  expect(await new Journal("a", deskEntry).read()).toMatchObject([{ answer: { text: "of Noor" } }]);
});

test("of several attempts only those that are named are locked or deleted", async () => {
  await new Journal("a", deskEntry).write(entry(1, 1));
  await new Journal("b", deskEntry).write(entry(1, 2));
  await forgetLeft(["a"]);
  expect(await new Journal("a", deskEntry).read()).toEqual([]);
  expect(await new Journal("b", deskEntry).read()).toHaveLength(1);
});
