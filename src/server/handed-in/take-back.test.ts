import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test, vi } from "vitest";
import { HOUR, MINUTE, SECOND } from "@/core/time/instants";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { onlyShown, shownIn, writeWork } from "../../../tests/support/marked-work";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart, openDesk } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { handInAttempt } = await import("../desk/hand-in");
const { takeBack } = await import("./take-back");
const { slipOf } = await import("./slip");
const { verifySlip } = await import("./verify-slip");
const { markedPaperOf } = await import("./marked-paper");

const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
afterEach(() => {
  vi.useRealTimers();
});

let made = 0;
async function prepared(more: object = {}, reveal = onlyShown("written", "at-hand-in")) {
  made += 1;
  const student = await viewer("keziah.rowden");
  const { quizId } = await writeWork(sql, "pol-101", `Taken back ${made}`, reveal, {
    takeBack: true,
    ...more,
  });
  const { attemptId } = await startAttempt(student, quizId);
  await confirmStart(student, attemptId);
  const save = (slot: number, answer: unknown, change = {}) =>
    saveAnswers(student.token, attemptId, writing(slot, answer, change));
  const held = async (slot: number) =>
    (await sql`select answer from answer where attempt_id = ${attemptId} and slot = ${slot}`)[0]?.answer;
  return { student, quizId, attemptId, save, held };
}

describe("late writing that was delivered meanwhile is part of it again", () => {
  test("a phone writes offline, a laptop hands in, the phone delivers, the laptop takes back: the later words stand", async () => {
    const { student, attemptId, save, held } = await prepared();
    const now = Date.now();
    await save(1, { text: "older" }, { writtenAt: now - 9 * SECOND });
    const phone = { device: randomUUID(), revision: 4, writtenAt: now - 5 * SECOND };
    await handInAttempt(student, attemptId, {});
    await expect(save(1, { text: "newer" }, phone)).rejects.toMatchObject({
      type: "handed-in",
      more: { late: [{ slot: 1, device: phone.device, revision: 4 }] },
    });
    await takeBack(student, attemptId);
    expect(await held(1)).toEqual({ text: "newer" });
    expect(await sql`select 1 from late_writing where attempt_id = ${attemptId}`).toHaveLength(0);
    const log = await sql`select answer from answer_log where attempt_id = ${attemptId} order by written_at`;
    expect(log.map(({ answer }) => answer)).toEqual([{ text: "older" }, { text: "newer" }]);
    // What the desk shows is what stands, on every device.
    const desk = await openDesk(student, attemptId);
    expect(desk?.answers).toMatchObject([{ slot: 1, answer: { text: "newer" }, device: phone.device }]);
    await handInAttempt(student, attemptId, {});
    expect((await slipOf(student, attemptId))?.lateWriting).toEqual([]);
  });

  test("what is older than what stands goes into the log and changes nothing", async () => {
    const { student, attemptId, save, held } = await prepared();
    const now = Date.now();
    await save(1, { text: "stands" }, { writtenAt: now - 2 * SECOND });
    await handInAttempt(student, attemptId, {});
    await save(1, { text: "earlier" }, { writtenAt: now - 8 * SECOND }).catch(() => {});
    await takeBack(student, attemptId);
    expect(await held(1)).toEqual({ text: "stands" });
    expect(await sql`select 1 from answer_log where attempt_id = ${attemptId}`).toHaveLength(2);
  });

  test("of a question that checking or telling closed nothing changes", async () => {
    const { student, attemptId, save, held } = await prepared();
    const now = Date.now();
    await save(1, { text: "closed" }, { writtenAt: now - 9 * SECOND });
    await handInAttempt(student, attemptId, {});
    await sql`update attempt set told = '[1]' where id = ${attemptId}`;
    await save(1, { text: "better" }, { writtenAt: now - 5 * SECOND }).catch(() => {});
    await takeBack(student, attemptId);
    expect(await held(1)).toEqual({ text: "closed" });
  });
});

describe("late writing and what was visible", () => {
  test("is kept with what its student could see when it came, and told to whoever teaches", async () => {
    const { student, attemptId, save } = await prepared({}, onlyShown("written", "at-hand-in"));
    await handInAttempt(student, attemptId, {});
    await save(2, { value: true }, { writtenAt: Date.now() - HOUR }).catch(() => {});
    const staff = await viewer("adaeze.okafor");
    expect(await slipOf(staff, attemptId)).toMatchObject({
      forStaff: true,
      lateWriting: [{ slot: 2, shown: "what they wrote" }],
    });
  });

  test("is taken no more once the right answers are shown to this student", async () => {
    const { student, attemptId, save } = await prepared(
      { takeBack: false },
      onlyShown("right", "at-hand-in"),
    );
    await handInAttempt(student, attemptId, {});
    expect(shownIn(JSON.stringify(await markedPaperOf(student, attemptId)))).toEqual(["right"]);
    await expect(
      save(1, { text: "keyword-omega" }, { writtenAt: Date.now() - MINUTE }),
    ).rejects.toMatchObject({
      type: "handed-in",
      sentence: expect.stringContaining("right answers are shown by now"),
      more: { late: [] },
    });
    expect(await sql`select 1 from late_writing where attempt_id = ${attemptId}`).toHaveLength(0);
  });

  test("under a number that was given in time to something else it is late writing, and not taken for saved", async () => {
    const { student, attemptId, save } = await prepared();
    const device = randomUUID();
    await save(1, { text: "in time" }, { device, revision: 1 });
    await handInAttempt(student, attemptId, {});
    await save(1, { text: "other" }, { device, revision: 1, writtenAt: Date.now() - MINUTE }).catch(() => {});
    const late = await sql`select answer from late_writing where attempt_id = ${attemptId}`;
    expect(late.map(({ answer }) => answer)).toEqual([{ text: "other" }]);
  });
});

test("a slip that was taken back says so to whoever checks it; the next one stands", async () => {
  const { student, attemptId } = await prepared();
  await handInAttempt(student, attemptId, {});
  const first = (await slipOf(student, attemptId))?.code ?? "";
  expect(await verifySlip(first)).toMatchObject({ genuine: true, takenBackAt: null });
  await takeBack(student, attemptId);
  expect(await verifySlip(first)).toMatchObject({ genuine: true, takenBackAt: expect.any(Number) });
  await handInAttempt(student, attemptId, {});
  const second = (await slipOf(student, attemptId))?.code ?? "";
  expect(await verifySlip(second)).toMatchObject({ genuine: true, takenBackAt: null });
  expect(await verifySlip(first)).toMatchObject({ takenBackAt: expect.any(Number) });
});

test("with taking back, nothing that tells right from wrong is shown before it is over", async () => {
  const reveal = { ...onlyShown("total", "at-hand-in"), marks: "at-hand-in", right: "at-hand-in" } as const;
  const { student, quizId, attemptId, save } = await prepared({}, reveal);
  await save(1, { text: "half-omega" });
  await handInAttempt(student, attemptId, {});
  const paper = await markedPaperOf(student, attemptId);
  expect(paper?.total).toBeNull();
  expect(shownIn(JSON.stringify(paper))).toEqual([]);
  const [set] = await sql`select due from quiz where id = ${quizId}`;
  at(set?.due.getTime());
  const after = await markedPaperOf(student, attemptId);
  expect(after?.total).not.toBeNull();
  expect(shownIn(JSON.stringify(after))).toContain("right");
});

test("taking back and starting in the same moment: one of them is refused with a sentence, and one attempt runs", async () => {
  const { student, quizId, attemptId } = await prepared({ attempts: 40 });
  await handInAttempt(student, attemptId, {});
  for (let round = 0; round < 12; round += 1) {
    const outcomes = await Promise.allSettled([takeBack(student, attemptId), startAttempt(student, quizId)]);
    for (const outcome of outcomes) {
      if (outcome.status === "rejected") expect(outcome.reason).toMatchObject({ status: 409 });
    }
    const running = await sql`select id from attempt where quiz_id = ${quizId} and handed_in_at is null`;
    expect(running).toHaveLength(1);
    for (const { id } of running) await handInAttempt(student, id, {});
  }
});

test("whoever left the course still reads their own paper, as far as it is shown, and starts nothing", async () => {
  const { student, quizId, attemptId } = await prepared({ takeBack: false, attempts: 3 });
  await handInAttempt(student, attemptId, {});
  const [row] = await sql`delete from enrolment where person_id = ${student.id}
    and course_id = (select course_id from quiz where id = ${quizId}) returning course_id`;
  expect(await markedPaperOf(student, attemptId)).toMatchObject({ attemptId });
  expect(await slipOf(student, attemptId)).toMatchObject({ attemptId });
  await expect(startAttempt(student, quizId)).rejects.toMatchObject({ status: 404 });
  await sql`insert into enrolment (person_id, course_id, role) values (${student.id}, ${row?.course_id}, 'student')`;
});
