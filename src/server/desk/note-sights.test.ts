import { expect, test } from "vitest";
import { MINUTE, SECOND } from "@/core/time/instants";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz, attempt } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { confirmStart } = await import("./open-desk");
const { saveAnswers } = await import("./save-answers");
const { handInAttempt } = await import("./hand-in");
const { figuresOf } = await import("../figures/quiz-figures");
const { noteSights } = await import("./note-sights");

const tides = await quiz("Tides and clearances");
const seenOf = async (id: string) =>
  new Map(
    (
      await sql`select slot, seen_at from attempt_question where attempt_id = ${id} and seen_at is not null`
    ).map((row) => [row.slot, new Date(row.seen_at).getTime()]),
  );

test("the earliest sight of a question stands, within the attempt; nobody tells another's, and nothing long after the end", async () => {
  const student = await viewer("bao.lindqvist");
  const { attemptId } = await startAttempt(student, tides);
  await confirmStart(student, attemptId);
  const began = Number((await attempt(attemptId))?.started_at);
  await sql`update attempt set started_at = ${new Date(began - 5 * MINUTE)} where id = ${attemptId}`;
  const at = (minutes: number) => began - 5 * MINUTE + minutes * MINUTE;
  await noteSights(student, attemptId, {
    sights: [
      { slot: 1, at: at(1) },
      { slot: 2, at: at(3) },
      { slot: 1, at: at(2) },
    ],
  });
  await noteSights(student, attemptId, {
    sights: [
      { slot: 1, at: at(4) },
      { slot: 2, at: at(2) },
      { slot: 999, at: at(2) },
    ],
  });
  // Before the attempt, and in the time to come: both at its edge.
  await noteSights(student, attemptId, {
    sights: [
      { slot: 3, at: 0 },
      { slot: 4, at: Date.now() + 60 * MINUTE },
    ],
  });
  const seen = await seenOf(attemptId);
  expect(seen.get(1)).toBe(at(1));
  expect(seen.get(2)).toBe(at(2));
  expect(seen.get(3)).toBe(at(0));
  expect(seen.get(4)).toBeLessThanOrEqual(Date.now());
  expect(seen.size).toBe(4);

  await expect(
    noteSights(await viewer("noor.haldane"), attemptId, { sights: [{ slot: 5, at: at(1) }] }),
  ).rejects.toMatchObject({ status: 404 });
  await expect(
    noteSights(await viewer("ines.marsh"), attemptId, { sights: [{ slot: 5, at: at(1) }] }),
  ).rejects.toMatchObject({ status: 404 });
  for (const input of [
    {},
    { sights: [] },
    { sights: [{ slot: 0, at: 1 }] },
    { sights: [{ slot: 1, at: "1" }] },
    { sights: [{ slot: 1, at: 1, by: "x" }] },
  ])
    await expect(noteSights(student, attemptId, input)).rejects.toMatchObject({ status: 422 });

  await saveAnswers(student.token, attemptId, writing(4, { parts: { a: "1" } }));
  await handInAttempt(student, attemptId, {});
  await noteSights(student, attemptId, { sights: [{ slot: 5, at: at(4) }] });
  expect((await seenOf(attemptId)).get(5)).toBe(at(4));
  await sql`update attempt set handed_in_at = ${new Date(Date.now() - 2 * MINUTE)} where id = ${attemptId}`;
  await noteSights(student, attemptId, { sights: [{ slot: 6, at: at(4) }] });
  expect((await seenOf(attemptId)).has(6)).toBe(false);
});

test("the figures tell the median time of a question, over those who changed something in it", async () => {
  const half = await quiz("Half-term paper");
  const ines = await viewer("ines.marsh");
  const choice = { attempts: "all", version: null, sitting: null, section: null } as const;
  const rows =
    await sql`select q.question_id, x.attempt_id, x.slot, x.written_at from attempt_question q join answer x
    on x.attempt_id = q.attempt_id and x.slot = q.slot join attempt a on a.id = q.attempt_id
    where a.quiz_id = ${half} and x.answer is not null and a.handed_in_at is not null and a.awaited = 0 order by x.attempt_id`;
  const [question] = [...new Set(rows.map(({ question_id: id }) => id))].sort();
  const own = rows.filter(({ question_id: id }) => id === question);
  expect(own.length).toBeGreaterThan(4);
  for (const [i, row] of own.entries())
    await sql`update attempt_question set seen_at = ${new Date(new Date(row.written_at).getTime() - (i + 1) * 10 * SECOND)}
      where attempt_id = ${row.attempt_id} and slot = ${row.slot}`;
  const lengths = own.map((_, i) => (i + 1) * 10 * SECOND);
  const middle = lengths.length / 2;
  const median =
    lengths.length % 2
      ? lengths[Math.floor(middle)]
      : ((lengths[middle - 1] ?? 0) + (lengths[middle] ?? 0)) / 2;
  expect((await figuresOf(ines, half, choice)).times.get(question)).toBeCloseTo(median ?? 0, -1);
});
