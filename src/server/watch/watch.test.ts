import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test, vi } from "vitest";
import { chance } from "@/core/numbers/seeded";
import { GRACE, MINUTE } from "@/core/time/instants";
import { college, writing } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

const sql = await ownDatabase();
const { viewer, quiz, attempt } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { attemptPulse, confirmStart } = await import("../desk/open-desk");
const { saveAnswers } = await import("../desk/save-answers");
const { handInAttempt } = await import("../desk/hand-in");
const { extendRunning } = await import("../quizzes/extend-running");
const { sayToDesks } = await import("../quizzes/desk-messages");
const { sweep } = await import("../attempts/settle");
const { endAttempts } = await import("./end-attempts");
const { letIn } = await import("./let-in");
const { watchOf } = await import("./watch-page");
const { sittingsOf } = await import("./sittings");

const TIDES = "Tides and clearances";
const ines = await viewer("ines.marsh");
const tides = await quiz(TIDES);
const moveClock = (later: number) => vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + later });
afterEach(() => {
  vi.useRealTimers();
});

async function started(name: string, title = TIDES) {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  await confirmStart(student, attemptId);
  const save = (slot: number, answer: unknown) =>
    saveAnswers(student.token, attemptId, writing(slot, answer));
  return { student, attemptId, save };
}
const lineOf = async (attemptId: string) =>
  (await watchOf(ines, tides)).sittings.find((each) => each.attemptId === attemptId);
const newest = async (personId: string) =>
  (
    await sql`select text, path from person_notice where person_id = ${personId} order by created_at desc, id desc limit 1`
  )[0];
const deadlineOf = async (id: string) => Number((await attempt(id))?.deadline);

describe("who sees it", () => {
  test("instructors, and assistants to whom the quiz was given; nobody else finds it", async () => {
    const meadow = await quiz("Two short essays on the meadow");
    expect((await watchOf(await viewer("yuna.petrides"), meadow)).mayAllow).toBe(false);
    expect((await watchOf(await viewer("adaeze.okafor"), meadow)).mayAllow).toBe(true);
    for (const [name, id] of [
      ["noor.haldane", tides],
      ["adaeze.okafor", tides],
      ["yuna.petrides", await quiz("Field camp review")],
      ["laszlo.hemming", meadow],
      ["yuki.brandvold", tides],
    ] as const)
      await expect(watchOf(await viewer(name), id)).rejects.toMatchObject({ status: 404 });
  });

  test("an assistant says something, but gives no time, ends nothing and lets nobody in", async () => {
    const yuna = await viewer("yuna.petrides");
    const meadow = await quiz("Two short essays on the meadow");
    const { attemptId, student } = await started("greta.nwosu", "Two short essays on the meadow");
    await sayToDesks(yuna, meadow, { text: "Ten minutes more of quiet.", attemptIds: [attemptId] });
    for (const what of [
      () => extendRunning(yuna, meadow, { minutes: 5, reason: "x", attemptIds: [attemptId] }),
      () => endAttempts(yuna, meadow, { attemptIds: [attemptId], reason: "x" }),
      () => letIn(yuna, meadow, { attemptId, minutes: 5, reason: "x" }),
      () => endAttempts(student, meadow, { attemptIds: [attemptId], reason: "x" }),
    ])
      await expect(what()).rejects.toMatchObject({ status: 404 });
    expect((await attempt(attemptId))?.handed_in_at).toBeNull();
  });
});

describe("what it tells", () => {
  test("who writes, how far, what is particular, and who has not begun; no answer and no mark", async () => {
    const { attemptId, save } = await started("jun.abernathy");
    const before = await watchOf(ines, tides);
    await save(6, { parts: { a: "1.7" } });
    await save(4, { parts: { a: "4.2" } });
    await extendRunning(ines, tides, { minutes: 7, reason: "alarm", attemptIds: [attemptId] });
    const line = await lineOf(attemptId);
    expect(line).toMatchObject({
      name: "Jun Abernathy",
      answered: 2,
      here: 4,
      handedInAt: null,
      awaySince: null,
    });
    expect(line?.particular).toContainEqual({ kind: "time-added", minutes: 7 });
    expect((line?.trace ?? []).reduce((sum, each) => sum + each, 0)).toBe(2);
    expect(before.expected.map(({ name }) => name)).not.toContain("Jun Abernathy");
    expect(before.expected.length).toBeGreaterThan(5);
    const told = JSON.stringify(await watchOf(ines, tides));
    for (const word of ["4.2", "earned", "marks", "email", "@"]) expect(told).not.toContain(word);
  });

  test("a word to one stands at that desk alone", async () => {
    const one = await started("camila.thornbury");
    const other = await started("farid.kjeldsen");
    await sayToDesks(ines, tides, { text: "Turn your sheet over.", attemptIds: [one.attemptId] });
    const texts = async ({ student, attemptId }: typeof one) =>
      (await attemptPulse(student, attemptId)).messages?.map(({ text }) => text) ?? [];
    expect(await texts(one)).toContain("Turn your sheet over.");
    expect(await texts(other)).not.toContain("Turn your sheet over.");
  });
});

describe("ending", () => {
  test("hands in what stands there, for those chosen alone, with the reason on record and told", async () => {
    const one = await started("nikolai.pellworth");
    const other = await started("quentin.mbele");
    await one.save(4, { parts: { a: "1" } });
    expect(
      await endAttempts(ines, tides, { attemptIds: [one.attemptId], reason: "fire in the hall" }),
    ).toEqual({ ended: 1 });
    const row = await attempt(one.attemptId);
    expect(row).toMatchObject({ handed_in_by: "instructor" });
    expect((await attempt(other.attemptId))?.handed_in_at).toBeNull();
    expect(english((await newest(one.student.id))?.text)).toContain("fire in the hall");
    const record =
      await sql`select action, details from record where subject_id = ${one.attemptId} and actor_id = ${ines.id}`;
    expect(record.map(({ details }) => details.reason)).toContain("fire in the hall");
    await expect(one.save(4, { parts: { a: "2" } })).rejects.toMatchObject({ type: "handed-in" });
    // A second time there is nothing to end.
    await expect(
      endAttempts(ines, tides, { attemptIds: [one.attemptId], reason: "again" }),
    ).rejects.toMatchObject({ status: 422 });
  });

  test("attempts of another quiz are not touched, and one whose time was up was ended by the clock", async () => {
    const meadow = await started("keziah.rowden", "Two short essays on the meadow");
    await expect(
      endAttempts(ines, tides, { attemptIds: [meadow.attemptId], reason: "x" }),
    ).rejects.toMatchObject({ status: 422 });
    expect((await attempt(meadow.attemptId))?.handed_in_at).toBeNull();
    const late = await started("ximena.bratt");
    const deadline = await deadlineOf(late.attemptId);
    moveClock(deadline - Date.now() + 2_000);
    await endAttempts(ines, tides, { attemptIds: [late.attemptId], reason: "x" });
    expect(await attempt(late.attemptId)).toMatchObject({ handed_in_by: "clock" });
    expect(Number((await attempt(late.attemptId))?.handed_in_at)).toBe(deadline);
  });

  test.each([
    [{ reason: "x" }],
    [{ attemptIds: [], reason: "x" }],
    [{ attemptIds: ["1"], reason: "x" }],
    [{ attemptIds: [randomUUID()] }],
    [{ attemptIds: [randomUUID()], reason: "  " }],
    [{ attemptIds: [randomUUID()], reason: "x", more: 1 }],
  ])("%j is refused", async (input) => {
    await expect(endAttempts(ines, tides, input)).rejects.toMatchObject({ status: 422 });
  });
});

describe("letting in again", () => {
  test("the same attempt goes on with its answers and more time, and is told", async () => {
    const { student, attemptId, save } = await started("valentin.aghedo");
    await save(6, { parts: { a: "1" } });
    const before = await deadlineOf(attemptId);
    await handInAttempt(student, attemptId, {});
    await letIn(ines, tides, { attemptId, minutes: 6, reason: "handed in by mistake" });
    expect(await attempt(attemptId)).toMatchObject({ handed_in_at: null, handed_in_by: null });
    expect(await deadlineOf(attemptId)).toBe(before + 6 * MINUTE);
    await save(4, { parts: { a: "2" } });
    expect(
      (await sql`select slot from answer where attempt_id = ${attemptId} order by slot`).map(
        ({ slot }) => slot,
      ),
    ).toEqual([4, 6]);
    expect(english((await newest(student.id))?.text)).toContain("handed in by mistake");
    await expect(letIn(ines, tides, { attemptId, minutes: 6, reason: "x" })).rejects.toMatchObject({
      status: 409,
    });
  });

  test("after its time was up it has the minutes that are given, from now", async () => {
    const { attemptId } = await started("yusuf.penhallow");
    moveClock((await deadlineOf(attemptId)) - Date.now() + 10 * MINUTE);
    await sweep();
    expect(await attempt(attemptId)).toMatchObject({ handed_in_by: "clock" });
    await expect(letIn(ines, tides, { attemptId, minutes: 0, reason: "x" })).rejects.toMatchObject({
      status: 422,
    });
    const at = Date.now();
    await letIn(ines, tides, { attemptId, minutes: 5, reason: "the network failed" });
    const until = await deadlineOf(attemptId);
    expect(until - at).toBeGreaterThanOrEqual(5 * MINUTE);
    expect(until - at).toBeLessThan(5 * MINUTE + 5_000);
  });

  test("not where it is returned, where another runs, or where right answers are shown already", async () => {
    const { student, attemptId } = await started("tadhg.villanueva");
    await handInAttempt(student, attemptId, {});
    await sql`update attempt set returned_at = now() where id = ${attemptId}`;
    await expect(letIn(ines, tides, { attemptId, minutes: 5, reason: "x" })).rejects.toMatchObject({
      type: "returned",
    });
    await sql`update attempt set returned_at = null where id = ${attemptId}`;
    const [set] = await sql`select settings, due, closes from quiz where id = ${tides}`;
    try {
      // Everybody is done, and its time is over: right answers are shown.
      await sql`update attempt set handed_in_at = coalesce(handed_in_at, now()) where quiz_id = ${tides}`;
      await sql`update quiz set closes = now() - interval '1 hour', due = now() - interval '1 hour',
        settings = jsonb_set(settings - 'takeBack', '{reveal,right}', '"after-closing"') where id = ${tides}`;
      await sql`delete from allowance where quiz_id = ${tides}`;
      await expect(letIn(ines, tides, { attemptId, minutes: 5, reason: "x" })).rejects.toMatchObject({
        type: "answers-shown",
      });
    } finally {
      await sql`update quiz set settings = ${sql.json(set?.settings)}, due = ${set?.due}, closes = ${set?.closes} where id = ${tides}`;
    }
    await sql`update attempt set handed_in_at = coalesce(handed_in_at, now()), handed_in_by = 'student' where id = ${attemptId}`;
    const second = await startAttempt(student, tides).catch(() => null);
    if (second) {
      await expect(letIn(ines, tides, { attemptId, minutes: 5, reason: "x" })).rejects.toMatchObject({
        type: "another-runs",
      });
    }
    await expect(
      letIn(ines, tides, { attemptId: randomUUID(), minutes: 5, reason: "x" }),
    ).rejects.toMatchObject({ status: 404 });
  });
});

test("a deadline is right in every order of giving time to one, some and all, ending, letting in, and the clock", async () => {
  const next = chance("deadlines");
  const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
  const names = ["anneke.tremaine", "bao.lindqvist", "dmitri.aske"];
  await sql`update quiz set closes = now() + interval '20 hours', due = now() + interval '20 hours' where id = ${tides}`;
  await sql`update quiz set settings = jsonb_set(settings, '{attempts}', '50') where id = ${tides}`;
  await sql`delete from attempt where quiz_id = ${tides} and person_id in (select id from person where name in ('Anneke Tremaine', 'Bao Lindqvist', 'Dmitri Aske'))`;
  for (let round = 0; round < 6; round += 1) {
    vi.useRealTimers();
    const people = await Promise.all(names.map((name) => started(name)));
    const model = await Promise.all(
      people.map(async ({ attemptId }) => ({
        id: attemptId,
        deadline: await deadlineOf(attemptId),
        runs: true,
      })),
    );
    const clockEnds = () => {
      for (const each of model) if (each.runs && Date.now() > each.deadline + GRACE) each.runs = false;
    };
    for (let step = 0; step < 14; step += 1) {
      const minutes = 1 + Math.floor(next() * 9);
      const some = model.filter(() => next() < 0.6);
      const one = pick(model);
      const did = pick(["all", "some", "end", "let-in", "clock", "clock"]);
      if (did === "clock") {
        moveClock(Math.floor(next() * 9 * MINUTE));
        await sweep();
        clockEnds();
      } else if (did === "all" || did === "some") {
        const meant = did === "all" ? model : some;
        const lives = meant.filter(({ runs, deadline }) => runs && deadline > Date.now() - GRACE);
        const asked = {
          minutes,
          reason: "x",
          ...(did === "some" ? { attemptIds: some.map(({ id }) => id) } : {}),
        };
        await extendRunning(ines, tides, asked).catch((error) => {
          if (error.status !== 422) throw error;
        });
        for (const each of lives) each.deadline += minutes * MINUTE;
      } else if (did === "end") {
        const done = await endAttempts(ines, tides, { attemptIds: [one.id], reason: "x" }).catch(
          (error) => error,
        );
        expect(done.status === 422).toBe(!one.runs);
        one.runs = false;
      } else {
        const at = Date.now();
        const refused = await letIn(ines, tides, { attemptId: one.id, minutes, reason: "x" }).catch(
          (error) => error,
        );
        if (one.runs) expect(refused).toMatchObject({ status: 409 });
        else {
          expect(refused).toBeUndefined();
          one.runs = true;
          const from = Math.max(one.deadline, at);
          const kept = await deadlineOf(one.id);
          // From now, where its time was up: by the clock of the moment in which it was written.
          expect(kept - minutes * MINUTE).toBeGreaterThanOrEqual(from);
          expect(kept - minutes * MINUTE).toBeLessThan(from + 3_000);
          one.deadline = kept;
        }
      }
      for (const each of model) {
        const row = await attempt(each.id);
        expect([Number(row?.deadline), row?.handed_in_at === null], `${did} in round ${round}`).toEqual([
          each.deadline,
          each.runs,
        ]);
      }
    }
    await sql`update attempt set handed_in_at = coalesce(handed_in_at, now()) where quiz_id = ${tides}`;
  }
  // What the watch tells is what stands there.
  const [row] = await sql`select id, opens from quiz where id = ${tides}`;
  for (const line of await sittingsOf({ id: row?.id, opens: null }))
    expect(line.deadline).toBe(await deadlineOf(line.attemptId));
});
