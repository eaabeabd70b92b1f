import { afterEach, expect, test, vi } from "vitest";
import { HOUR } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { quiz, viewer } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { sweep } = await import("../attempts/settle");
const { todayOf } = await import("../overview/today");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { notifyOpened: tellOpened } = await import("./notify-opened");
const { bellOf } = await import("../notices/bell");

const noor = await viewer("noor.haldane");
const quentin = await viewer("quentin.mbele");
const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
const told = async (who: typeof noor, kind: string) =>
  (await bellOf(who)).filter((each) => each.kind === kind).map(({ text }) => text);

afterEach(async () => {
  vi.useRealTimers();
  await sql`delete from person_notice`;
});

test("what was open when the demo was written is not news", async () => {
  expect(await tellOpened()).toBe(0);
});

test("an opening is told at its moment, once, to those for whom it is set, and anew when it is moved", async () => {
  const id = await quiz("Foraging ranges");
  const [row] = await sql`select opens from quiz where id = ${id}`;
  const opens = new Date(row?.opens).getTime();
  at(opens - 1);
  expect(await tellOpened()).toBe(0);
  // Who has a later opening of their own is not told yet.
  await sql`insert into allowance (id, quiz_id, person_id, opens, reason)
    values (gen_random_uuid(), ${id}, ${(await viewer("keziah.rowden")).id}, ${new Date(opens + HOUR)}, 'ill')`;
  at(opens);
  const [first, second] = await Promise.all([tellOpened(), tellOpened()]);
  expect(Math.min(first, second)).toBe(0);
  expect(await told(noor, "opened")).toEqual([
    expect.stringMatching(/^“Foraging ranges” in Pollinator Ecology is open\. It is due .+\.$/),
  ]);
  expect(await told(await viewer("keziah.rowden"), "opened")).toEqual([]);
  // Not in this course.
  expect(await told(quentin, "opened")).toEqual([]);
  at(opens + 2 * HOUR);
  expect(await tellOpened()).toBe(0);
  await sql`update quiz set opens = ${new Date(opens + 3 * HOUR)}, due = null, closes = null where id = ${id}`;
  at(opens + 3 * HOUR);
  expect(await tellOpened()).toBeGreaterThan(0);
});

test("a quiz set for some is told to them alone, and practice to nobody", async () => {
  const soon = Date.now() + HOUR;
  await sql`update quiz set opens = ${new Date(soon)} where title in ('Compass and variation, second sitting', 'Dough practice')`;
  at(soon + 1);
  expect(await tellOpened()).toBe(2);
  expect(await told(quentin, "opened")).toHaveLength(1);
  expect(await told(noor, "opened")).toEqual([]);
});

test("what the clock handed in is told with what was answered, and stands on Today until its paper was read", async () => {
  const student = await viewer("nikolai.pellworth");
  const { attemptId } = await startAttempt(student, await quiz("Lights at a glance"));
  at(Date.now() + HOUR);
  await sweep();
  expect(await told(student, "by-clock")).toEqual([
    "Time was up in “Lights at a glance”: the clock handed it in for you, with 0 of 3 answered.",
  ]);
  const byClock = async () =>
    (await todayOf(student)).byClock.map(({ title, answered, questions, hasPaper }) => ({
      title,
      answered,
      questions,
      hasPaper,
    }));
  expect(await byClock()).toEqual([
    { title: "Lights at a glance", answered: 0, questions: 3, hasPaper: true },
  ]);
  await markedPaperOf(student, attemptId);
  expect(await byClock()).toEqual([]);
});

test("marks to read are those that were not looked at since they were returned", async () => {
  const unread = async () => (await todayOf(noor)).returned.map(({ title }) => title);
  const before = await unread();
  expect(before).toContain("Flour and enzymes");
  const [row] = await sql`select a.id from attempt a join quiz q on q.id = a.quiz_id
    where q.title = 'Flour and enzymes' and a.person_id = ${noor.id}`;
  await markedPaperOf(noor, row?.id);
  // Where one leaves, the next comes in.
  const rest = before.filter((title) => title !== "Flour and enzymes");
  expect(await unread()).toEqual(expect.arrayContaining(rest));
  expect(await unread()).not.toContain("Flour and enzymes");
  // Someone else's looking is nobody's reading.
  await sql`update attempt set paper_read_at = null where id = ${row?.id}`;
  await markedPaperOf(await viewer("tomas.oyelaran"), row?.id);
  expect(await unread()).toEqual(before);
  await markedPaperOf(noor, row?.id);
  await sql`update attempt set returned_at = now() + interval '1 second' where id = ${row?.id}`;
  expect(await unread()).toContain("Flour and enzymes");
});
