import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test, vi } from "vitest";
import type { RuleSentence } from "@/core/brief/phrases";
import type { RevealRules } from "@/core/quiz/rules";
import { GRACE, HOUR, MINUTE } from "@/core/time/instants";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";
import { ANSWERS, markEssay, onlyShown, shownIn, writeWork } from "../../../tests/support/marked-work";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart, openDesk } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { handInAttempt } = await import("../desk/hand-in");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { slipOf } = await import("../handed-in/slip");
const { pictureOf } = await import("../desk/media");
const { startPractice } = await import("../practice/practise");
const { extendRunning } = await import("../quizzes/extend-running");
const { changeSettings } = await import("../quizzes/change-settings");
const { setTimes } = await import("../quizzes/set-times");
const { briefOf } = await import("../overview/brief");
const { coursePage } = await import("../overview/courses");
const { gradebookOf } = await import("../gradebook/gradebook");

const student = await viewer("keziah.rowden");
const other = await viewer("ottoline.diaz");
const instructor = await viewer("adaeze.okafor");
const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
afterEach(() => {
  vi.useRealTimers();
});

let made = 0;
/** A quiz of which the student has handed in an attempt, everything answered and marked. */
async function prepared(
  reveal: RevealRules,
  settings: object = {},
  window: { due?: number | null; closes?: number | null } = {},
) {
  made += 1;
  const { quizId, title } = await writeWork(sql, "pol-101", `Who still writes ${made}`, reveal, settings);
  const date = (instant: number | null | undefined, usual: number) =>
    instant === null ? null : new Date(instant ?? usual);
  const usual = Date.now() + 2 * HOUR;
  await sql`update quiz set due = ${date(window.due, usual)}, closes = ${date(window.closes, usual)} where id = ${quizId}`;
  const { attemptId } = await startAttempt(student, quizId);
  await confirmStart(student, attemptId);
  for (const [i, answer] of ANSWERS.entries()) {
    await saveAnswers(student.token, attemptId, writing(i + 1, answer));
  }
  await handInAttempt(student, attemptId, {});
  await markEssay(sql, attemptId);
  const seen = async () => shownIn(JSON.stringify(await markedPaperOf(student, attemptId)));
  return { quizId, title, attemptId, seen, usual };
}

describe("the key waits for everyone who may still write", () => {
  test("late work: after due means after the end of taking it", async () => {
    const due = Date.now() + HOUR;
    const { seen } = await prepared(onlyShown("right", "after-due"), {}, { due, closes: due + HOUR });
    at(due + MINUTE);
    expect(await seen()).toEqual([]);
    at(due + HOUR);
    expect(await seen()).toEqual(["right"]);
  });

  test("a running attempt, and more time for it, to the end of the grace", async () => {
    const { quizId, seen, usual } = await prepared(onlyShown("right", "after-closing"), { timeLimit: 30 });
    const { attemptId } = await startAttempt(other, quizId);
    await confirmStart(other, attemptId);
    await extendRunning(instructor, quizId, { minutes: 180, reason: "ill", attemptIds: [attemptId] });
    const [row] = await sql`select deadline from attempt where id = ${attemptId}`;
    const deadline = row?.deadline.getTime();
    expect(deadline).toBeGreaterThan(usual);
    at(usual + MINUTE);
    expect(await seen()).toEqual([]);
    at(deadline);
    expect(await seen()).toEqual([]);
    at(deadline + GRACE);
    expect(await seen()).toEqual(["right"]);
  });

  test("a running attempt without an end", async () => {
    const { quizId, seen } = await prepared(
      onlyShown("right", "after-due"),
      { closingCutsClock: false },
      { due: Date.now() + HOUR, closes: null },
    );
    await sql`update quiz set only_assigned = true where id = ${quizId}`;
    await sql`insert into assignment (quiz_id, person_id) values (${quizId}, ${student.id}), (${quizId}, ${other.id})`;
    const { attemptId } = await startAttempt(other, quizId);
    at(Date.now() + 400 * 24 * HOUR);
    expect(await seen()).toEqual([]);
    await sql`update session set expires_at = now() + interval '9 years'`;
    await handInAttempt(other, attemptId, {});
    expect(await seen()).toEqual(["right"]);
  });

  test("an allowance with its own closing does not make the quiz close; who may still start keeps it", async () => {
    const { quizId, seen } = await prepared(
      onlyShown("right", "after-closing"),
      {},
      { due: null, closes: null },
    );
    await sql`insert into allowance (id, quiz_id, person_id, closes, reason) values (gen_random_uuid(), ${quizId}, ${other.id}, now() + interval '1 minute', 'ill')`;
    at(Date.now() + 10 * 24 * HOUR);
    expect(await seen()).toEqual([]);
    const due = await prepared(onlyShown("right", "after-due"), {}, { due: Date.now() + HOUR, closes: null });
    at(Date.now() + 20 * 24 * HOUR);
    // Everybody else in the course may still start it.
    expect(await due.seen()).toEqual([]);
  });

  test("a later due time of one student keeps it from all", async () => {
    const { quizId, seen, usual } = await prepared(onlyShown("right", "after-due"));
    await sql`insert into allowance (id, quiz_id, person_id, due, closes, reason)
      values (gen_random_uuid(), ${quizId}, ${other.id}, ${new Date(usual + HOUR)}, ${new Date(usual + HOUR)}, 'ill')`;
    at(usual + MINUTE);
    expect(await seen()).toEqual([]);
    at(usual + HOUR);
    expect(await seen()).toEqual(["right"]);
  });

  test("a hand-in that may be taken back", async () => {
    const due = Date.now() + HOUR;
    const { quizId, seen } = await prepared(
      onlyShown("right", "after-closing"),
      { timeLimit: 600 },
      { due: null, closes: due },
    );
    const { attemptId } = await startAttempt(other, quizId);
    await confirmStart(other, attemptId);
    await handInAttempt(other, attemptId, {});
    await sql`update attempt set deadline = ${new Date(due + HOUR)} where id = ${attemptId}`;
    await sql`update quiz set settings = settings || '{"takeBack":true}' where id = ${quizId}`;
    at(due + MINUTE);
    expect(await seen()).toEqual([]);
    at(due + HOUR + GRACE);
    expect(await seen()).toEqual(["right"]);
  });
});

describe("own later attempts", () => {
  test("while one runs the earlier paper is closed, but for its total", async () => {
    const all = Object.fromEntries(
      ["total", "marks", "written", "right", "worked"].map((what) => [what, "at-hand-in"]),
    ) as unknown as RevealRules;
    const { quizId, seen, attemptId } = await prepared({ ...all, laterAttemptsKnow: true }, { attempts: 3 });
    expect(await seen()).toEqual(["total", "marks", "written", "right", "worked"]);
    const second = await startAttempt(student, quizId);
    expect(await seen()).toEqual(["total"]);
    const paper = await markedPaperOf(student, attemptId);
    expect(paper?.hidden[0]?.when).toBe("once you have handed in the attempt that runs");
    await expect(startPractice(student, attemptId)).rejects.toMatchObject({ type: "no-practice" });
    await handInAttempt(student, second.attemptId, {});
    expect(await seen()).toContain("right");
  });

  test("with attempts left right answers are shown only where the rules say so in so many words", async () => {
    const { quizId, seen } = await prepared(
      { ...onlyShown("right", "at-hand-in"), worked: "when-returned" },
      { attempts: 2 },
    );
    await sql`update attempt set returned_at = now() where quiz_id = ${quizId}`;
    expect(await seen()).toEqual([]);
    const second = await startAttempt(student, quizId);
    await handInAttempt(student, second.attemptId, {});
    expect(await seen()).toEqual(["right", "worked"]);
  });
});

test("a condition on another quiz tells nothing of a total that is not shown yet, and opens with it", async () => {
  const first = await prepared(onlyShown("total", "when-returned"), {});
  const second = await writeWork(sql, "pol-101", `After ${first.title}`, onlyShown("total", "at-hand-in"));
  await sql`update quiz set first_quiz_id = ${first.quizId}, first_at_least = 60 where id = ${second.quizId}`;
  // 79.46 of 154.53 are 51.42 %: neither that, nor on which side of the bar it is, may be told.
  const everything = async () =>
    JSON.stringify([await briefOf(student, second.quizId), await coursePage(student, "pol-101")]);
  for (const earned of [79.46, 150]) {
    await sql`update attempt set earned = ${earned} where quiz_id = ${first.quizId}`;
    const said = await everything();
    expect(said).not.toMatch(/51\.42|97\.07|you have \d/);
    expect(said).toContain("this opens once you may see its mark, when your instructor returns it");
    await expect(startAttempt(student, second.quizId)).rejects.toMatchObject({ type: "another-first" });
  }
  await sql`update attempt set returned_at = now() where quiz_id = ${first.quizId}`;
  await expect(startAttempt(student, second.quizId)).resolves.toMatchObject({
    attemptId: expect.any(String),
  });
  await sql`update attempt set earned = 79.46 where quiz_id = ${first.quizId}`;
  expect(await everything()).toContain("51.42 %");
});

test("after the hand-in only pictures of the attempt's own questions are served, and only where they are shown", async () => {
  const { quizId, attemptId } = await prepared(onlyShown("written", "at-hand-in"));
  const [version] = await sql`select id, content from quiz_version where quiz_id = ${quizId}`;
  const png =
    "data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==";
  const point = (id: string, picture: string) => ({
    id,
    kind: "point-on-picture",
    text: "<p>Where?</p>",
    marks: 1,
    picture,
    aspect: 1,
    credit: "by-region",
    regions: [{ id: "r", name: "there", shape: "circle", x: 0.5, y: 0.5, radius: 0.2 }],
  });
  const content = {
    ...version?.content,
    pictures: ["drawn", "other"].map((id) => ({ id, alt: "a place", data: png })),
    sections: [{ draw: 1, questions: [point("one", "drawn"), point("two", "other")] }],
  };
  await sql`update quiz_version set content = ${sql.json(content)} where id = ${version?.id}`;
  const { seedOf } = await import("../attempts/seeds");
  const { planAttempt } = await import("@/core/attempt/plan");
  vi.resetModules();
  await import("../base/language");
  const fresh = await import("../desk/media");
  const [row] = await sql`select * from attempt where id = ${attemptId}`;
  const seed = await seedOf(row as never);
  const own = planAttempt(content as never, seed)[0]?.question.id === "one" ? "drawn" : "other";
  const not = own === "drawn" ? "other" : "drawn";
  expect((await fresh.pictureOf(student, attemptId, seed.picture(own))).type).toBe("image/png");
  for (const name of [seed.picture(not), own, not]) {
    await expect(fresh.pictureOf(student, attemptId, name)).rejects.toMatchObject({ status: 404 });
  }
  await sql`update quiz set settings = jsonb_set(settings, '{reveal,written}', '"never"') where id = ${quizId}`;
  await expect(fresh.pictureOf(student, attemptId, seed.picture(own))).rejects.toMatchObject({ status: 404 });
  void pictureOf;
  const { disconnect } = await import("@/data/database");
  await disconnect();
});

describe("settings are the quiz's own", () => {
  test("a correction holds at once, for papers handed in before it too, and is kept with who, what and why", async () => {
    const { quizId, attemptId, seen } = await prepared(onlyShown("total", "at-hand-in"), {
      lateCostPerDay: 10,
    });
    expect(await seen()).toEqual(["total"]);
    // Another version of the questions changes nothing of it.
    const [old] = await sql`select content, facts from quiz_version where quiz_id = ${quizId}`;
    await sql`insert into quiz_version (id, quiz_id, number, content, facts)
      values (${randomUUID()}, ${quizId}, 2, ${sql.json(old?.content)}, ${sql.json(old?.facts)})`;
    await sql`update quiz set current_version = 2 where id = ${quizId}`;
    await changeSettings(instructor, quizId, {
      settings: { reveal: { ...onlyShown("written", "at-hand-in") }, lateCostPerDay: null },
      reason: "agreed with the course",
    });
    expect(await seen()).toEqual(["written"]);
    expect((await slipOf(student, attemptId))?.marksShown).toEqual({
      state: "never",
      when: "not shown",
    });
    const [kept] = await sql`select * from setting_change where quiz_id = ${quizId}`;
    expect(kept).toMatchObject({
      before: { lateCostPerDay: 10, reveal: { total: "at-hand-in" } },
      after: { reveal: { written: "at-hand-in", total: "never" } },
      reason: "agreed with the course",
      changed_by: instructor.id,
    });
    expect(kept?.after.lateCostPerDay).toBeUndefined();
  });

  test("what contradicts itself, or the window, is refused with what to choose instead", async () => {
    const { quizId } = await prepared(onlyShown("total", "at-hand-in"));
    const change = (settings: object) => changeSettings(instructor, quizId, { settings, reason: "trial" });
    const right = onlyShown("right", "at-hand-in");
    await expect(change({ reveal: right, takeBack: true })).rejects.toMatchObject({
      status: 422,
      sentence: expect.stringContaining("do not allow taking back"),
    });
    await expect(change({ reveal: right, attempts: 2 })).rejects.toMatchObject({
      sentence: expect.stringContaining("only after the last attempt"),
    });
    await change({ reveal: { ...right, laterAttemptsKnow: true }, attempts: 2 });
    const early = { ...onlyShown("right", { on: new Date(Date.now() + MINUTE).toISOString() }) };
    await expect(change({ reveal: early })).rejects.toMatchObject({
      sentence: expect.stringContaining("before the quiz ends"),
    });
    await change({ reveal: onlyShown("right", "after-closing") });
    await expect(setTimes(instructor, quizId, { closes: null, reason: "open" })).rejects.toMatchObject({
      sentence: expect.stringContaining("this quiz does not close"),
    });
    await expect(change({ reveal: "never" })).rejects.toMatchObject({ status: 422 });
    await expect(change({ order: "one-way" })).rejects.toMatchObject({ status: 422 });
    await expect(changeSettings(student, quizId, { settings: {}, reason: "x" })).rejects.toMatchObject({
      status: 404,
    });
  });

  test("what is said at the desk is what the brief says", async () => {
    const { quizId } = await prepared(onlyShown("total", "at-hand-in"));
    const { attemptId } = await startAttempt(other, quizId);
    const said = (rules: readonly RuleSentence[] | undefined) =>
      rules?.filter(({ name }) => english(name) !== "Attempts");
    const desk = await openDesk(other, attemptId);
    expect(said(desk?.rules)).toEqual(said((await briefOf(other, quizId)).rules));
    expect(desk?.rules.flatMap(({ text }) => text)).toContainEqual({
      strong: "One of the questions by your instructor",
    });
  });
});

test("a mark out of another maximum is brought to the gradebook's, and Today tells what the gradebook tells", async () => {
  const { quizId, attemptId } = await prepared(onlyShown("total", "at-hand-in"));
  await sql`update attempt set earned = 50, awaited = 0, maximum = 100 where id = ${attemptId}`;
  const row = (await gradebookOf(student, "pol-101")).categories
    .flatMap(({ rows }) => rows)
    .find((each) => each.quizId === quizId);
  // Half of 154.53.
  expect(row?.mark).toMatchObject({ figure: "77.27", maximum: "154.53" });
  const { todayOf } = await import("../overview/today");
  const work = (await todayOf(student)).returned.find((each) => each.attemptId === attemptId);
  expect(work?.figure).toBe("77.27 / 154.53");
});
