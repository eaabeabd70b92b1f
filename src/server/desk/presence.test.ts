import { randomUUID } from "node:crypto";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { SECOND } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { deskOpened, deskSeen, forgetDesks, noteGoneDesks } = await import("./presence");

const student = await viewer("noor.haldane");
const { attemptId } = await startAttempt(student, await quiz("Tides and clearances"));
let now = Date.now();
const at = (instant: number) => {
  now = instant;
  vi.useFakeTimers({ toFake: ["Date"], now });
};
/** The keeper looks again and again, as it does every ten seconds. */
async function watched(seconds: number, meanwhile: () => Promise<void> = async () => {}): Promise<void> {
  for (let passed = 0; passed < seconds; passed += 10) {
    at(now + 10 * SECOND);
    await meanwhile();
    await noteGoneDesks();
  }
}
const noted = async () =>
  (
    await sql`select action from record where subject_id = ${attemptId} and action like '%the desk' order by at, id`
  ).map(({ action }) => action);
const desk = (stream: string) => ({ stream, attemptId, personId: student.id, device: null });
const opened = (stream: string) => deskOpened(desk(stream));
const seen = (stream: string) => deskSeen(desk(stream));

beforeEach(async () => {
  await sql`delete from open_desk`;
  await sql`delete from record where subject_id = ${attemptId} and action like '%the desk'`;
});
afterEach(() => {
  vi.useRealTimers();
});

test("a desk whose process died has left once nothing was heard of it, and comes back by itself", async () => {
  await opened(randomUUID());
  await watched(60);
  expect(await noted()).toEqual(["left the desk"]);
  await opened(randomUUID());
  expect(await noted()).toEqual(["left the desk", "came back to the desk"]);
});

test("a desk that reconnects to another process has not left", async () => {
  const [dead, alive] = [randomUUID(), randomUUID()];
  await opened(dead);
  await forgetDesks([dead]);
  await opened(alive);
  await watched(80, () => seen(alive));
  expect(await noted()).toEqual([]);
  expect((await sql`select stream from open_desk`).map(({ stream }) => stream)).toEqual([alive]);
});

test("after an outage all desks look gone; none has left that says so again", async () => {
  const stream = randomUUID();
  await opened(stream);
  await watched(40, () => seen(stream));
  at(now + 300 * SECOND);
  await noteGoneDesks();
  at(now + 10 * SECOND);
  await noteGoneDesks();
  await seen(stream);
  await watched(40, () => seen(stream));
  expect(await noted()).toEqual([]);
});

test("a desk that was cleared away and is there all the same is known again at its next word", async () => {
  const stream = randomUUID();
  await opened(stream);
  await watched(60);
  expect(await noted()).toEqual(["left the desk"]);
  await seen(stream);
  expect(await noted()).toEqual(["left the desk", "came back to the desk"]);
});
