import { randomUUID } from "node:crypto";
import { describe, expect, test } from "vitest";
import { say } from "@/words/t";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { changeMarking, reMarkingsOf } = await import("./re-marking");
const { workAtReMarking } = await import("./re-marking-job");
const { classAnswersOf, classQuestions } = await import("./class-answers");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { startAttempt } = await import("../desk/start-attempt");
const { handInAttempt } = await import("../desk/hand-in");
const { inTransaction } = await import("@/data/database");
const { changeKeys } = await import("../quizzes/keys");

const oven = await quiz("Oven and steam");
const oyelaran = await viewer("tomas.oyelaran");
const okafor = await viewer("adaeze.okafor");

type Preview = Extract<Awaited<ReturnType<typeof changeMarking>>, { preview: unknown }>["preview"];
const look = async (question: string, change: object, id = oven): Promise<Preview> => {
  const answer = await changeMarking(oyelaran, id, { question, change });
  if (!("preview" in answer)) throw new Error("it was begun");
  return answer.preview;
};
const begin = async (
  question: string,
  change: object,
  expects: string,
  reason = "The key was a line too high.",
) => {
  const answer = await changeMarking(oyelaran, oven, { question, change, reason, expects });
  if (!("id" in answer)) throw new Error("it was not begun");
  return answer.id;
};
const work = async () => {
  while (await workAtReMarking()) {
    // Until nothing waits.
  }
};
/** What holds of all attempts at the quiz: marks by slot, and totals. */
const everything = async () => ({
  marks:
    await sql`select distinct on (attempt_id, slot) attempt_id, slot, marks, awaiting, maximum, detail, source
    from mark where attempt_id in (select id from attempt where quiz_id = ${oven}) order by attempt_id, slot, added desc`,
  totals: await sql`select id, earned, awaited, maximum from attempt where quiz_id = ${oven} order by id`,
});
const group = async (words: string) => {
  const { groups } = await classAnswersOf(oyelaran, oven, "done");
  const found = groups.find(({ written }) => say(written[0] ?? "") === words);
  if (!found) throw new Error(`nobody wrote ${words}`);
  return found;
};

describe("what the class wrote", () => {
  test("the same answers are together, with why they were marked so; a wrong key shows", async () => {
    const listed = await classQuestions(oyelaran, oven);
    const wrong = listed.find(({ id }) => id === "done");
    expect(wrong?.facility).toBeLessThan(20);
    const right = await group("96 °C");
    expect(right).toMatchObject({ credit: "0", state: "none" });
    const { groups } = await classAnswersOf(oyelaran, oven, "done");
    expect(groups.reduce((sum, { people }) => sum + people, 0)).toBe(wrong?.answers);
  });

  test("is for instructors of the course alone", async () => {
    for (const other of [okafor, await viewer("noor.haldane"), await viewer("yuna.petrides")]) {
      await expect(classAnswersOf(other, oven, "done")).rejects.toMatchObject({ status: 404 });
      await expect(classQuestions(other, oven)).rejects.toMatchObject({ status: 404 });
      await expect(
        changeMarking(other, oven, { question: "done", change: { kind: "drop", dropped: "marks-to-all" } }),
      ).rejects.toMatchObject({ status: 404 });
      await expect(reMarkingsOf(other, oven)).rejects.toMatchObject({ status: 404 });
    }
  });
});

describe("a key that is put right", () => {
  test("whose mark changes is shown before, is exactly what happens, a second run changes nothing, and undone all is as before", async () => {
    const before = await everything();
    const { part, identity } = await group("96 °C");
    const change = { kind: "key", part, identity, written: "96 °C" };
    const shown = await look("done", change);
    expect(shown.changed).toBeGreaterThan(5);
    expect(shown.lose).toBeLessThan(shown.gain);
    expect(await everything()).toEqual(before);

    const id = await begin("done", change, shown.expects);
    // Until the job has written it, everyone reads what was.
    expect(await everything()).toEqual(before);
    await work();
    const [run] = await reMarkingsOf(oyelaran, oven, "done");
    expect(run).toMatchObject({ id, state: "done", done: shown.attempts, total: shown.attempts });
    const after = await everything();
    const changed = after.totals.filter((row, i) => row.earned !== before.totals[i]?.earned);
    expect(changed).toHaveLength(shown.changed);
    for (const { id: attempt, earned } of changed) {
      const line = shown.lines.find(({ after: to }) => Number(to) === Number(earned));
      expect(line, attempt).toBeTruthy();
    }
    // Other questions keep their marks, whole.
    const others = (all: typeof after.marks) =>
      all.filter(
        (row) =>
          !row.detail.parts.some(({ written }: { written: unknown }) =>
            JSON.stringify(written).includes("°C"),
          ),
      );
    expect(others(after.marks)).toEqual(others(before.marks));

    const again = await look("done", change);
    expect(again).toMatchObject({ changed: 0, gain: 0, lose: 0 });
    await begin("done", change, again.expects);
    await work();
    expect((await everything()).totals).toEqual(after.totals);

    // Back by one step: the second run is the last change.
    const last = (await reMarkingsOf(oyelaran, oven, "done")).find(
      ({ state, isUndo }) => state === "done" && !isUndo,
    );
    const back = await look("done", { kind: "undo", undoes: last?.id });
    await begin("done", { kind: "undo", undoes: last?.id }, back.expects, "It was right after all.");
    await work();
    // Only the last can be undone, and only once.
    await expect(look("done", { kind: "undo", undoes: id })).rejects.toMatchObject({ status: 409 });
  });

  test("undone in one step, all marks are as they were", async () => {
    const before = await everything();
    const change = { kind: "drop", dropped: "out-of-the-maximum" };
    await begin("stone", change, (await look("stone", change)).expects);
    await work();
    expect((await everything()).totals).not.toEqual(before.totals);
    const [run] = await reMarkingsOf(oyelaran, oven, "stone");
    const undo = { kind: "undo", undoes: run?.id };
    await begin("stone", undo, (await look("stone", undo)).expects, "It was fair.");
    await work();
    expect(await everything()).toEqual(before);
    expect((await reMarkingsOf(oyelaran, oven, "stone")).map(({ state, isUndo }) => [state, isUndo])).toEqual(
      [
        ["done", true],
        ["undone", false],
      ],
    );
  });

  test("what has changed since it was shown is not done, and says so", async () => {
    const before = await everything();
    const change = { kind: "drop", dropped: "marks-to-all" };
    const shown = await look("brown", change);
    // Meanwhile somebody's mark in it was changed.
    const [row] = await sql`select m.attempt_id, m.slot from mark m join attempt a on a.id = m.attempt_id
      where a.quiz_id = ${oven} and m.question_id = 'brown' and m.marks = 0 limit 1`;
    await sql`insert into mark (attempt_id, slot, id, question_id, version_id, marks, awaiting, maximum, source, detail, reason)
      select attempt_id, slot, ${randomUUID()}, question_id, version_id, maximum, 0, maximum, 'rule',
        detail || jsonb_build_object('marks', detail->>'maximum', 'state', 'full'), '"x"'
      from mark where attempt_id = ${row?.attempt_id} and slot = ${row?.slot} order by added desc limit 1`;
    await begin("brown", change, shown.expects);
    await work();
    const [run] = await reMarkingsOf(oyelaran, oven, "brown");
    expect(run).toMatchObject({ state: "refused" });
    expect((await everything()).totals).toEqual(before.totals);
    const [version] = await sql`select current_version from quiz where id = ${oven}`;
    const [newest] = await sql`select max(number)::int as number from quiz_version where quiz_id = ${oven}`;
    expect(newest?.number).toBe(version?.current_version);
  });

  test("a process that is killed in the middle leaves it to the next one", async () => {
    const change = { kind: "drop", dropped: "marks-to-all" };
    const id = await begin("out", change, (await look("out", change)).expects);
    await sql`update re_marking set claimed_at = now(), done = 3 where id = ${id}`;
    expect(await workAtReMarking()).toBe(false);
    await sql`update re_marking set claimed_at = now() - interval '1 minute' where id = ${id}`;
    await work();
    expect((await reMarkingsOf(oyelaran, oven, "out"))[0]).toMatchObject({ state: "done" });
  });

  test("who can see a mark already is told of its change, returned or not; who cannot see it is not", async () => {
    const change = { kind: "drop", dropped: "marks-to-all" };
    const [before] = await sql`select settings from quiz where id = ${oven}`;
    const returned = await sql`update attempt a set returned_at = null from attempt b
      where a.id = b.id and a.quiz_id = ${oven} and b.returned_at is not null returning a.id, b.returned_at`;
    const shows = (when: string) =>
      sql`update quiz set settings = jsonb_set(jsonb_set(settings, '{reveal,marks}', ${sql.json(when)}),
        '{reveal,total}', ${sql.json(when)}) where id = ${oven}`;
    const notices = async () =>
      (
        await sql`select person_id, path from person_notice where text::text like '%a-question-was-marked-again%'`
      ).length;
    await shows("when-returned");
    const hidden = await look("stone", change);
    expect(hidden.changed).toBeGreaterThan(0);
    expect(hidden.told).toBe(0);
    await shows("at-hand-in");
    const open = await look("stone", change);
    expect(open.told).toBe(open.changed);
    const had = await notices();
    await begin("stone", change, open.expects);
    await work();
    expect(await notices()).toBe(had + open.changed);
    await sql`update quiz set settings = ${sql.json(before?.settings)} where id = ${oven}`;
    for (const { id, returned_at } of returned)
      await sql`update attempt set returned_at = ${returned_at} where id = ${id}`;
  });

  test("the paper shows the key it was marked by, and says what became of the mark", async () => {
    const [row] = await sql`select m.attempt_id, m.slot from mark m join re_marking r on r.id = m.batch_id
      where r.quiz_id = ${oven} and r.question_id = 'out' limit 1`;
    const paper = await markedPaperOf(oyelaran, row?.attempt_id);
    const own = paper?.questions.find(({ slot }) => slot === row?.slot);
    expect(own?.history?.map(({ reason }) => say(reason)).at(-1)).toBe(
      "marked again: The key was a line too high.",
    );
  });
});

test("credit is given to answers with a reason, and none loses by it", async () => {
  const hydration = await quiz("Hydration and dough strength");
  const questions = await classQuestions(oyelaran, hydration).catch(() => []);
  expect(questions).toEqual([]);
  const listed = await classQuestions(oyelaran, oven);
  const question = listed.find(({ id }) => id === "shine")?.id ?? "";
  const { groups } = await classAnswersOf(oyelaran, oven, question);
  const wrong = groups.find(({ state }) => state === "none");
  if (!wrong) throw new Error("everyone knew it");
  const change = { kind: "credit", credit: "1/2", groups: [{ part: wrong.part, identity: wrong.identity }] };
  const shown = await look(question, change);
  expect(shown).toMatchObject({ changed: wrong.people, gain: wrong.people, lose: 0 });
  await expect(
    changeMarking(oyelaran, oven, { question, change, reason: " ", expects: shown.expects }),
  ).rejects.toMatchObject({ status: 422 });
  await begin(question, change, shown.expects, "It could be read so.");
  await work();
  const after = (await classAnswersOf(oyelaran, oven, question)).groups.find(
    ({ identity }) => identity === wrong.identity,
  );
  expect(after).toMatchObject({ credit: "0.5", state: "part" });
  expect(say(after?.why ?? "")).toBe("given credit: It could be read so.");
});

test("who hands in after the key was put right is marked by it, though the attempt began before", async () => {
  const formulas = await quiz("Formulas for the bakery");
  await sql`update quiz set closes = now() + interval '1 day', due = now() + interval '1 day' where id = ${formulas}`;
  const student = await viewer("hamid.castellane");
  await sql`delete from attempt where quiz_id = ${formulas} and person_id = ${student.id}`;
  const { attemptId } = await startAttempt(student, formulas);
  const [place] =
    await sql`select question_id from attempt_question where attempt_id = ${attemptId} order by slot limit 1`;
  const question = place?.question_id as string;
  const change = { kind: "drop", dropped: "marks-to-all" };
  const shown = await look(question, change, formulas);
  await changeMarking(oyelaran, formulas, { question, change, reason: "Faulty.", expects: shown.expects });
  await work();
  await handInAttempt(student, attemptId, {});
  const [marked] =
    await sql`select marks, maximum, version_id from mark where attempt_id = ${attemptId} and question_id = ${question}`;
  expect(marked?.marks).toBe(marked?.maximum);
  const [attempt] = await sql`select version_id from attempt where id = ${attemptId}`;
  expect(marked?.version_id).not.toBe(attempt?.version_id);
});

test("while keys change nobody marks by them, and nobody waits for nothing", async () => {
  const student = await viewer("lucia.harrowgate");
  const formulas = await quiz("Formulas for the bakery");
  await sql`delete from attempt where quiz_id = ${formulas} and person_id = ${student.id}`;
  const { attemptId } = await startAttempt(student, formulas);
  let done = false;
  let release = () => {};
  const held = new Promise<void>((go) => {
    release = go;
  });
  let entered = () => {};
  const inside = new Promise<void>((go) => {
    entered = go;
  });
  const changing = inTransaction(async (tx) => {
    await changeKeys(tx, formulas);
    entered();
    await held;
  });
  await inside;
  const handing = handInAttempt(student, attemptId, {}).then(() => {
    done = true;
  });
  await sql`select 1`;
  expect(done).toBe(false);
  release();
  await Promise.all([changing, handing]);
  expect(done).toBe(true);
});

test.each([
  [{ kind: "credit", credit: "1", groups: [] }, "Pick the answers that get credit."],
  [{ kind: "mend", undoes: randomUUID() }, "The change must be “credit”, “key”, “drop”, “as-now” or “undo”."],
  [
    { kind: "key", part: 0, identity: "z", written: "z" },
    "This answer cannot be made the key of this question. Give it credit instead.",
  ],
])("%j is refused with what would be right", async (change, sentence) => {
  await expect(look("done", change)).rejects.toMatchObject({ status: 422 });
  const problem = await look("done", change).catch((error: { sentence: string }) => error);
  expect(say((problem as { sentence: string }).sentence)).toBe(sentence);
});
