import { randomUUID } from "node:crypto";
import { describe, expect, test } from "vitest";
import { type HandWork, NO_WORK } from "@/core/marking/hand-work";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { pileOf } = await import("./pile");
const { answerOf } = await import("./answer-view");
const { claimAnswer } = await import("./claims");
const { saveMarking: save, wholeOfPaper } = await import("./save-marking");
const { returnWork, takeBackReturn } = await import("./return-work");
const { returningOf } = await import("./returning");
const { changePileView, sharePile } = await import("./share-pile");
const { changeRemarks } = await import("./remarks");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { previewPaper } = await import("../handed-in/preview-paper");
const { bellOf } = await import("../notices/bell");

const report = await quiz("Report on the meadow count");
const okafor = await viewer("adaeze.okafor");
const petrides = await viewer("yuna.petrides");
const hemming = await viewer("laszlo.hemming");

/** A paper of the report by its student. */
async function paperBy(email: string) {
  await pileOf(okafor, report);
  const [row] = await sql`select a.id, a.paper, q.slot from attempt a join person p on p.id = a.person_id
    join attempt_question q on q.attempt_id = a.id and q.question_id = 'survey'
    where a.quiz_id = ${report} and p.email = ${`${email}@alderquay.example`}`;
  return { attemptId: row?.id as string, paper: row?.paper as number, slot: row?.slot as number };
}

let revisions = 0;
const entry = (slot: number, work: Partial<HandWork>, change: object = {}) => {
  revisions += 1;
  return {
    slot,
    device: randomUUID(),
    revision: revisions,
    writtenAt: Date.now(),
    base: 0,
    work: { ...NO_WORK, ...work },
    ...change,
  };
};
/** Saves as a page does that shows the answer as it is now. */
async function saveMarking(
  by: typeof okafor,
  quizId: string,
  paper: number,
  { entries }: { readonly entries: readonly ReturnType<typeof entry>[] },
) {
  const shown = entries.map(async (each) => ({
    answerDigest: each.slot === 0 ? "" : (await answerOf(okafor, quizId, paper, each.slot)).answerDigest,
    ...each,
  }));
  return save(by, quizId, paper, { entries: await Promise.all(shown) });
}

const RUBRIC = {
  counts: { level: "per" },
  other: { level: "one", remark: "which way does it pull?" },
  next: { level: "fair" },
};

describe("the pile", () => {
  test("holds what needs a person, and says how far each is", async () => {
    const pile = await pileOf(okafor, report);
    expect(pile.questions.map(({ id }) => id)).toEqual(["survey", "counted"]);
    const states = new Set(pile.lines.map(({ state }) => state));
    expect([...states].sort()).toEqual(["awaits", "marked"]);
    for (const { id, awaiting } of pile.questions) {
      const own = pile.lines.filter((line) => line.question === id && line.state === "awaits");
      expect(awaiting).toBe(own.length);
    }
    expect(pile.lines.some(({ lateWriting }) => lateWriting)).toBe(true);
    expect(new Set(pile.lines.map(({ paper }) => paper)).size).toBe(19);
  });

  test("the numbers of papers stay, and tell neither who was first nor whose they are", async () => {
    const numbers = async () =>
      sql`select paper from attempt where quiz_id = ${report} and handed_in_at is not null order by handed_in_at`;
    const before = await numbers();
    await pileOf(petrides, report);
    expect(await numbers()).toEqual(before);
    const papers = before.map(({ paper }) => paper as number);
    expect(papers).not.toEqual([...papers].sort((a, b) => a - b));
  });

  test("names hidden: no name, address, file name, time or order tells whose answer it is", async () => {
    await changePileView(petrides, report, { namesHidden: true, byStudent: false });
    const pile = await pileOf(petrides, report);
    expect(pile.lines.map(({ paper }) => paper)).toEqual(
      [...pile.lines].sort((a, b) => a.paper - b.paper || a.slot - b.slot).map(({ paper }) => paper),
    );
    const people = await sql`select p.id, p.name, p.email, a.id as attempt from person p
      join attempt a on a.person_id = p.id where a.quiz_id = ${report}`;
    const names =
      await sql`select u.name from upload u join attempt a on a.id = u.attempt_id where a.quiz_id = ${report}`;
    const files = [...new Set(names.map(({ name }) => name as string))].filter(
      (name) => !/^page \d/.test(name),
    );
    const said: string[] = [JSON.stringify({ ...pile, remarks: [] })];
    for (const { paper, slot } of pile.lines)
      said.push(JSON.stringify(await answerOf(petrides, report, paper, slot)));
    const all = said.join("\n");
    for (const { id, name, email, attempt } of people)
      for (const tells of [id, name, email, attempt]) expect(all).not.toContain(tells);
    for (const name of files) expect(all).not.toContain(name);
    expect(all).not.toMatch(/handed in (Mon|Tue|Wed|Thu|Fri|Sat|Sun)/);
    expect(
      pile.lines.every(({ late, name, sections }) => late === null && name === null && sections.length === 0),
    ).toBe(true);
    // Each sees the pile as they chose.
    expect((await pileOf(okafor, report)).lines.every(({ name }) => name !== null)).toBe(true);
    await changePileView(petrides, report, { namesHidden: false, byStudent: false });
  });

  test("is shared out evenly among who may mark, by an instructor alone", async () => {
    const { shares } = await sharePile(okafor, report, { markers: [okafor.id, petrides.id] });
    const counts = shares.map(({ papers }) => papers);
    expect(Math.max(...counts) - Math.min(...counts)).toBeLessThanOrEqual(1);
    expect((await pileOf(petrides, report)).lines.filter(({ mine }) => mine).length).toBeGreaterThan(0);
    await expect(sharePile(okafor, report, { markers: [hemming.id] })).rejects.toMatchObject({ status: 422 });
    await expect(sharePile(petrides, report, { markers: [petrides.id] })).rejects.toMatchObject({
      status: 404,
    });
  });
});

describe("what is written to an answer", () => {
  test("is kept, is the same when it is sent again, and grows from state to state", async () => {
    const { paper, slot } = await paperBy("elin.karimi");
    const standing = (await answerOf(okafor, report, paper, slot)).standing?.version ?? 0;
    const first = entry(slot, { feedback: "Well argued." }, { base: standing });
    const saved = await saveMarking(okafor, report, paper, { entries: [first] });
    expect(saved.saved).toMatchObject([{ slot, version: standing + 1 }]);
    const again = await saveMarking(okafor, report, paper, { entries: [first] });
    expect(again.saved).toEqual(saved.saved);
    // The same number with something else in it is another thing.
    const other = { ...first, work: { ...first.work, feedback: "Something else." } };
    expect((await saveMarking(okafor, report, paper, { entries: [other] })).refused).toMatchObject([
      { type: "number-taken" },
    ]);
    // The same page goes on from what it wrote itself, whatever it has heard of it.
    const next = { ...first, revision: first.revision + 1, work: { ...first.work, marks: "3" } };
    expect((await saveMarking(okafor, report, paper, { entries: [next] })).saved).toMatchObject([
      { version: standing + 2 },
    ]);
    expect((await answerOf(okafor, report, paper, slot)).standing?.work).toMatchObject({ marks: "3" });
  });

  test("on an older state than the one stored is refused, with both shown: nothing is overwritten", async () => {
    const { paper, slot } = await paperBy("josefa.lyle");
    const before = (await answerOf(okafor, report, paper, slot)).standing?.version ?? 0;
    const mine = entry(slot, { marks: "4" }, { base: before });
    await saveMarking(okafor, report, paper, { entries: [mine] });
    await sql`update claim set until = now() - interval '1 second'`;
    const theirs = entry(slot, { marks: "7" }, { base: before });
    const receipt = await saveMarking(petrides, report, paper, { entries: [theirs] });
    expect(receipt.saved).toEqual([]);
    expect(receipt.refused).toMatchObject([{ type: "written-elsewhere" }]);
    expect(receipt.standing).toMatchObject([{ slot, work: { marks: "4" }, author: "Dr Adaeze Okafor" }]);
    expect((await answerOf(petrides, report, paper, slot)).standing?.work.marks).toBe("4");
    // Who has seen both may let theirs stand.
    const knowing = entry(slot, { marks: "7" }, { base: before + 1 });
    expect((await saveMarking(petrides, report, paper, { entries: [knowing] })).saved).toHaveLength(1);
  });

  test("the second of two is told who has it, and takes it over only by saying so", async () => {
    const { paper, slot } = await paperBy("mbali.arkwell");
    const [here, there] = [randomUUID(), randomUUID()];
    await sql`delete from claim`;
    expect(await claimAnswer(okafor, report, paper, { slot, device: here })).toMatchObject({ holder: null });
    expect((await claimAnswer(petrides, report, paper, { slot, device: there })).holder).toEqual({
      name: "Dr Adaeze Okafor",
      isSelf: false,
    });
    expect((await answerOf(petrides, report, paper, slot)).holder?.name).toBe("Dr Adaeze Okafor");
    const base = (await answerOf(petrides, report, paper, slot)).standing?.version ?? 0;
    const blocked = await saveMarking(petrides, report, paper, {
      entries: [entry(slot, { marks: "1" }, { base, device: there })],
    });
    expect(blocked.refused).toMatchObject([{ type: "held" }]);
    expect(
      (await pileOf(petrides, report)).lines.find((line) => line.paper === paper && line.slot === slot)
        ?.openAt,
    ).toBe("Dr Adaeze Okafor");
    expect(await claimAnswer(petrides, report, paper, { slot, device: there, takeOver: true })).toMatchObject(
      { holder: null },
    );
    expect((await claimAnswer(okafor, report, paper, { slot, device: here })).holder?.name).toBe(
      "Yuna Petrides",
    );
    await claimAnswer(petrides, report, paper, { slot, device: there, leave: true });
    expect(await claimAnswer(okafor, report, paper, { slot, device: here })).toMatchObject({ holder: null });
  });

  test("a claim that is not said again ends by itself", async () => {
    const { paper, slot } = await paperBy("mbali.arkwell");
    await sql`update claim set until = now() - interval '1 second'`;
    expect(await claimAnswer(petrides, report, paper, { slot, device: randomUUID() })).toMatchObject({
      holder: null,
    });
    await sql`delete from claim`;
  });

  test.each([
    [{ marks: "9" }, "The marks must be from 0 to 8."],
    [{ marks: "many" }, "The marks must be a number such as 2, 1.5 or 1/3."],
    [{ criteria: { counts: { level: "most" } } }, "The criterion “The counts” has no level most."],
    [{ criteria: { counts: { points: "4" } } }, "The points of “The counts” must be from 0 to 3."],
    [{ criteria: { style: { level: "fine" } } }, "There is no criterion style."],
  ])("%j does not fit its question, and nothing is changed", async (work, sentence) => {
    const { say } = await import("@/words/t");
    const { paper, slot } = await paperBy("keziah.rowden");
    const before = (await answerOf(okafor, report, paper, slot)).standing;
    const { refused, saved } = await saveMarking(okafor, report, paper, {
      entries: [entry(slot, work as Partial<HandWork>, { base: before?.version ?? 0 })],
    });
    expect(saved).toEqual([]);
    expect(refused.map((each) => say(each.sentence))).toEqual([sentence]);
    expect((await answerOf(okafor, report, paper, slot)).standing).toEqual(before);
  });

  test("one bad entry holds up no other", async () => {
    const { paper, slot } = await paperBy("wanjiru.holloway");
    const base = (await answerOf(okafor, report, paper, slot)).standing?.version ?? 0;
    const whole = (await wholeOfPaper(okafor, report, paper)).version;
    const { saved, refused } = await saveMarking(okafor, report, paper, {
      entries: [
        { ...entry(slot, {}, { base }), work: { nothing: true } as unknown as HandWork },
        entry(0, { feedback: "A good beginning." }, { base: whole }),
      ],
    });
    expect(saved).toMatchObject([{ slot: 0 }]);
    expect(refused).toMatchObject([{ slot, type: "bad-input" }]);
  });

  test("nobody writes over another by using the name of their page", async () => {
    const { paper, slot } = await paperBy("uma.granlund");
    await sql`delete from claim`;
    const base = (await answerOf(okafor, report, paper, slot)).standing?.version ?? 0;
    const mine = entry(slot, { marks: "4" }, { base });
    await saveMarking(okafor, report, paper, { entries: [mine] });
    const { standing } = await answerOf(petrides, report, paper, slot);
    const posing = entry(slot, { marks: "0" }, { base, device: standing?.device });
    expect((await saveMarking(petrides, report, paper, { entries: [posing] })).refused).toMatchObject([
      { type: "written-elsewhere" },
    ]);
    const knowing = { ...posing, base: standing?.version ?? 0, revision: posing.revision + 1 };
    expect((await saveMarking(petrides, report, paper, { entries: [knowing] })).refused).toMatchObject([
      { type: "held" },
    ]);
    expect((await answerOf(okafor, report, paper, slot)).standing?.work.marks).toBe("4");
    await sql`delete from claim`;
  });

  test("what was decided of an answer is decided again once its student took it back and wrote other words", async () => {
    const { takeBack } = await import("../handed-in/take-back");
    const { handInByStudent } = await import("../attempts/settle");
    const student = await viewer("hana.drummond");
    const { attemptId, paper, slot } = await paperBy("hana.drummond");
    const other = slot === 1 ? 2 : 1;
    await sql`delete from claim`;
    const seen = await answerOf(okafor, report, paper, slot);
    const base = seen.standing?.version ?? 0;
    const otherBase = (await answerOf(okafor, report, paper, other)).standing?.version ?? 0;
    await saveMarking(okafor, report, paper, {
      entries: [
        entry(slot, { criteria: RUBRIC, feedback: "Well argued." }, { base }),
        entry(other, { marks: "1" }, { base: otherBase }),
      ],
    });
    await sql`update quiz set due = now() + interval '1 day', closes = now() + interval '2 days',
      settings = settings || '{"takeBack": true}' where id = ${report}`;
    await sql`update attempt set handed_in_by = 'student', deadline = null where id = ${attemptId}`;
    await takeBack(student, attemptId);
    await expect(saveMarking(okafor, report, paper, { entries: [] })).rejects.toMatchObject({
      status: 409,
      type: "taken-back",
    });
    await sql`update answer set answer = '{"rich": "<p>Other words, written later, of another question.</p>"}'
      where attempt_id = ${attemptId} and slot = ${slot}`;
    await handInByStudent(attemptId, student.id);

    const state = async (at: number) =>
      (await pileOf(okafor, report)).lines.find((line) => line.paper === paper && line.slot === at)?.state;
    expect(await state(slot)).toBe("begun");
    expect(await state(other)).toBe("marked");
    const now = await answerOf(okafor, report, paper, slot);
    expect(now.standing?.work).toMatchObject({ criteria: {}, feedback: "Well argued." });
    // A page that still shows the earlier words writes over nothing, whatever it knows of what stands.
    const stale = entry(slot, { criteria: RUBRIC }, { base: now.standing?.version ?? 0 });
    const receipt = await save(okafor, report, paper, {
      entries: [{ ...stale, answerDigest: seen.answerDigest }],
    });
    expect(receipt.refused).toMatchObject([{ slot, type: "answer-changed" }]);
    expect(receipt.saved).toEqual([]);
    await returnWork(okafor, report, { attemptIds: [attemptId] });
    const own = (await markedPaperOf(student, attemptId))?.questions.find((each) => each.slot === slot);
    expect(own?.state).toBe("awaits");
    expect(JSON.stringify(own)).not.toContain("Well argued.");
  });

  test("remarks: one's own, and what others share", async () => {
    const kept = await changeRemarks(petrides, report, {
      keep: { short: "wind", text: "Which way does the wind pull?", shared: false },
    });
    expect(kept.some(({ short, own }) => short === "wind" && own)).toBe(true);
    const others = await changeRemarks(okafor, report, {});
    expect(others.some(({ short }) => short === "wind")).toBe(false);
    expect(others.some(({ short, own }) => short === "head" && !own)).toBe(true);
    const [head] = others.filter(({ short }) => short === "head");
    await changeRemarks(okafor, report, { used: head?.id });
    // Nobody takes another's away.
    await changeRemarks(okafor, report, { remove: head?.id });
    const after = (await changeRemarks(petrides, report, {})).find(({ short }) => short === "head");
    expect(after?.used).toBe((head?.used ?? 0) + 1);
    await expect(
      changeRemarks(petrides, report, { keep: { short: "two words", text: "x", shared: true } }),
    ).rejects.toMatchObject({ status: 422 });
  });
});

describe("returning", () => {
  test("nothing that is being written reaches its student; then all of it does, together, and they are told once", async () => {
    const student = await viewer("isolde.fairweather");
    const { attemptId, paper, slot } = await paperBy("isolde.fairweather");
    const read = async () => JSON.stringify(await markedPaperOf(student, attemptId));
    const seen = await read();
    const base = (await answerOf(okafor, report, paper, slot)).standing?.version ?? 0;
    const view = await answerOf(okafor, report, paper, slot);
    const text = view.answer.kind === "rich" ? view.answer.rich.replace(/<[^>]+>/g, "") : "";
    const words = text.slice(0, 12);
    await saveMarking(okafor, report, paper, {
      entries: [
        entry(
          slot,
          {
            criteria: RUBRIC,
            feedback: "FEEDBACK-OMEGA",
            notes: [
              {
                id: randomUUID(),
                anchor: { kind: "words", from: 0, to: words.length, words },
                text: "MARGIN-OMEGA",
              },
            ],
          },
          { base },
        ),
        entry(
          slot === 1 ? 2 : 1,
          { criteria: { head: { level: "all" }, lines: { level: "each" } } },
          { base: (await answerOf(okafor, report, paper, slot === 1 ? 2 : 1)).standing?.version ?? 0 },
        ),
        entry(0, { feedback: "WHOLE-OMEGA" }, { base: (await wholeOfPaper(okafor, report, paper)).version }),
      ],
    });
    expect(await read()).toBe(seen);
    expect(seen).not.toContain("OMEGA");

    // As its student will read it, and still nothing is shown.
    const preview = await previewPaper(okafor, attemptId);
    expect(JSON.stringify(preview)).toContain("MARGIN-OMEGA");
    expect(await read()).toBe(seen);
    await expect(previewPaper(petrides, attemptId)).rejects.toMatchObject({ status: 404 });

    const told = async () =>
      (await bellOf(student)).filter(({ path }: { path: string }) => path.includes(attemptId)).length;
    const before = await told();
    await returnWork(okafor, report, { attemptIds: [attemptId] });
    const after = await markedPaperOf(student, attemptId);
    const own = after?.questions.find((question) => question.slot === slot);
    expect(own).toMatchObject({
      marks: "6",
      feedback: "<p>FEEDBACK-OMEGA</p>",
      notes: [{ anchor: { words }, text: "<p>MARGIN-OMEGA</p>", author: "Dr Adaeze Okafor" }],
    });
    expect(own?.rubric?.map(({ reached, remark }) => [reached?.points, remark])).toEqual([
      ["3", undefined],
      ["1", "which way does it pull?"],
      ["2", undefined],
    ]);
    expect(after?.feedback).toContain("WHOLE-OMEGA");
    const timeless = (paper: typeof after) =>
      JSON.stringify({ ...paper, record: [] }).replace(/\d{13}/g, "TIME");
    expect(timeless(preview)).toBe(timeless(after));
    expect(await told()).toBe(before + 1);
    await returnWork(okafor, report, { attemptIds: [attemptId] });
    expect(await told()).toBe(before + 1);
  });

  test("a mark that is changed after the return says why, in its history, once it is returned again", async () => {
    const student = await viewer("isolde.fairweather");
    const { attemptId, paper, slot } = await paperBy("isolde.fairweather");
    const { standing } = await answerOf(okafor, report, paper, slot);
    if (!standing) throw new Error("nothing stands");
    const changed = { ...standing.work, criteria: { ...RUBRIC, other: { level: "how" } }, notes: [] };
    await saveMarking(okafor, report, paper, { entries: [entry(slot, changed, { base: standing.version })] });
    const state = async () =>
      (await returningOf(okafor, report)).papers.find((each) => each.attemptId === attemptId);
    expect(await state()).toMatchObject({
      state: "not-ready",
      why: expect.stringContaining("without its reason"),
    });
    const why = { ...changed, reason: "The wind was named in the last line." };
    await saveMarking(okafor, report, paper, { entries: [entry(slot, why, { base: standing.version + 1 })] });
    expect(await state()).toMatchObject({ state: "changed" });
    const { say } = await import("@/words/t");
    const before = await markedPaperOf(student, attemptId);
    expect(before?.questions.find((each) => each.slot === slot)?.marks).toBe("6");
    await returnWork(okafor, report, { which: "ready", attemptIds: [attemptId] });
    const own = (await markedPaperOf(student, attemptId))?.questions.find((each) => each.slot === slot);
    expect(own?.marks).toBe("8");
    expect(own?.notes ?? []).toEqual([]);
    expect(own?.history?.map(({ marks, reason }) => `${marks}: ${say(reason)}`).slice(1)).toEqual([
      "6 / 8: marked by hand",
      "8 / 8: The wind was named in the last line.",
    ]);
  });

  test("a return is taken back with a reason: what was shown is hidden again, who has read it is named, and it can be returned anew", async () => {
    const student = await viewer("isolde.fairweather");
    const { attemptId, slot } = await paperBy("isolde.fairweather");
    await expect(
      takeBackReturn(okafor, report, { attemptIds: [attemptId], reason: " " }),
    ).rejects.toMatchObject({ status: 422 });
    await expect(
      takeBackReturn(petrides, report, { attemptIds: [attemptId], reason: "x" }),
    ).rejects.toMatchObject({ status: 404 });
    const done = await takeBackReturn(okafor, report, {
      attemptIds: [attemptId],
      reason: "Two papers were mixed up.",
    });
    expect(done).toEqual({ takenBack: 1, read: ["Isolde Fairweather"] });
    const hidden = JSON.stringify(await markedPaperOf(student, attemptId));
    expect(hidden).not.toContain("OMEGA");
    expect(hidden).not.toContain('"marks":"8"');
    const [row] = await sql`select earned, awaited, returned_at from attempt where id = ${attemptId}`;
    expect(row).toMatchObject({ returned_at: null });
    expect(Number(row?.awaited)).toBeGreaterThanOrEqual(8);
    await returnWork(okafor, report, { attemptIds: [attemptId] });
    const own = (await markedPaperOf(student, attemptId))?.questions.find((each) => each.slot === slot);
    expect(own).toMatchObject({ marks: "8", feedback: "<p>FEEDBACK-OMEGA</p>" });
    await expect(
      takeBackReturn(okafor, report, { attemptIds: [randomUUID()], reason: "None." }),
    ).rejects.toMatchObject({ status: 422 });
  });

  test("what is ready, a section, or all: what is not decided goes on waiting", async () => {
    const papers = async () => (await returningOf(okafor, report)).papers;
    const before = await papers();
    const ready = before.filter(({ state }) => state === "ready");
    const notReady = before.filter(({ state, returnedAt }) => state === "not-ready" && returnedAt === null);
    expect(ready.length).toBeGreaterThan(0);
    expect(notReady.length).toBeGreaterThan(0);
    expect(notReady.every(({ why }) => why !== "")).toBe(true);
    const [section] = await sql`select id from course_section order by position limit 1`;
    await returnWork(okafor, report, { which: "ready", section: section?.id });
    const after = await papers();
    const inSection = (paper: (typeof after)[number]) => paper.sections.includes(section?.id);
    for (const paper of after) {
      const was = before.find(({ attemptId }) => attemptId === paper.attemptId);
      if (was?.state === "ready") expect(paper.state).toBe(inSection(paper) ? "returned" : "ready");
      if (was?.state === "not-ready" && was.returnedAt === null) expect(paper.returnedAt).toBeNull();
    }
    const [one] = notReady;
    await returnWork(okafor, report, { attemptIds: [one?.attemptId] });
    const [row] =
      await sql`select awaited::float as awaited, returned_at from attempt where id = ${one?.attemptId ?? ""}`;
    expect(row?.awaited).toBeGreaterThan(0);
    expect(row?.returned_at).not.toBeNull();
  });
});

test("students, observers and strangers reach nothing of the room", async () => {
  const { attemptId, paper, slot } = await paperBy("greta.nwosu");
  const stranger = await viewer("kofi.grunwalder");
  const student = await viewer("greta.nwosu");
  for (const nobody of [stranger, student, hemming]) {
    for (const refused of await Promise.allSettled([
      pileOf(nobody, report),
      answerOf(nobody, report, paper, slot),
      claimAnswer(nobody, report, paper, { slot, device: randomUUID() }),
      save(nobody, report, paper, { entries: [entry(slot, { marks: "8" })] }),
      changePileView(nobody, report, { namesHidden: true, byStudent: true }),
      changeRemarks(nobody, report, {}),
      returningOf(nobody, report),
      returnWork(nobody, report, {}),
      takeBackReturn(nobody, report, { attemptIds: [attemptId], reason: "Because." }),
      previewPaper(nobody, attemptId),
    ]))
      expect(refused).toMatchObject({ status: "rejected", reason: { status: 404 } });
  }
  // An assistant marks what was given to them, and nothing else.
  const sampling = await quiz("Sampling pollinators");
  await expect(pileOf(petrides, sampling)).rejects.toMatchObject({ status: 404 });
});
