import { afterEach, describe, expect, test, vi } from "vitest";
import { REVEALED, type RevealWhen } from "@/core/quiz/rules";
import { MINUTE } from "@/core/time/instants";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import {
  ANSWERS,
  markEssay,
  missingFrom,
  onlyShown,
  shownIn,
  writeWork,
} from "../../../tests/support/marked-work";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { handInAttempt } = await import("../desk/hand-in");
const { markedPaperOf } = await import("./marked-paper");
const { slipText } = await import("./slip-text");
const { slipOf } = await import("./slip");
const { gradebookOf } = await import("../gradebook/gradebook");
const { gradebookFile } = await import("../gradebook/gradebook-file");
const { briefOf } = await import("../overview/brief");
const { askAboutMark } = await import("../marking/mark-queries");
const { startPractice } = await import("../practice/practise");

const student = await viewer("keziah.rowden");
const instructor = await viewer("adaeze.okafor");
const others = [
  await viewer("ottoline.diaz"),
  await viewer("camila.thornbury"),
  await viewer("yuki.brandvold"),
];

const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
afterEach(() => {
  vi.useRealTimers();
});

async function handedIn(title: string, reveal: Parameters<typeof writeWork>[3], more: object = {}) {
  const { quizId } = await writeWork(sql, "pol-101", title, reveal, more);
  const { attemptId } = await startAttempt(student, quizId);
  await confirmStart(student, attemptId);
  for (const [i, answer] of ANSWERS.entries()) {
    await saveAnswers(student.token, attemptId, writing(i + 1, answer));
  }
  await handInAttempt(student, attemptId, {});
  await markEssay(sql, attemptId);
  return { quizId, attemptId };
}

/** Everything that is made for the student about this attempt, as text. */
async function everything(quizId: string, attemptId: string) {
  const [row] = await sql`select id from gradebook_item where quiz_id = ${quizId}`;
  const book = await gradebookOf(student, "pol-101", undefined, row?.id);
  const ledger = book.categories.flatMap(({ rows }) => rows).filter((each) => each.quizId === quizId);
  const file = await gradebookFile(student, "pol-101");
  return {
    paper: JSON.stringify(await markedPaperOf(student, attemptId)),
    handIn: JSON.stringify(await markedPaperOf(student, attemptId, "hand-in")),
    slip:
      JSON.stringify(await slipOf(student, attemptId)) +
      JSON.stringify(await slipText(student, attemptId, "")),
    brief: JSON.stringify(await briefOf(student, quizId)),
    gradebook: JSON.stringify(ledger) + JSON.stringify(book.classMarks?.shown ?? null),
    file: file.split("\n").find((line) => line.includes(ledger[0]?.title ?? "?")) ?? "",
  };
}

type Boundary = "hand-in" | "due" | "closing" | "date" | "return";
const SETTINGS: readonly [RevealWhen, Boundary | null][] = [
  ["at-hand-in", "hand-in"],
  ["after-due", "due"],
  ["after-closing", "closing"],
  [{ on: "2040-05-01T12:00:00.000Z" }, "date"],
  ["when-returned", "return"],
  ["never", null],
];

describe.each(SETTINGS)("shown %j", (when, usual) => {
  test.each(REVEALED)("%s: before, at and after, and nothing else in any response", async (what) => {
    const { quizId, attemptId } = await handedIn(
      `Work ${what} ${typeof when === "string" ? when : "on a date"}`,
      onlyShown(what, when),
    );
    // Late work is taken until closing: right answers wait for it.
    const boundary = usual === "due" && (what === "right" || what === "worked") ? "closing" : usual;
    const due = Date.now() + 3 * 60 * MINUTE;
    const closes = due + 60 * MINUTE;
    await sql`update quiz set due = ${new Date(due)}, closes = ${new Date(closes)} where id = ${quizId}`;
    const moment = {
      "hand-in": Number(
        (await sql`select handed_in_at from attempt where id = ${attemptId}`)[0]?.handed_in_at,
      ),
      due,
      closing: closes,
      date: Date.parse("2040-05-01T12:00:00.000Z"),
      return: closes + 60 * MINUTE,
    };

    const expectShown = async (isShown: boolean) => {
      const views = await everything(quizId, attemptId);
      expect(shownIn(views.paper), "paper").toEqual(isShown ? [what] : []);
      if (isShown) expect(missingFrom(views.paper, what)).toEqual([]);
      expect(shownIn(views.handIn), "hand-in").toEqual(isShown && what === "written" ? ["written"] : []);
      const totals = isShown && what === "total" ? ["total"] : [];
      // The slip tells the result as far as it may be told.
      expect(shownIn(views.slip), "slip").toEqual(isShown && what === "written" ? ["written"] : totals);
      expect(shownIn(views.brief), "brief").toEqual(totals);
      expect(shownIn(views.gradebook), "gradebook").toEqual(totals);
      expect(shownIn(views.file), "file").toEqual(totals);
      // What waits is said with when it comes, and not shown is never taken for nothing.
      const paper = await markedPaperOf(student, attemptId);
      expect(paper?.hidden.map((each) => each.what)).toEqual(
        REVEALED.filter((each) => each !== what || !isShown),
      );
      expect(paper?.hidden.every((each) => each.when.length > 3)).toBe(true);
      if (!totals.length) expect(views.file).not.toMatch(/,0,|"0"/);
      // Asking about a mark needs the mark.
      const ask = askAboutMark(student, attemptId, { slot: 1, text: "Why?" });
      if (isShown && what === "marks") await ask;
      else await expect(ask).rejects.toMatchObject({ type: "marks-not-shown" });
    };

    if (boundary === "return") {
      await expectShown(false);
      at(closes + 90 * MINUTE);
      await expectShown(false);
      await sql`update attempt set returned_at = ${new Date(moment.return)} where id = ${attemptId}`;
      at(moment.return);
      await expectShown(true);
    } else if (boundary === "hand-in") {
      await expectShown(true);
    } else if (boundary !== null) {
      await expectShown(false);
      at(moment[boundary] - 1);
      await expectShown(false);
      at(moment[boundary]);
      await expectShown(true);
      at(moment[boundary] + 1);
      await expectShown(true);
    } else {
      await expectShown(false);
      await sql`update attempt set returned_at = now() where id = ${attemptId}`;
      at(Date.parse("2041-01-01T00:00:00Z"));
      await expectShown(false);
    }

    // Whoever teaches the course reads all of it, whatever the rules; to anyone else it is not there.
    expect(shownIn(JSON.stringify(await markedPaperOf(instructor, attemptId)))).toEqual([...REVEALED]);
    for (const other of others) {
      await expect(markedPaperOf(other, attemptId)).rejects.toMatchObject({ status: 404 });
      await expect(slipText(other, attemptId, "")).rejects.toMatchObject({ status: 404 });
    }
    await expect(startPractice(student, attemptId)).rejects.toMatchObject({ type: "no-practice" });
  });
});

test("an allowance of one student keeps the key from all until that one can no longer write", async () => {
  const { quizId, attemptId } = await handedIn(
    "Work with a later window",
    onlyShown("right", "after-closing"),
  );
  const closes = Date.now() + 60 * MINUTE;
  await sql`update quiz set due = ${new Date(closes)}, closes = ${new Date(closes)} where id = ${quizId}`;
  await sql`insert into allowance (id, quiz_id, person_id, closes, reason) values (gen_random_uuid(), ${quizId}, ${others[0]?.id ?? ""}, ${new Date(closes + 60 * MINUTE)}, 'ill')`;
  const shown = async () => shownIn((await everything(quizId, attemptId)).paper);
  at(closes + MINUTE);
  expect(await shown()).toEqual([]);
  at(closes + 60 * MINUTE - 1);
  expect(await shown()).toEqual([]);
  at(closes + 60 * MINUTE);
  expect(await shown()).toEqual(["right"]);
});

test("only after the last attempt: while one is left nothing is shown, whatever else the rules say", async () => {
  const reveal = {
    ...onlyShown("right", "at-hand-in"),
    total: "at-hand-in" as const,
    onlyAfterLastAttempt: true,
  };
  const { quizId, attemptId } = await handedIn("Work with another attempt", reveal, { attempts: 2 });
  const views = await everything(quizId, attemptId);
  expect(Object.values(views).flatMap(shownIn)).toEqual([]);
  expect((await markedPaperOf(student, attemptId))?.hidden).toContainEqual({
    what: "right",
    when: "once no attempt is left to you",
    isNever: false,
  });
  await sql`update quiz set due = now(), closes = now() where id = ${quizId}`;
  expect(shownIn((await everything(quizId, attemptId)).paper)).toEqual(["total", "right"]);
});

test("only after the last attempt: nothing of an earlier one is shown while the last one is being written", async () => {
  const reveal = { ...onlyShown("right", "at-hand-in"), onlyAfterLastAttempt: true };
  const { quizId, attemptId } = await handedIn("Work with the last one running", reveal, { attempts: 2 });
  const last = await startAttempt(student, quizId);
  const shown = async () => Object.values(await everything(quizId, attemptId)).flatMap(shownIn);
  expect(await shown()).toEqual([]);
  // Neither once nobody could start any more: this one is still being written.
  await sql`update quiz set due = now(), closes = now() where id = ${quizId}`;
  expect(await shown()).toEqual([]);
  await handInAttempt(student, last.attemptId, {});
  expect(await shown()).toEqual(["right"]);
});

test("what still awaits marking is nowhere a zero", async () => {
  const { quizId } = await writeWork(sql, "pol-101", "Only an essay waits", {
    ...onlyShown("total", "at-hand-in"),
    marks: "at-hand-in",
  });
  const { attemptId } = await startAttempt(student, quizId);
  await saveAnswers(student.token, attemptId, writing(3, ANSWERS[2]));
  await handInAttempt(student, attemptId, {});
  const paper = await markedPaperOf(student, attemptId);
  expect(paper?.total).toMatchObject({ known: "", waiting: expect.stringContaining("between 0 and 5") });
  expect(paper?.questions[2]).toMatchObject({ state: "awaits" });
  const views = await everything(quizId, attemptId);
  expect(views.gradebook).toContain('"figure":"?"');
  expect(views.file).toMatch(/,\?,154\.53,/);
  expect(views.brief).toContain("? / 154.53");
});
