import { randomUUID } from "node:crypto";
import { describe, expect, test } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { decideLate, lateLinesOf } = await import("./late-decisions");
const { alikeOf, askForAlike, compareAnswers, workAtAlike } = await import("./alike-answers");
const { answerOf } = await import("./answer-view");
const { slipOf } = await import("../handed-in/slip");
const { bellOf } = await import("../notices/bell");
const { questionQueue } = await import("./question-queue");

const report = await quiz("Report on the meadow count");
const okafor = await viewer("adaeze.okafor");
const petrides = await viewer("yuna.petrides");
const tadhg = await viewer("tadhg.villanueva");

describe("late writing", () => {
  test("what stood and what came later, with when, and what was shown by then", async () => {
    const { lines } = await lateLinesOf(okafor, report);
    expect(lines).toMatchObject([{ name: "Tadhg Villanueva", shown: [] }]);
    const [line] = lines;
    expect(line?.came.words.startsWith(line?.stood?.words ?? "nothing")).toBe(true);
    expect(line?.came.words).toContain("One thing more");
    expect(line?.came.arrivedAt).toBeGreaterThan(line?.handedInAt ?? 0);
    await expect(lateLinesOf(petrides, report)).rejects.toMatchObject({ status: 404 });
  });

  test("more that came meanwhile is seen first; a decision needs its reason", async () => {
    const [line] = (await lateLinesOf(okafor, report)).lines;
    if (!line) throw new Error("nothing came late");
    const { paper, slot } = line;
    const { writtenAt, arrivedAt } = line.came;
    const seen = { slot, decision: "taken", reason: "The train had no signal.", writtenAt, arrivedAt };
    await expect(decideLate(okafor, report, paper, { ...seen, reason: " " })).rejects.toMatchObject({
      status: 422,
    });
    await expect(
      decideLate(okafor, report, paper, { ...seen, arrivedAt: arrivedAt - 1 }),
    ).rejects.toMatchObject({
      type: "changed-meanwhile",
    });
    await expect(decideLate(petrides, report, paper, seen)).rejects.toMatchObject({ status: 404 });
  });

  test("taken, it stands, awaits marking anew, and its student reads why; a second time it is decided already", async () => {
    const [line] = (await lateLinesOf(okafor, report)).lines;
    if (!line) throw new Error("nothing came late");
    const { paper, slot } = line;
    const { writtenAt, arrivedAt } = line.came;
    const decision = { slot, decision: "taken", reason: "The train had no signal.", writtenAt, arrivedAt };
    const before = await answerOf(okafor, report, paper, slot);
    await decideLate(okafor, report, paper, decision);
    const after = await answerOf(okafor, report, paper, slot);
    expect(after.lateWriting).toBe(false);
    expect(JSON.stringify(after.answer)).toContain("One thing more");
    // What was decided of the other words is to be decided again; what was said of it stays.
    expect(after.standing?.work.criteria ?? {}).toEqual({});
    expect(after.standing?.work.feedback).toBe(before.standing?.work.feedback);
    await expect(decideLate(okafor, report, paper, decision)).rejects.toMatchObject({
      type: "decided-already",
    });
    const [row] =
      await sql`select id, awaited::float from attempt where quiz_id = ${report} and person_id = ${tadhg.id}`;
    expect(row?.awaited).toBeGreaterThanOrEqual(8);
    expect((await slipOf(tadhg, row?.id))?.lateDecided).toMatchObject([
      { slot, decision: "taken", reason: "The train had no signal." },
    ]);
    expect((await bellOf(tadhg)).some(({ text }) => text.includes("The train had no signal."))).toBe(true);
    const log = await sql`select revision from answer_log where attempt_id = ${row?.id} and slot = ${slot}`;
    expect(log.length).toBeGreaterThanOrEqual(2);
  });

  test("left, what stood at the end goes on standing", async () => {
    const [row] =
      await sql`select a.id, a.handed_in_at, w.answer from attempt a join answer w on w.attempt_id = a.id and w.slot = 1
      join person p on p.id = a.person_id where a.quiz_id = ${report} and p.email = 'elin.karimi@alderquay.example'`;
    await sql`insert into late_writing (attempt_id, slot, device, revision, answer, written_at, arrived_at)
      values (${row?.id}, 1, ${randomUUID()}, 9, '{"rich":"<p>Other words.</p>"}', ${row?.handed_in_at}, now())`;
    const [line] = (await lateLinesOf(okafor, report)).lines;
    if (!line) throw new Error("nothing came late");
    const { writtenAt, arrivedAt } = line.came;
    await decideLate(okafor, report, line.paper, {
      slot: 1,
      decision: "left",
      reason: "Not the same hand.",
      writtenAt,
      arrivedAt,
    });
    const [now] = await sql`select answer from answer where attempt_id = ${row?.id} and slot = 1`;
    expect(now?.answer).toEqual(row?.answer);
    expect((await lateLinesOf(okafor, report)).lines).toEqual([]);
  });
});

describe("alike answers", () => {
  test("are compared once the quiz has closed, and seen by instructors alone: who copied stands on top", async () => {
    while (await workAtAlike()) {
      // Until none is due.
    }
    const { pairs, run } = await alikeOf(okafor, report);
    expect(run?.compared).toBeGreaterThan(10);
    expect(pairs[0]?.sides.map(({ name }) => name).sort()).toEqual(["Mei-Lin Strand", "Zofia Marchetti"]);
    expect(pairs[0]?.percent).toBeGreaterThan(80);
    for (const side of pairs[0]?.sides ?? []) expect(side.pieces.some(({ common }) => common)).toBe(true);
    for (const other of [petrides, tadhg, await viewer("laszlo.hemming"), await viewer("ines.marsh")])
      await expect(alikeOf(other, report)).rejects.toMatchObject({ status: 404 });
    // Done once, until it is asked for again.
    expect(await workAtAlike()).toBe(false);
    await askForAlike(okafor, report);
    expect((await alikeOf(okafor, report)).run?.at).toBeNull();
    expect(await workAtAlike()).toBe(true);
    expect((await alikeOf(okafor, report)).pairs).toEqual(pairs);
  });

  test("are not compared where the brief did not say so", async () => {
    const review = await quiz("Field camp review");
    await expect(askForAlike(okafor, review)).rejects.toMatchObject({ status: 409 });
    expect((await alikeOf(okafor, review)).pairs).toEqual([]);
  });

  test("two attempts of one person are no pair", async () => {
    const [copy] = await sql`select attempt_b from alike_pair where quiz_id = ${report}
      order by shared::float / "of" desc limit 1`;
    const [one] = await sql`select person_id from attempt where id = ${copy?.attempt_b}`;
    await sql`update attempt set person_id = (select person_id from attempt where id = (
      select attempt_a from alike_pair where attempt_b = ${copy?.attempt_b} order by shared desc limit 1)), number = 2
      where id = ${copy?.attempt_b}`;
    await compareAnswers(report);
    const pairs =
      await sql`select * from alike_pair where quiz_id = ${report} and shared::float / "of" > 0.8`;
    expect(pairs).toHaveLength(0);
    await sql`update attempt set person_id = ${one?.person_id}, number = 1 where id = ${copy?.attempt_b}`;
  });
});

test("questions about marks: those that wait first, the oldest first, each for who may answer it", async () => {
  const queue = await questionQueue(okafor);
  expect(queue.filter(({ waits }) => waits).map(({ student }) => student)).toEqual([
    "Greta Nwosu",
    "Anneke Tremaine",
  ]);
  expect(queue[0]).toMatchObject({
    byHand: true,
    mark: expect.stringMatching(/^[\d.]+ \/ 6$/),
    lines: [{ isStudent: true }],
  });
  expect(queue[0]?.answer.length).toBeGreaterThan(0);
  const marsh = await questionQueue(await viewer("ines.marsh"));
  expect(marsh.map(({ student, waits }) => [student, waits])).toEqual([
    ["Isolde Fairweather", true],
    ["Noor Haldane", false],
  ]);
  // An assistant has those of the quizzes that were given to them; a student none.
  expect(await questionQueue(petrides)).toEqual([]);
  expect(await questionQueue(tadhg)).toEqual([]);
});
