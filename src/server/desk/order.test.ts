import { describe, expect, test } from "vitest";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

const sql = await ownDatabase();
const { viewer, quiz, attempt } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { openDesk } = await import("./open-desk");
const { moveOn } = await import("./move-on");
const { turnedPages } = await import("./desk-pages");
const { checkAnswer } = await import("./check-answer");
const { saveAnswers } = await import("./save-answers");
const { handInAttempt } = await import("./hand-in");
const { rightAnswerTo } = await import("@/core/kinds/marking");
const { planAttempt } = await import("@/core/attempt/plan");
const { seedOf } = await import("../attempts/seeds");
const { versionContent } = await import("../quizzes/versions");

async function started(name: string, title: string) {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  const row = await attempt(attemptId);
  const seed = await seedOf(row as never);
  const plan = planAttempt(await versionContent(row?.version_id), seed);
  const right = (slot: number) => {
    const question = plan[slot - 1]?.question;
    return question ? rightAnswerTo(question, seed) : null;
  };
  const save = (slot: number, answer: unknown, change = {}) =>
    saveAnswers(student.token, attemptId, writing(slot, answer, change));
  return { student, attemptId, right, save, plan };
}

describe("one way, told at once", () => {
  test("what is ahead is not sent, what was left is closed and told, and neither can be written", async () => {
    const { student, attemptId, right, save, plan } = await started(
      "noor.haldane",
      "Steering rules, one way",
    );
    const view = await openDesk(student, attemptId);
    expect(view?.progress.slots.map((slot) => [slot.access, slot.question !== null])).toEqual([
      ["open", true],
      ...Array.from({ length: 5 }, () => ["ahead", false]),
    ]);
    // No word of a later question is in anything that is sent.
    const sent = JSON.stringify(view);
    for (const { question } of plan.slice(1)) expect(sent).not.toContain(question.text.slice(3, 40));
    await expect(save(2, right(2))).rejects.toMatchObject({
      status: 409,
      type: "closed",
      sentence: "Question 2 is not open yet: the questions before it come first.",
      more: { slots: [2], page: 0 },
    });

    await save(1, right(1));
    const pages = await moveOn(student, attemptId, { from: 0, to: 1 });
    expect(pages.progress.page).toBe(1);
    expect(pages.progress.slots[0]).toMatchObject({
      access: "closed",
      question: null,
      fill: { state: "full" },
      told: { state: "full", marks: "1", maximum: "1" },
    });
    expect(pages.progress.slots[1]).toMatchObject({ access: "open", told: null });
    expect(pages.answers).toEqual([]);
    await expect(save(1, null)).rejects.toMatchObject({
      type: "closed",
      sentence: "Question 1 is closed, and can no longer be changed.",
    });
    const [kept] = await sql`select answer from answer where attempt_id = ${attemptId} and slot = 1`;
    expect(kept?.answer).toEqual(right(1));

    // Turning the same page again, from another device or after a lost answer, changes nothing.
    expect((await moveOn(student, attemptId, { from: 0, to: 1 })).progress.page).toBe(1);
    expect((await turnedPages(student, attemptId)).progress.page).toBe(1);
    // Neither back nor over what comes next.
    await expect(moveOn(student, attemptId, { from: 1, to: 3 })).rejects.toMatchObject({ type: "one-way" });
    await expect(moveOn(student, attemptId, { from: 1, to: 0 })).rejects.toMatchObject({ type: "one-way" });
    await expect(moveOn(student, attemptId, { from: 3, to: 4 })).rejects.toMatchObject({ type: "closed" });
  });

  test("a wrong answer is told with its feedback, and never with the key", async () => {
    const { student, attemptId, save, plan } = await started("gideon.salcano", "Steering rules, one way");
    const view = await openDesk(student, attemptId);
    const question = view?.progress.slots[0]?.question;
    const options = question && "options" in question ? question.options : [];
    const wrong = options.find((option) => option.text.includes("alter course to port"));
    await save(1, { pick: wrong?.id });
    const { progress } = await moveOn(student, attemptId, { from: 0, to: 1 });
    expect(progress.slots[0]?.told).toEqual({
      state: "none",
      marks: "0",
      maximum: "1",
      parts: [
        {
          label: null,
          state: "none",
          why: expect.stringMatching(/./),
          feedback: expect.stringContaining("the rule is starboard for both"),
        },
      ],
    });
    const told = JSON.stringify(progress.slots[0]);
    expect(told).not.toContain("alter course to starboard");
    expect(told).not.toContain(plan[0]?.question.worked?.slice(3, 30) ?? "?");
  });

  test("a save whose answer was lost on the way may come again after the page was turned", async () => {
    const { student, attemptId, right, save } = await started("samir.eastlake", "Steering rules, one way");
    const device = "1b4e28ba-2fa1-41d2-883f-0016d3cca427";
    const same = { device, revision: 7, writtenAt: Date.now() };
    await save(1, right(1), same);
    await moveOn(student, attemptId, { from: 0, to: 1 });
    expect((await save(1, right(1), same)).saved).toEqual([{ slot: 1, device, revision: 7 }]);
    await expect(save(1, null, { ...same, revision: 8 })).rejects.toMatchObject({ type: "closed" });
  });

  test("the last question is told too before the final look, and all of it is marked at the hand-in", async () => {
    const { student, attemptId, right, save } = await started("leif.okonma", "Steering rules, one way");
    for (let slot = 1; slot <= 6; slot += 1) {
      await save(slot, right(slot));
      const { progress } = await moveOn(student, attemptId, { from: slot - 1, to: slot });
      expect(progress.slots[slot - 1]?.told?.state).toBe("full");
    }
    await expect(moveOn(student, attemptId, { from: 6, to: 7 })).rejects.toMatchObject({ status: 409 });
    await handInAttempt(student, attemptId, {});
    expect((await attempt(attemptId))?.earned).toBe("9.0000");
    await expect(moveOn(student, attemptId, { from: 0, to: 1 })).rejects.toMatchObject({ type: "handed-in" });
  });
});

describe("pages by section, to be answered before moving on", () => {
  test("the next page opens when all of this one is answered", async () => {
    const { student, attemptId, right, save } = await started("noor.haldane", "Chartroom sitting, part one");
    const view = await openDesk(student, attemptId);
    expect(view?.order).toMatchObject({
      rule: "one-way",
      pages: [
        [1, 2],
        [3, 4],
        [5, 6, 7],
      ],
      answerFirst: true,
    });
    await save(1, right(1));
    await expect(moveOn(student, attemptId, { from: 0, to: 1 })).rejects.toMatchObject({
      type: "answer-first",
      sentence: expect.stringContaining("Question 2 is not complete"),
    });
    await save(2, right(2));
    expect(
      (await moveOn(student, attemptId, { from: 0, to: 1 })).progress.slots.map(({ access }) => access),
    ).toEqual(["closed", "closed", "open", "open", "ahead", "ahead", "ahead"]);
  });

  test("the pictures of a page go with it, with their sizes, and not before", async () => {
    const { student, attemptId } = await started("camila.thornbury", "Chartroom sitting, part one");
    const { pictureOf } = await import("./media");
    const view = await openDesk(student, attemptId);
    expect(view?.pictures).toEqual([
      {
        // By a name of this attempt: the author's own might tell too much.
        id: expect.not.stringContaining("approach"),
        alt: expect.stringContaining("A chart of a strait"),
        width: 960,
        height: 640,
      },
    ]);
    const name = view?.pictures[0]?.id ?? "";
    expect((await pictureOf(student, attemptId, name)).type).toBe("image/svg+xml");
    await expect(pictureOf(student, attemptId, "approach")).rejects.toMatchObject({ status: 404 });
    await expect(pictureOf(student, attemptId, "elsewhere")).rejects.toMatchObject({ status: 404 });
    await sql`update attempt set page = 1 where id = ${attemptId}`;
    await expect(pictureOf(student, attemptId, name)).rejects.toMatchObject({ status: 404 });
    await expect(pictureOf(await viewer("ines.marsh"), attemptId, name)).resolves.toBeTruthy();
  });

  test("formulas are drawn by the server, for eyes and for screen readers", async () => {
    const { student, attemptId } = await started("farid.kjeldsen", "Chartroom sitting, part one");
    await sql`update attempt set page = 1 where id = ${attemptId}`;
    const question = (await openDesk(student, attemptId))?.progress.slots[3]?.question;
    expect(question?.text).toContain("<math");
    const options = question && "options" in question ? question.options : [];
    expect(options.map((option) => option.formula)).toContain("t = \\frac{d}{v}");
    for (const option of options) expect(option.drawn).toContain("<mfrac>".slice(0, 2));
  });
});

describe("tries", () => {
  test("cost what the quiz says, part by part; the same again, an empty and an unreadable one cost nothing", async () => {
    const { student, attemptId, right, save } = await started(
      "noor.haldane",
      "Baker’s arithmetic, with tries",
    );
    const check = () => checkAnswer(student, attemptId, { slot: 1 });
    await expect(check()).rejects.toMatchObject({ status: 422 });
    const key = right(1);
    const parts = key && "parts" in key ? key.parts : {};
    await save(1, { parts: { a: "1" } });
    expect(await check()).toMatchObject([
      { label: "a", wrong: 1, left: 2, right: false, worth: "3/4" },
      { label: "b", wrong: 0, left: 3 },
      { label: "c", wrong: 0, left: 3 },
    ]);
    expect((await check())[0]).toMatchObject({ wrong: 1, left: 2 });
    await save(1, { parts: { a: "1.0" } });
    expect((await check())[0], "the same value, written otherwise").toMatchObject({ wrong: 1 });
    await save(1, { parts: { a: "about a lot" } });
    expect((await check())[0]).toMatchObject({ wrong: 1 });
    const [rows] = await sql`select count(*)::int as rows from answer_check where attempt_id = ${attemptId}`;
    expect(rows?.rows).toBe(1);
    await save(1, { parts: { ...parts } });
    expect(await check()).toMatchObject([
      { right: true, left: 0, wrong: 1 },
      { right: true, wrong: 0 },
      { right: true, wrong: 0 },
    ]);
    await expect(check()).rejects.toMatchObject({ type: "no-tries-left" });
    expect((await openDesk(student, attemptId))?.progress.slots[0]?.tries?.[0]).toMatchObject({ wrong: 1 });
    await handInAttempt(student, attemptId, {});
    const [mark] = await sql`select marks, detail from mark where attempt_id = ${attemptId} and slot = 1`;
    expect(mark?.marks).toBe("2.7500");
    expect(english(mark?.detail.parts[0].why)).toContain("1 wrong try, 1/4 of the part lost");
  });

  test("a third wrong try is the last", async () => {
    const { student, attemptId, save } = await started("hamid.castellane", "Baker’s arithmetic, with tries");
    for (const written of ["1", "2", "3"]) {
      await save(3, { parts: { a: written } });
      await checkAnswer(student, attemptId, { slot: 3 });
    }
    await expect(checkAnswer(student, attemptId, { slot: 3 })).rejects.toMatchObject({
      type: "no-tries-left",
    });
  });

  test("where the quiz allows none, or the question is marked by a person, nothing is checked", async () => {
    const other = await started("yusuf.penhallow", "Tides and clearances");
    await expect(checkAnswer(other.student, other.attemptId, { slot: 1 })).rejects.toMatchObject({
      type: "no-tries",
    });
    await expect(checkAnswer(other.student, other.attemptId, { slot: "one" })).rejects.toMatchObject({
      status: 422,
    });
  });
});

describe("a second part that opens after the first", () => {
  test("is refused with the rule, and opens with the hand-in", async () => {
    const student = await viewer("quentin.mbele");
    const second = await quiz("Chartroom sitting, part two");
    await expect(startAttempt(student, second)).rejects.toMatchObject({
      type: "another-first",
      sentence: "Hand in “Chartroom sitting, part one” first.",
    });
    const { attemptId } = await startAttempt(student, await quiz("Chartroom sitting, part one"));
    await expect(startAttempt(student, second)).rejects.toMatchObject({ type: "another-first" });
    await handInAttempt(student, attemptId, {});
    await expect(startAttempt(student, second)).resolves.toBeTruthy();
  });

  test("a share that has to be reached is asked for, too", async () => {
    const student = await viewer("nikolai.pellworth");
    const second = await quiz("Chartroom sitting, part two");
    await sql`update quiz set first_at_least = 60 where id = ${second}`;
    const { attemptId } = await startAttempt(student, await quiz("Chartroom sitting, part one"));
    await handInAttempt(student, attemptId, {});
    await expect(startAttempt(student, second)).rejects.toMatchObject({
      sentence: "At least 60 % in “Chartroom sitting, part one” are asked for first; you have 0 % so far.",
    });
    await sql`update quiz set first_at_least = null where id = ${second}`;
  });
});
