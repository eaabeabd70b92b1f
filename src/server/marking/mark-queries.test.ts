import { expect, test } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { handInAttempt } = await import("../desk/hand-in");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { askAboutMark } = await import("./mark-queries");

async function handedIn(name: string, title: string) {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  await handInAttempt(student, attemptId, {});
  return { student, attemptId };
}

test("a student asks about a mark, the instructor answers, and both read it at that question", async () => {
  const { student, attemptId } = await handedIn("jun.abernathy", "Tides and clearances");
  const instructor = await viewer("ines.marsh");
  await askAboutMark(student, attemptId, { slot: "4", text: "  Why did c get nothing?  " });
  await askAboutMark(instructor, attemptId, { slot: "4", text: "It was empty." });
  const own = (await markedPaperOf(student, attemptId))?.queries;
  expect(own).toMatchObject([
    { slot: 4, own: true, text: "Why did c get nothing?" },
    { slot: 4, own: false, author: "Captain Ines Marsh", text: "It was empty." },
  ]);
  expect((await markedPaperOf(instructor, attemptId))?.queries.map((line) => line.own)).toEqual([
    false,
    true,
  ]);
});

test("nobody else asks, and nobody before the marks are shown", async () => {
  const { attemptId } = await handedIn("yusuf.penhallow", "Tides and clearances");
  const stranger = await viewer("kofi.grunwalder");
  await expect(askAboutMark(stranger, attemptId, { slot: "1", text: "Hello" })).rejects.toMatchObject({
    status: 404,
  });
  const essays = await handedIn("mbali.arkwell", "Two short essays on the meadow");
  await expect(
    askAboutMark(essays.student, essays.attemptId, { slot: "1", text: "Hello" }),
  ).rejects.toMatchObject({
    status: 409,
    type: "marks-not-shown",
  });
  expect(await markedPaperOf(essays.student, essays.attemptId)).toMatchObject({ mayAsk: false, queries: [] });
});

test.each([
  [{ slot: "1", text: "   " }, "Write what you would like to know."],
  [{ slot: "99", text: "Hello" }, "This attempt has no question 99."],
  [{ text: "Hello" }, "Slot is missing: the question that is asked about."],
  [
    { slot: "1", text: "x".repeat(2_001) },
    "Two thousand characters at most; what takes more is better said in person.",
  ],
])("bad input is refused with a sentence: %#", async (input, sentence) => {
  const student = await viewer("samir.eastlake");
  const [known] =
    await sql`select id from attempt where person_id = ${student.id} and quiz_id = ${await quiz("Lights at a glance")}`;
  const attemptId = known?.id ?? (await handedIn("samir.eastlake", "Lights at a glance")).attemptId;
  await expect(askAboutMark(student, attemptId, input)).rejects.toMatchObject({ status: 422, sentence });
  const rows = await sql`select * from mark_query where attempt_id = ${attemptId}`;
  expect(rows).toHaveLength(0);
});
