import { randomUUID } from "node:crypto";
import { expect, test } from "vitest";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { parsedJson } from "../base/json";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { confirmStart } = await import("./open-desk");
const { saveAnswers } = await import("./save-answers");

async function started(name: string, title = "Tides and clearances") {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  await confirmStart(student, attemptId);
  const held = async (slot: number) =>
    (await sql`select answer from answer where attempt_id = ${attemptId} and slot = ${slot}`)[0]?.answer;
  /** As the lane does it: from the text that came over the network. */
  const send = (body: unknown) => saveAnswers(student.token, attemptId, parsedJson(JSON.stringify(body)));
  return { student, attemptId, held, send };
}

/** Several changes in one save. */
const together = (...saves: ReturnType<typeof writing>[]) => ({
  here: 1,
  entries: saves.flatMap(({ entries }) => entries),
});
const number = (value: string) => ({ parts: { a: value } });

test.each([
  ["noor.haldane", "U+0000", "4.2\u0000", "4.2"],
  ["amara.delorne-whitfield", "the first half of a pair", "4.2 \ud83d", "4.2 \ufffd"],
  ["greta.nwosu", "the second half of a pair", "\udc1d4.2", "\ufffd4.2"],
  ["jun.abernathy", "a bell", "4.2\u0007", "4.2"],
])(
  "%s: %s in an answer holds up nothing: what can be kept of it is kept, and the rest of the save too",
  async (student, _, typed, kept) => {
    const { held, send } = await started(student);
    const receipt = await send(together(writing(4, number(typed)), writing(5, number("7"))));
    expect(receipt.refused).toEqual([]);
    expect(await held(4)).toEqual(number(kept));
    expect(await held(5)).toEqual(number("7"));
    await sql`update attempt set handed_in_at = now(), handed_in_by = 'student' where handed_in_at is null`;
  },
);

test("ruled-out names with U+0000 are kept without it", async () => {
  const { send, attemptId } = await started("bao.lindqvist");
  const save = writing(1, null);
  const [entry] = save.entries;
  await send({ ...save, entries: [{ ...entry, ruledOut: ["x\u0000y"] }] });
  const [row] = await sql`select ruled_out from answer where attempt_id = ${attemptId} and slot = 1`;
  expect(row?.ruled_out).toEqual(["xy"]);
});

test.each([
  ["leif.okonma", "an unknown question", 99, number("1")],
  ["nikolai.pellworth", "another kind of answer", 5, { pick: "nothing" }],
  ["priya.sandoval", "no answer at all", 5, "text"],
  ["quentin.mbele", "an answer of the wrong shape", 5, { parts: [1, 2, { a: [] }] }],
])(
  "%s: %s is refused by itself, with its number, and what stands beside it is saved",
  async (student, _, slot, answer) => {
    const { held, send } = await started(student);
    const bad = writing(slot, answer);
    const receipt = await send(together(bad, writing(4, number("3.1"))));
    const [entry] = bad.entries;
    expect(receipt.refused).toMatchObject([{ slot, device: entry?.device, revision: entry?.revision }]);
    expect(receipt.saved).toMatchObject([{ slot: 4 }]);
    expect(await held(4)).toEqual(number("3.1"));
    await sql`update attempt set handed_in_at = now(), handed_in_by = 'student' where handed_in_at is null`;
  },
);

test("an entry whose own fields are wrong is refused by itself; one that cannot even be named refuses the save", async () => {
  const { held, send } = await started("camila.thornbury");
  const good = writing(4, number("3.2"));
  const [entry] = writing(5, number("1")).entries;
  const wrong = { ...entry, ribbon: "yes" };
  const receipt = await send({ here: 1, entries: [...good.entries, wrong] });
  expect(receipt.refused).toMatchObject([{ slot: 5, type: "bad-input" }]);
  expect(await held(4)).toEqual(number("3.2"));
  const nameless = { ...entry, device: "mine" };
  await expect(
    send({ here: 1, entries: [...writing(4, number("9")).entries, nameless] }),
  ).rejects.toMatchObject({
    status: 422,
    sentence: expect.stringContaining("evice must be a UUID"),
  });
  expect(await held(4)).toEqual(number("3.2"));
});

test("what the database will not have is named, and everything else of the same save stands", async () => {
  const { attemptId, held, send } = await started("farid.kjeldsen");
  // Nothing that is known gets this far: a rule of the table stands for what nobody foresaw.
  await sql.unsafe(
    `alter table answer_log add constraint never check (answer is null or answer->'parts'->>'a' <> '666') not valid`,
  );
  try {
    const device = randomUUID();
    const bad = writing(5, number("666"), { device, revision: 8 });
    const receipt = await send(together(writing(4, number("1.5")), bad, writing(6, null)));
    expect(receipt.saved.map(({ slot }) => slot)).toEqual([4, 6]);
    expect(receipt.refused).toMatchObject([{ slot: 5, device, revision: 8, type: "bad-input" }]);
    expect(receipt.refused[0]?.sentence).toContain("stays on this device");
    expect(await held(4)).toEqual(number("1.5"));
    expect(await held(5)).toBeUndefined();
    await expect(send(writing(5, number("666")))).rejects.toMatchObject({
      status: 422,
      more: { slots: [5] },
    });
    const [{ count } = { count: 0 }] =
      await sql`select count(*)::int as count from answer_log where attempt_id = ${attemptId}`;
    expect(count).toBe(2);
  } finally {
    await sql.unsafe("alter table answer_log drop constraint never");
  }
});

test("an essay whose formulas cost too much is refused with what would be right, and what stands beside it is saved", async () => {
  const { held, send } = await started("rosalind.takahashi", "Two short essays on the meadow");
  const essay = (tex: string) => ({
    rich: `<p>So: <span data-type="inline-math" data-latex="${tex}"></span></p>`,
  });
  const receipt = await send(together(writing(1, essay("x".repeat(240_000))), writing(2, essay("a^2"))));
  expect(receipt.refused).toMatchObject([
    { slot: 1, sentence: expect.stringContaining("1000 characters at most") },
  ]);
  expect(await held(2)).toEqual(essay("a^2"));
  expect(await held(1)).toBeUndefined();
  await expect(send(writing(1, essay("{".repeat(400))))).rejects.toMatchObject({
    status: 422,
    sentence: expect.stringContaining("nested too deep"),
  });
});
