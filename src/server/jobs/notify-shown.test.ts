import { afterEach, describe, expect, test, vi } from "vitest";
import type { RevealRules } from "@/core/quiz/rules";
import { HOUR, MINUTE } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { onlyShown, writeWork } from "../../../tests/support/marked-work";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { handInAttempt } = await import("../desk/hand-in");
const { notifyShown: tellShown } = await import("./notify-shown");
const { bellOf } = await import("../notices/bell");

const students = [await viewer("keziah.rowden"), await viewer("noor.haldane")] as const;
const [keziah, noor] = students;
const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
const shownTo = async (who: typeof keziah) => (await bellOf(who)).filter(({ kind }) => kind === "shown");

afterEach(async () => {
  vi.useRealTimers();
  await sql`delete from person_notice`;
});

/** A quiz that closes in an hour, handed in by Keziah, and begun by Noor. */
async function prepared(title: string, reveal: RevealRules, more: object = {}) {
  const { quizId } = await writeWork(sql, "pol-101", title, reveal, more);
  const { attemptId } = await startAttempt(keziah, quizId);
  await handInAttempt(keziah, attemptId, {});
  return { quizId, attemptId };
}

test("what was shown before anybody was told of such things is not news", async () => {
  expect(await tellShown()).toBe(0);
  expect(await tellShown()).toBe(0);
});

describe("what the clock shows", () => {
  test.each(["after-due", "after-closing"] as const)(
    "%s: told at the moment, once, to who handed in",
    async (when) => {
      const { quizId, attemptId } = await prepared(`Told ${when}`, {
        ...onlyShown("total", when),
        right: when,
        marks: "at-hand-in",
      });
      const [window] = await sql`select closes from quiz where id = ${quizId}`;
      const closes = new Date(window?.closes).getTime();
      at(closes - 1);
      expect(await tellShown()).toBe(0);
      at(closes);
      expect(await tellShown()).toBe(1);
      expect(await shownTo(keziah)).toMatchObject([
        {
          text: `Of “Told ${when}” this is shown now: your total, right answers.`,
          path: `/attempts/${attemptId}/paper`,
        },
      ]);
      expect(await shownTo(noor)).toEqual([]);
      at(closes + HOUR);
      expect(await tellShown()).toBe(0);
    },
  );

  test("two things at two times are told twice, each by itself", async () => {
    const on = new Date(Date.now() + 3 * HOUR).toISOString();
    await prepared("Two stages", { ...onlyShown("total", "after-due"), right: { on } });
    at(Date.now() + HOUR + MINUTE);
    expect(await tellShown()).toBe(1);
    at(Date.parse(on));
    expect(await tellShown()).toBe(1);
    expect((await shownTo(keziah)).map(({ text }) => text)).toEqual([
      "Of “Two stages” this is shown now: right answers.",
      "Of “Two stages” this is shown now: your total.",
    ]);
  });

  test("not while anyone may still write", async () => {
    const { quizId } = await prepared("Still writing", onlyShown("right", "after-closing"));
    await sql`insert into allowance (id, quiz_id, person_id, closes, reason)
      values (gen_random_uuid(), ${quizId}, ${noor.id}, now() + interval '2 hours', 'ill in the first week')`;
    at(Date.now() + HOUR + MINUTE);
    expect(await tellShown()).toBe(0);
    at(Date.now() + HOUR);
    expect(await tellShown()).toBe(1);
  });

  test("where only the last attempt shows anything: told to whom none is left, and to the others at closing", async () => {
    const reveal = {
      ...onlyShown("right", "after-due"),
      total: "at-hand-in" as const,
      onlyAfterLastAttempt: true,
    };
    const { quizId, attemptId } = await prepared("Once more", reveal, { attempts: 2 });
    const closes = Date.now() + 5 * HOUR;
    await sql`update quiz set closes = ${new Date(closes)} where id = ${quizId}`;
    const first = await startAttempt(noor, quizId);
    await handInAttempt(noor, first.attemptId, {});
    const second = await startAttempt(noor, quizId);
    await handInAttempt(noor, second.attemptId, {});
    const told = (words: string, path: string) => [
      { text: `Of “Once more” this is shown now: ${words}.`, path: `/attempts/${path}/paper` },
    ];
    at(Date.now() + HOUR + MINUTE);
    // It is due, but late work is taken: right answers wait for those who still write.
    expect(await tellShown()).toBe(0);
    at(closes - 1);
    expect(await tellShown()).toBe(0);
    at(closes);
    expect(await tellShown()).toBe(2);
    expect(await shownTo(noor)).toMatchObject(told("right answers", second.attemptId));
    // Her total was never to be seen before.
    expect(await shownTo(keziah)).toMatchObject(told("your total, right answers", attemptId));
    expect(await shownTo(noor)).toHaveLength(1);
    at(closes + HOUR);
    expect(await tellShown()).toBe(0);
  });

  test("two processes tell once", async () => {
    await prepared("Both at once", onlyShown("total", "after-due"));
    at(Date.now() + HOUR + MINUTE);
    const counts = await Promise.all([tellShown(), tellShown()]);
    expect(counts.sort()).toEqual([0, 1]);
    expect(await shownTo(keziah)).toHaveLength(1);
  });

  test("nothing by the clock, nothing told", async () => {
    await prepared("Never by the clock", { ...onlyShown("total", "when-returned"), marks: "at-hand-in" });
    at(Date.now() + 2 * HOUR);
    expect(await tellShown()).toBe(0);
  });
});
