import { createHash } from "node:crypto";
import { expect, test } from "vitest";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { handInAttempt } = await import("../desk/hand-in");
const { markedPaperOf } = await import("./marked-paper");
const { slipOf } = await import("./slip");
const { slipText } = await import("./slip-text");
const { verifySlip } = await import("./verify-slip");

async function handedIn(
  name: string,
  title = "Tides and clearances",
  slot = 4,
  answer: unknown = { parts: { b: "3,75", a: "4.2" } },
) {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  await confirmStart(student, attemptId);
  await saveAnswers(student.token, attemptId, writing(slot, answer));
  await handInAttempt(student, attemptId, {});
  return { student, attemptId };
}

test("anyone can learn that a code is genuine, when and for which quiz, and nothing else", async () => {
  const { student, attemptId } = await handedIn("jun.abernathy");
  const slip = await slipOf(student, attemptId);
  const verdict = await verifySlip((slip?.code ?? "").toLowerCase().replaceAll("-", " "));
  expect(verdict).toEqual({
    genuine: true,
    code: slip?.code,
    quiz: "Tides and clearances",
    course: "Coastal Navigation",
    at: slip?.handedInAt,
    takenBackAt: null,
  });
  expect(await verifySlip("0000-0000-0000")).toEqual({
    genuine: false,
    problem: "No slip with the code 0000-0000-0000 was given here.",
  });
  expect(await verifySlip("hello")).toMatchObject({
    genuine: false,
    problem: expect.stringContaining("twelve"),
  });
});

test("the plain text lets anyone work a digest out again from what was written", async () => {
  const { student, attemptId } = await handedIn("yusuf.penhallow");
  const text = await slipText(student, attemptId, "quiz.example/verify");
  const lines = text?.body.split("\n") ?? [];
  expect(lines).toContain(`Code:          ${text?.code}`);
  expect(lines).toContain("Anyone can check the code at quiz.example/verify");
  const at = lines.findIndex((line) => line.startsWith("  4  "));
  const written = lines[at + 1]?.trim() ?? "";
  expect(written).toBe('{"parts":{"a":"4.2","b":"3,75"}}');
  expect(lines[at]).toBe(`  4  ${createHash("sha256").update(written).digest("hex")}`);
  expect(lines).toContain("  1  empty");
});

test("where the rules do not show what was written, neither the text nor the page of the hand-in does", async () => {
  await sql`update quiz set settings = jsonb_set(settings, '{reveal,written}', '"when-returned"')
    where id = ${await quiz("Flower shapes")}`;
  const { student, attemptId } = await handedIn("hana.drummond", "Flower shapes", 3, {
    parts: { a: "7531" },
  });
  expect((await slipText(student, attemptId, ""))?.body).not.toContain("7531");
  const paper = await markedPaperOf(student, attemptId, "hand-in");
  expect(paper?.hidden.find(({ what }) => what === "written")?.when).toBe("when your instructor returns it");
  expect(JSON.stringify(paper)).not.toContain("7531");
  // The staff of the course read it all the same.
  const instructor = await viewer("adaeze.okafor");
  expect(JSON.stringify(await markedPaperOf(instructor, attemptId, "hand-in"))).toContain("7531");
});

test("the marked paper says what happened to the attempt, which others there are, and how many are left", async () => {
  const { student, attemptId } = await handedIn("valentin.aghedo");
  const paper = await markedPaperOf(student, attemptId);
  expect(paper?.record.map(({ words }) => words)).toEqual(["started", "first change saved", "handed in"]);
  const moments = paper?.record.map(({ at }) => at) ?? [];
  expect(moments).toEqual([...moments].sort((a, b) => a - b));
  expect(paper?.attempts).toMatchObject([
    { id: attemptId, number: 1, words: expect.stringMatching(/ \/ 30$/) },
  ]);
  expect(paper?.left).toBe(1);
  // Staff read the same paper, and of the others nothing by the way.
  const instructor = await viewer("ines.marsh");
  expect(await markedPaperOf(instructor, attemptId)).toMatchObject({ attempts: [], left: null });
});

test("the page of the hand-in holds what was written, and neither marks nor right answers", async () => {
  const { student, attemptId } = await handedIn("quentin.mbele");
  const paper = await markedPaperOf(student, attemptId, "hand-in");
  expect(paper?.total).toBeNull();
  const fourth = paper?.questions[3];
  expect(fourth?.parts.map((part) => part.written)).toEqual(["4.2", "3,75", ""]);
  for (const question of paper?.questions ?? []) {
    expect(question).not.toHaveProperty("marks");
    expect(question).not.toHaveProperty("worked");
    for (const part of question.parts) {
      for (const field of ["right", "marks", "state", "why", "feedback"])
        expect(part).not.toHaveProperty(field);
    }
    for (const option of question.options) expect(option).not.toHaveProperty("right");
  }
});
