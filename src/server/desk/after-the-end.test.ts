import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test, vi } from "vitest";
import { MINUTE } from "@/core/time/instants";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz, attempt } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { confirmStart, openDesk } = await import("./open-desk");
const { saveAnswers } = await import("./save-answers");
const { handInAttempt } = await import("./hand-in");
const { takeBack } = await import("../handed-in/take-back");
const { slipOf } = await import("../handed-in/slip");
const { sweep } = await import("../attempts/settle");
const { todayOf } = await import("../overview/today");
const { extendRunning } = await import("../quizzes/extend-running");
const { sayToDesks } = await import("../quizzes/desk-messages");
const { attemptPulse } = await import("./open-desk");

const moveClock = (later: number) => vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + later });
afterEach(() => {
  vi.useRealTimers();
});

async function started(name: string, title: string) {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  await confirmStart(student, attemptId);
  const save = (slot: number, answer: unknown, change = {}) =>
    saveAnswers(student.token, attemptId, writing(slot, answer, change));
  return { student, attemptId, save };
}

describe("late writing", () => {
  test("what was written in time but comes after the end is kept apart, and changes neither answer nor mark", async () => {
    const { student, attemptId, save } = await started("noor.haldane", "Tides and clearances");
    await save(4, { parts: { a: "1" } });
    const inTime = Date.now() + MINUTE;
    moveClock(25 * MINUTE);
    const late = { device: randomUUID(), revision: 3, writtenAt: inTime };
    await expect(save(4, { parts: { a: "4.2" } }, late)).rejects.toMatchObject({
      status: 409,
      type: "handed-in",
      sentence: expect.stringContaining("kept apart as late writing"),
      more: { late: [{ slot: 4, device: late.device, revision: 3 }] },
    });
    // Sent again it is still one.
    await expect(save(4, { parts: { a: "4.2" } }, late)).rejects.toMatchObject({ type: "handed-in" });
    const rows = await sql`select slot, answer from late_writing where attempt_id = ${attemptId}`;
    expect(rows).toMatchObject([{ slot: 4, answer: { parts: { a: "4.2" } } }]);
    const [kept] = await sql`select answer from answer where attempt_id = ${attemptId} and slot = 4`;
    expect(kept?.answer).toEqual({ parts: { a: "1" } });
    expect((await attempt(attemptId))?.handed_in_by).toBe("clock");
    expect((await slipOf(student, attemptId))?.lateWriting).toMatchObject([
      // What its student could see when it came is kept with it.
      { slot: 4, shown: "their total, marks for each question, what they wrote" },
    ]);
  });

  test("what was written after the end is refused and kept nowhere", async () => {
    const { attemptId, save } = await started("gideon.salcano", "Tides and clearances");
    moveClock(25 * MINUTE);
    await expect(save(4, { parts: { a: "4.2" } }, { writtenAt: Date.now() })).rejects.toMatchObject({
      type: "handed-in",
      more: { late: [] },
    });
    expect(await sql`select 1 from late_writing where attempt_id = ${attemptId}`).toHaveLength(0);
  });

  test("what was saved already and is only sent again is not late writing", async () => {
    const { attemptId, save } = await started("samir.eastlake", "Tides and clearances");
    const same = { device: randomUUID(), revision: 2, writtenAt: Date.now() };
    await save(4, { parts: { a: "4.2" } }, same);
    moveClock(25 * MINUTE);
    await expect(save(4, { parts: { a: "4.2" } }, same)).rejects.toMatchObject({
      more: { late: [{ slot: 4, device: same.device, revision: 2 }] },
    });
    expect(await sql`select 1 from late_writing where attempt_id = ${attemptId}`).toHaveLength(0);
  });
});

describe("taking back", () => {
  test("reopens the same attempt; each hand-in keeps its own slip", async () => {
    const { student, attemptId, save } = await started("noor.haldane", "Two short essays on the meadow");
    await save(1, { rich: "<p>Fewer flowers.</p>" });
    await handInAttempt(student, attemptId, {});
    const first = await slipOf(student, attemptId);
    expect(first).toMatchObject({
      answered: 0,
      inPart: 1,
      takeBack: { until: expect.any(Number) },
      earlier: [],
    });
    await takeBack(student, attemptId);
    expect(await openDesk(student, attemptId)).not.toBeNull();
    // Taking back twice is not an error; the deadline has not moved.
    await takeBack(student, attemptId);
    await save(2, { rich: "<p>Fixed transects.</p>" });
    await handInAttempt(student, attemptId, {});
    const second = await slipOf(student, attemptId);
    expect(second).toMatchObject({ answered: 0, inPart: 2, earlier: [{ code: first?.code }] });
    expect(second?.code).not.toBe(first?.code);
    const marks = await sql`select count(*)::int as marks from mark where attempt_id = ${attemptId}`;
    expect(marks[0]?.marks).toBe(6);
    const record = await sql`select action from record where subject_id = ${attemptId} order by at`;
    expect(record.map(({ action }) => action)).toContain("taken back");
  });

  test("what the clock hands in after a hand-in was taken back is told on Today as it stands now", async () => {
    const { student, attemptId, save } = await started(
      "rosalind.takahashi",
      "Two short essays on the meadow",
    );
    await save(1, { rich: "<p>Fewer flowers.</p>" });
    await handInAttempt(student, attemptId, {});
    await takeBack(student, attemptId);
    await save(2, { rich: "<p>Fixed transects.</p>" });
    moveClock(61 * MINUTE);
    await sweep();
    const { byClock } = await todayOf(student);
    expect(byClock.find((each) => each.attemptId === attemptId)).toMatchObject({ answered: 0, inPart: 2 });
  });

  test("is refused where a hand-in is final, after the deadline, and to anyone else", async () => {
    const final = await started("leif.okonma", "Tides and clearances");
    await handInAttempt(final.student, final.attemptId, {});
    await expect(takeBack(final.student, final.attemptId)).rejects.toMatchObject({ type: "final" });
    expect((await slipOf(final.student, final.attemptId))?.takeBack).toBeNull();
    const essay = await started("keziah.rowden", "Two short essays on the meadow");
    await handInAttempt(essay.student, essay.attemptId, {});
    await expect(takeBack(final.student, essay.attemptId)).rejects.toMatchObject({ status: 404 });
    moveClock(61 * MINUTE);
    await expect(takeBack(essay.student, essay.attemptId)).rejects.toMatchObject({ type: "time-is-up" });
  });
});

describe("the instructor and the desks", () => {
  test("more time moves the deadline of the running attempts, with its reason on record", async () => {
    const { student, attemptId } = await started("farid.kjeldsen", "Tides and clearances");
    const before = Number((await attempt(attemptId))?.deadline);
    const captain = await viewer("ines.marsh");
    const id = await quiz("Tides and clearances");
    const given = { minutes: 5, reason: "the fire alarm" };
    expect((await extendRunning(captain, id, given)).extended).toBeGreaterThanOrEqual(1);
    expect((await attemptPulse(student, attemptId)).deadline).toBe(before + 5 * MINUTE);
    const [line] =
      await sql`select details from record where subject_id = ${attemptId} and action = 'extended'`;
    expect(line?.details).toMatchObject({ reason: "the fire alarm" });
    await expect(extendRunning(student, id, given)).rejects.toMatchObject({ status: 404 });
    for (const bad of [
      { minutes: 0, reason: "x" },
      { minutes: 5 },
      { minutes: 5, reason: " " },
      { ...given, attemptId: "?" },
    ])
      await expect(extendRunning(captain, id, bad)).rejects.toMatchObject({ status: 422 });
    await expect(extendRunning(captain, id, { ...given, attemptIds: [randomUUID()] })).rejects.toMatchObject({
      status: 422,
    });
  });

  test("what staff say to the desks stands there from then on, and only of this quiz", async () => {
    const { student, attemptId } = await started("camila.thornbury", "Tides and clearances");
    const other = await started("noor.haldane", "Baker’s arithmetic, with tries");
    await sayToDesks(await viewer("ines.marsh"), await quiz("Tides and clearances"), {
      text: "Question 4: the keel is 1.4 m.",
    });
    expect((await attemptPulse(student, attemptId)).messages).toMatchObject([
      { text: "Question 4: the keel is 1.4 m.", from: "Captain Ines Marsh" },
    ]);
    expect((await attemptPulse(other.student, other.attemptId)).messages).toEqual([]);
    await expect(
      sayToDesks(student, await quiz("Tides and clearances"), { text: "hello" }),
    ).rejects.toMatchObject({ status: 404 });
  });
});
