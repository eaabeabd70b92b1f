import { randomUUID } from "node:crypto";
import { describe, expect, test } from "vitest";
import { SECOND } from "@/core/time/instants";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { confirmStart, openDesk } = await import("./open-desk");
const { moveOn } = await import("./move-on");
const { saveAnswers } = await import("./save-answers");
const { checkAnswer } = await import("./check-answer");
const { handInAttempt } = await import("./hand-in");

async function started(name: string, title: string) {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  await confirmStart(student, attemptId);
  const save = (slot: number, answer: unknown, change = {}) =>
    saveAnswers(student.token, attemptId, writing(slot, answer, change));
  const held = async (slot: number) =>
    (await sql`select answer from answer where attempt_id = ${attemptId} and slot = ${slot}`)[0]?.answer;
  const logged = async (slot: number) =>
    (
      await sql`select answer from answer_log where attempt_id = ${attemptId} and slot = ${slot} order by saved_at`
    ).map(({ answer }) => answer);
  return { student, attemptId, save, held, logged };
}

describe("what was logged is never changed, and only what the log took in is the answer", () => {
  test("told that an answer was wrong, it cannot be sent anew under its old number", async () => {
    const { student, attemptId, save, held, logged } = await started(
      "noor.haldane",
      "Steering rules, one way",
    );
    const view = await openDesk(student, attemptId);
    const question = view?.progress.slots[0]?.question;
    const options = question && "options" in question ? question.options : [];
    const [first = { id: "" }, second = { id: "" }] = options;
    const device = randomUUID();
    await save(1, { pick: first.id }, { device, revision: 1 });
    await moveOn(student, attemptId, { from: 0, to: 1 });
    const rewritten = save(1, { pick: second.id }, { device, revision: 1, writtenAt: Date.now() + 1 });
    await expect(rewritten).rejects.toMatchObject({ status: 409, type: "closed", more: { slots: [1] } });
    expect(await held(1)).toEqual({ pick: first.id });
    expect(await logged(1)).toEqual([{ pick: first.id }]);
    // Word for word the same, because its answer was lost on the way, is not a change and is acknowledged.
    const again = await save(1, { pick: first.id }, { device, revision: 1 });
    expect(again).toMatchObject({ saved: [{ slot: 1, device, revision: 1 }], refused: [] });
  });

  test("in a question that is open, another change under the same number is refused and goes past nothing", async () => {
    const { save, held, logged } = await started("yusuf.penhallow", "Tides and clearances");
    const device = randomUUID();
    await save(4, { parts: { a: "1" } }, { device, revision: 1 });
    const other = { device, revision: 1, writtenAt: Date.now() + 50 };
    await expect(save(4, { parts: { a: "2" } }, other)).rejects.toMatchObject({
      status: 409,
      type: "number-taken",
      more: { slots: [4] },
    });
    expect(await held(4)).toEqual({ parts: { a: "1" } });
    expect(await logged(4)).toEqual([{ parts: { a: "1" } }]);
    await save(4, { parts: { a: "2" } }, { device, revision: 2 });
    expect(await held(4)).toEqual({ parts: { a: "2" } });
  });

  test("the same sent again with a later time does not overtake what another device wrote since", async () => {
    const { save, held } = await started("gideon.salcano", "Tides and clearances");
    const device = randomUUID();
    const at = Date.now();
    await save(4, { parts: { a: "old" } }, { device, revision: 1, writtenAt: at - 2 * SECOND });
    await save(4, { parts: { a: "new" } }, { writtenAt: at - SECOND });
    const again = await save(4, { parts: { a: "old" } }, { device, revision: 1, writtenAt: at });
    expect(again.newer).toMatchObject([{ slot: 4, answer: { parts: { a: "new" } } }]);
    expect(await held(4)).toEqual({ parts: { a: "new" } });
  });
});

test("one entry that cannot be saved holds up no other, and is named with why", async () => {
  const { student, attemptId, held } = await started("bao.lindqvist", "Tides and clearances");
  const entry = (slot: number, answer: unknown) => writing(slot, answer).entries[0];
  const receipt = await saveAnswers(student.token, attemptId, {
    here: 4,
    entries: [entry(4, { parts: { a: "4.2" } }), entry(1, { pick: "elsewhere" }), entry(99, null)],
  });
  expect(receipt.saved.map(({ slot }) => slot)).toEqual([4]);
  expect(receipt.refused).toMatchObject([
    { slot: 1, type: "bad-input", sentence: expect.stringContaining("one of the options") },
    { slot: 99, type: "bad-input", sentence: "This attempt has no question 99." },
  ]);
  expect(await held(4)).toEqual({ parts: { a: "4.2" } });
});

test("what stood there before is what stands now, also for a save that waited for another one", async () => {
  const { attemptId, save } = await started("jun.abernathy", "Tides and clearances");
  const at = Date.now();
  await save(4, { parts: { a: "first" } }, { writtenAt: at - 9 * SECOND });
  let waiting: ReturnType<typeof save> | undefined;
  await sql.begin(async (tx) => {
    await tx`select 1 from attempt where id = ${attemptId} for update`;
    waiting = save(4, { parts: { a: "late" } }, { writtenAt: at - 5 * SECOND });
    for (;;) {
      const [line] =
        await sql`select count(*)::int as count from pg_stat_activity where wait_event_type = 'Lock' and datname = current_database()`;
      if (line?.count > 0) break;
    }
    // Written by another device while it waits, and later than what waits.
    await tx`update answer set answer = '{"parts":{"a":"meanwhile"}}', device = ${randomUUID()}, revision = 7,
      written_at = ${new Date(at)} where attempt_id = ${attemptId} and slot = 4`;
  });
  expect((await waiting)?.newer).toMatchObject([{ slot: 4, answer: { parts: { a: "meanwhile" } } }]);
});

describe("what checking has closed", () => {
  test("a question whose parts are all right takes nothing any more, and its mark stays", async () => {
    const { student, attemptId, save, held } = await started(
      "hamid.castellane",
      "Baker’s arithmetic, with tries",
    );
    const { rightAnswerTo } = await import("@/core/kinds/marking");
    const { planAttempt } = await import("@/core/attempt/plan");
    const { versionContent } = await import("../quizzes/versions");
    const { seedOf } = await import("../attempts/seeds");
    const [row] = await sql`select * from attempt where id = ${attemptId}`;
    const seed = await seedOf(row as never);
    const plan = planAttempt(await versionContent(row?.version_id), seed);
    const slot =
      plan.findIndex(({ question }) => question.kind === "numeric" && question.parts.length === 1) + 1;
    const question = plan[slot - 1]?.question;
    const right = question && (rightAnswerTo(question, seed) as { parts: Record<string, string> });
    await save(slot, right);
    expect((await checkAnswer(student, attemptId, { slot }))[0]).toMatchObject({ right: true, closed: true });
    const changed = { parts: Object.fromEntries(Object.keys(right?.parts ?? {}).map((id) => [id, "100"])) };
    await expect(save(slot, changed)).rejects.toMatchObject({ type: "closed" });
    expect(await held(slot)).toEqual(right);
    const desk = await openDesk(student, attemptId);
    expect(desk?.progress.slots[slot - 1]).toMatchObject({ access: "closed", question: { kind: "numeric" } });
    await handInAttempt(student, attemptId, {});
    const [mark] =
      await sql`select marks, maximum from mark where attempt_id = ${attemptId} and slot = ${slot}`;
    expect(mark?.marks).toBe(mark?.maximum);
  });

  test("a part that was right stays as it was, while the others go on", async () => {
    const { student, attemptId, save, held } = await started(
      "uma.granlund",
      "Baker’s arithmetic, with tries",
    );
    const { rightAnswerTo } = await import("@/core/kinds/marking");
    const { planAttempt } = await import("@/core/attempt/plan");
    const { versionContent } = await import("../quizzes/versions");
    const { seedOf } = await import("../attempts/seeds");
    const [row] = await sql`select * from attempt where id = ${attemptId}`;
    const seed = await seedOf(row as never);
    const plan = planAttempt(await versionContent(row?.version_id), seed);
    const slot =
      plan.findIndex(({ question }) => question.kind === "numeric" && question.parts.length > 1) + 1;
    const question = plan[slot - 1]?.question;
    const right = question && (rightAnswerTo(question, seed) as { parts: Record<string, string> });
    const [a = "a", b = "b"] = Object.keys(right?.parts ?? {});
    const rightA = right?.parts[a] ?? "";
    await save(slot, { parts: { [a]: rightA } });
    const tried = await checkAnswer(student, attemptId, { slot });
    expect(tried.map(({ closed }) => closed)).toContain(false);
    expect(tried[0]).toMatchObject({ right: true, closed: true });
    await save(slot, { parts: { [a]: "100", [b]: "7" } });
    expect(await held(slot)).toEqual({ parts: { [a]: rightA, [b]: "7" } });
    await save(slot, null);
    expect(await held(slot)).toEqual({ parts: { [a]: rightA } });
  });
});
