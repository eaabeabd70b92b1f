import { randomUUID } from "node:crypto";
import { beforeAll, expect, test } from "vitest";
import { ownDatabase } from "../../../tests/support/database";
import type { EntryToSave } from "./save";

const sql = await ownDatabase();
const { saveEntries, saveStatement } = await import("./save");

const token = "a token of the test";
let attemptId: string;

beforeAll(async () => {
  const [noor] = await sql`select id from person where email = 'noor.haldane@alderquay.example'`;
  await sql`insert into session (id, person_id, token, expires_at)
    values (${randomUUID()}, ${noor?.id}, ${token}, now() + interval '1 hour')`;
  const [quiz] =
    await sql`select q.id, v.id as version from quiz q join quiz_version v on v.quiz_id = q.id where q.title = 'Tides and clearances'`;
  attemptId = randomUUID();
  await sql`insert into attempt (id, quiz_id, version_id, person_id, number, seed, started_at, deadline, maximum)
    values (${attemptId}, ${quiz?.id}, ${quiz?.version}, ${noor?.id}, 1, 'seed', now(), now() + interval '20 minutes', 30)`;
});

const entry = (change: Partial<EntryToSave> = {}): EntryToSave => ({
  slot: 1,
  page: 0,
  device: randomUUID(),
  answer: { pick: "a" },
  ribbon: false,
  ruledOut: [],
  revision: 1,
  writtenAt: new Date().toISOString(),
  ...change,
});

const save = (entries: EntryToSave[], change: Partial<Parameters<typeof saveEntries>[0]> = {}) =>
  saveEntries({
    token,
    attemptId,
    here: 1,
    rule: "free",
    entries,
    now: new Date().toISOString(),
    graceSeconds: 5,
    channel: "desks",
    ...change,
  });

const held = async (slot: number) =>
  (await sql`select * from answer where attempt_id = ${attemptId} and slot = ${slot}`)[0];

test("an answer, its line in the log, and the place on the screen are written at once", async () => {
  const outcome = await save([entry({ slot: 1 }), entry({ slot: 2, answer: null, ribbon: true })], {
    here: 2,
  });
  expect(outcome).toMatchObject({ signedIn: true, attempt: { writable: true, handedInAt: null }, held: [] });
  expect(await held(1)).toMatchObject({ answer: { pick: "a" }, ribbon: false });
  expect(await held(2)).toMatchObject({ answer: null, ribbon: true });
  const [row] =
    await sql`select here, (select count(*)::int from answer_log where attempt_id = ${attemptId}) as lines from attempt where id = ${attemptId}`;
  expect(row).toEqual({ here: 2, lines: 2 });
});

test("the same entry again leaves everything as it was", async () => {
  const same = entry({ slot: 3 });
  await save([same]);
  const before = await held(3);
  const again = await save([same]);
  expect(again).toMatchObject({ held: [], attempt: { shut: [], clashing: [] } });
  expect(await held(3)).toEqual(before);
});

test("of two devices the later writing stands, whichever comes first; the log has both", async () => {
  const early = entry({
    slot: 4,
    answer: { pick: "early" },
    writtenAt: new Date(Date.now() - 5_000).toISOString(),
  });
  const late = entry({
    slot: 4,
    answer: { pick: "late" },
    writtenAt: new Date(Date.now() - 1_000).toISOString(),
  });
  await save([late]);
  const outcome = await save([early]);
  expect(outcome.held).toMatchObject([{ slot: 4, answer: { pick: "late" }, device: late.device }]);
  expect(await held(4)).toMatchObject({ answer: { pick: "late" } });
  expect(await sql`select 1 from answer_log where attempt_id = ${attemptId} and slot = 4`).toHaveLength(2);
});

test("a time in the future is taken for now, so that no device can write for ever", async () => {
  await save([entry({ slot: 5, answer: { pick: "future" }, writtenAt: "2090-01-01T00:00:00Z" })]);
  await save(
    [entry({ slot: 5, answer: { pick: "after" }, writtenAt: new Date(Date.now() + 2_000).toISOString() })],
    {
      now: new Date(Date.now() + 3_000).toISOString(),
    },
  );
  expect(await held(5)).toMatchObject({ answer: { pick: "after" } });
});

test("without a session, with an ended one, and on another's attempt nothing is written", async () => {
  expect(await save([entry({ slot: 6 })], { token: "another" })).toMatchObject({
    signedIn: false,
    attempt: null,
  });
  expect(
    await save([entry({ slot: 6 })], { now: new Date(Date.now() + 7_200_000).toISOString() }),
  ).toMatchObject({ signedIn: false });
  expect(await save([entry({ slot: 6 })], { attemptId: randomUUID() })).toMatchObject({
    signedIn: true,
    attempt: null,
  });
  expect(await held(6)).toBeUndefined();
});

test("after the grace nothing is written, within it all is", async () => {
  const deadline = Date.now() + 20 * 60_000;
  await sql`update attempt set deadline = ${new Date(deadline).toISOString()} where id = ${attemptId}`;
  const at = (seconds: number) => ({ now: new Date(deadline + seconds * 1_000).toISOString() });
  expect(await save([entry({ slot: 7 })], at(4.9))).toMatchObject({ attempt: { writable: true } });
  expect(await held(7)).toBeDefined();
  expect(await save([entry({ slot: 8 })], at(5.1))).toMatchObject({ attempt: { writable: false } });
  expect(await held(8)).toBeUndefined();
});

test("a save that waits for a hand-in finds the attempt closed", async () => {
  const blocker = sql.begin(async (tx) => {
    await tx`select 1 from attempt where id = ${attemptId} for update`;
    const waiting = save([entry({ slot: 9 })]);
    // Only when the save stands in line is the hand-in committed.
    for (;;) {
      const [line] =
        await sql`select count(*)::int as count from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()`;
      if (line?.count > 0) break;
    }
    await tx`update attempt set handed_in_at = now(), handed_in_by = 'student' where id = ${attemptId}`;
    return { waiting };
  });
  const { waiting } = await blocker;
  expect(await waiting).toMatchObject({ attempt: { writable: false } });
  expect(await held(9)).toBeUndefined();
});

test("every part of the statement finds its rows by an index", async () => {
  // In a transaction, so that what is set holds for the connection that is asked.
  await sql.begin(async (tx) => {
    await tx`set local enable_seqscan = off`;
    const statement = saveStatement(tx, {
      token,
      attemptId,
      here: 2,
      rule: "one-way",
      entries: [entry(), entry({ slot: 2 })],
      now: new Date().toISOString(),
      graceSeconds: 5,
      channel: "desks",
    });
    const plan = (await tx`explain ${statement}`).map((row) => row["QUERY PLAN"]).join("\n");
    for (const table of ["session", "attempt"]) expect(plan).toMatch(new RegExp(`Index .*on "?${table}`));
    expect(plan).toContain("Insert on answer_log");
    expect(plan).not.toContain("Seq Scan");
  });
});
