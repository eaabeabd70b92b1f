import { expect, test } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { markPractice, practiceOf, startPractice } = await import("./practise");
const { gradebookOf } = await import("../gradebook/gradebook");
const { viewer } = college(sql);

const { pictureOf } = await import("../desk/media");
const noor = await viewer("noor.haldane");
const attemptAt = async (title: string): Promise<string> =>
  (
    await sql`select a.id from attempt a join quiz q on q.id = a.quiz_id where q.title = ${title} and a.person_id = ${noor.id} order by a.number desc limit 1`
  )[0]?.id;
const review = await attemptAt("Field camp review");
const setRules = (change: object) => sql`
  update quiz set settings = settings || ${sql.json(change as never)} where title = 'Sampling pollinators'`;

test("a run holds what lost marks and a rule can mark, with other values, and tells at once", async () => {
  const run = await startPractice(noor, review);
  const view = await practiceOf(noor, run);
  // Not the essay and the file, which a person marks, nor what was right.
  expect(view.questions.map(({ slot }) => slot)).toEqual([1, 2, 6, 7, 8, 9]);
  expect(JSON.stringify(view)).not.toMatch(/"worked"|"right":|solitary: one female/);
  const [picture] = view.pictures;
  expect(view.pictures).toHaveLength(1);
  await expect(pictureOf(noor, review, picture?.id ?? "")).resolves.toMatchObject({
    type: expect.any(String),
  });
  const numbers = view.questions.find(({ slot }) => slot === 8)?.presented;
  expect(numbers?.text).toMatch(/you mark \d+ bumblebees/);

  const [caught, marked] = [/catch (\d+)/, /which (\d+)/].map((each) =>
    Number(each.exec(numbers?.text ?? "")?.[1]),
  );
  const share = ((marked ?? 0) / (caught ?? 1)) * 100;
  const told = await markPractice(noor, run, {
    slot: 8,
    answer: { parts: { a: share.toPrecision(3), b: "7" } },
  });
  expect(told).toMatchObject({ state: "part", marks: "2" });
  expect(told.right[1]).toMatch(/^b: \d+/);
  expect(told.worked).toContain("there are");
  // What was told stays told, also after a reload.
  const again = (await practiceOf(noor, run)).questions.find(({ slot }) => slot === 8);
  expect(again).toMatchObject({ told: { state: "part" }, answer: { parts: { b: "7" } } });
  await expect(markPractice(noor, run, { slot: 8, answer: { parts: { a: "1" } } })).rejects.toMatchObject({
    type: "marked-already",
  });
});

test("a run that is not finished goes on; a finished one is followed by another with other values", async () => {
  const first = await startPractice(noor, review);
  expect(await startPractice(noor, review)).toBe(first);
  await sql`insert into practice_answer (run_id, slot, answer, detail, marked_at)
    select ${first}, s::smallint, 'null', (select detail from practice_answer limit 1), now() from unnest(array[1, 2, 6, 7, 9]) s`;
  const second = await startPractice(noor, review);
  expect(second).not.toBe(first);
  const seeds = await sql`select seed from practice_run where id in (${first}, ${second})`;
  expect(new Set(seeds.map(({ seed }) => seed)).size).toBe(2);
});

test("bad answers are refused and mark nothing", async () => {
  const run = await startPractice(noor, review);
  for (const [input, sentence] of [
    [{ slot: 10, answer: { rich: "<p>x</p>" } }, "This run has no question 10."],
    [{ slot: 1, answer: null }, "Nothing is written yet; there is nothing to mark."],
    [{ slot: 1, answer: { pick: "no-such" } }, /./],
    [{ slot: 1 }, "Answer is missing; null is an empty one."],
    [{ slot: "1", answer: null }, /./],
  ] as const) {
    await expect(markPractice(noor, run, input)).rejects.toMatchObject({
      status: 422,
      sentence: expect.stringMatching(sentence),
    });
  }
  const [kept] = await sql`select count(*)::int as count from practice_answer where run_id = ${run}`;
  expect(kept?.count).toBe(0);
});

test("only where the quiz allows it and everything is shown, and only by its own student", async () => {
  const flour = await attemptAt("Flour and enzymes");
  await expect(startPractice(noor, flour)).rejects.toMatchObject({ type: "no-practice" });
  // Allowed, but not returned yet: practising would tell the answers before their time.
  const sampling = await attemptAt("Sampling pollinators");
  await setRules({ practiseMissed: true });
  await expect(startPractice(noor, sampling)).rejects.toMatchObject({ type: "no-practice" });
  await sql`update attempt set returned_at = now() where id = ${sampling}`;
  const run = await startPractice(noor, sampling);
  expect((await practiceOf(noor, run)).questions.map(({ slot }) => slot)).toEqual([4, 5]);

  for (const name of ["efua.moorcroft", "adaeze.okafor", "yuki.brandvold"]) {
    const other = await viewer(name);
    await expect(startPractice(other, sampling)).rejects.toMatchObject({ status: 404 });
    await expect(practiceOf(other, run)).rejects.toMatchObject({ status: 404 });
    await expect(markPractice(other, run, { slot: 4, answer: null })).rejects.toMatchObject({ status: 404 });
  }
  await expect(practiceOf(noor, "nothing")).rejects.toMatchObject({ status: 404 });
});

test("practising changes no mark", async () => {
  const before = await gradebookOf(noor, "pol-101");
  const run = await startPractice(noor, review);
  await markPractice(noor, run, { slot: 9, answer: { points: [{ x: 0.358, y: 0.394 }] } });
  expect((await gradebookOf(noor, "pol-101")).categories).toEqual(before.categories);
});
