import { afterEach, describe, expect, test, vi } from "vitest";
import { HOUR, MINUTE, SECOND, START_ALLOWANCE } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer, quiz, attempt } = college(sql);
const { startAttempt } = await import("./start-attempt");
const { confirmStart, openDesk } = await import("./open-desk");
const { turnedPages } = await import("./desk-pages");
const { moveOn } = await import("./move-on");
const { pictureOf } = await import("./media");
const { handInAttempt } = await import("./hand-in");
const { extendRunning } = await import("../quizzes/extend-running");
const { gradebookOf } = await import("../gradebook/gradebook");
const { takeBackRuling } = await import("../handed-in/take-back");
const { openAttempt } = await import("../attempts/open-attempt");
const { database } = await import("@/data/database");

const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
afterEach(() => {
  vi.useRealTimers();
});

async function started(name: string, title: string) {
  const student = await viewer(name);
  const { attemptId } = await startAttempt(student, await quiz(title));
  return { student, attemptId };
}

describe("every way that sends a question starts the clock", () => {
  const ways: readonly [
    string,
    (student: Awaited<ReturnType<typeof viewer>>, id: string) => Promise<unknown>,
  ][] = [
    ["the desk", openDesk],
    ["the pages by themselves", turnedPages],
    ["turning a page", (student, id) => moveOn(student, id, { from: 0, to: 0 })],
  ];
  test.each(ways)("%s: ten seconds after it the clock runs, whatever is asked for then", async (_, ask) => {
    const [name = ""] =
      await sql`select split_part(email, '@', 1) as name from person p join enrolment e on e.person_id = p.id
        join course c on c.id = e.course_id where c.slug = 'nav-110' and e.role = 'student'
        and not exists (select 1 from attempt a join quiz q on q.id = a.quiz_id
          where a.person_id = p.id and q.title = 'Tides and clearances') order by p.id limit 1`.then((rows) =>
        rows.map(({ name: found }) => found as string),
      );
    const began = Date.now();
    at(began);
    const { student, attemptId } = await started(name, "Tides and clearances");
    at(began + 2 * SECOND);
    await ask(student, attemptId);
    expect((await attempt(attemptId))?.sent_at).not.toBeNull();
    const starts = began + 2 * SECOND + START_ALLOWANCE;
    expect((await attempt(attemptId))?.started_at.getTime()).toBe(starts);
    // Asking again, in whatever way, wins nothing.
    at(began + 11 * SECOND);
    for (const [, again] of ways) await again(student, attemptId);
    expect((await attempt(attemptId))?.started_at.getTime()).toBe(starts);
    at(began + 15 * SECOND);
    await confirmStart(student, attemptId);
    expect((await attempt(attemptId))?.started_at.getTime()).toBe(starts);
  });

  test("a picture of a question, too", async () => {
    const { student, attemptId } = await started("camila.thornbury", "Chartroom sitting, part one");
    const seeded = await attempt(attemptId);
    const { seedOf } = await import("../attempts/seeds");
    const name = (await seedOf(seeded as never)).picture("approach");
    await pictureOf(student, attemptId, name);
    expect((await attempt(attemptId))?.sent_at).not.toBeNull();
  });
});

describe("time that is added stands, whenever it was", () => {
  test("in the first seconds, before the clock is confirmed", async () => {
    const began = Date.now();
    at(began);
    const { student, attemptId } = await started("yusuf.penhallow", "Tides and clearances");
    const ines = await viewer("ines.marsh");
    at(began + SECOND);
    await extendRunning(ines, await quiz("Tides and clearances"), {
      minutes: 5,
      reason: "alarm",
      attemptIds: [attemptId],
    });
    at(began + 3 * SECOND);
    await openDesk(student, attemptId);
    await extendRunning(ines, await quiz("Tides and clearances"), {
      minutes: 2,
      reason: "alarm",
      attemptIds: [attemptId],
    });
    at(began + 6 * SECOND);
    await confirmStart(student, attemptId);
    expect((await attempt(attemptId))?.deadline.getTime()).toBe(began + 6 * SECOND + 27 * MINUTE);
  });

  test("while the clock starts in the same moment", async () => {
    const { student, attemptId } = await started("jun.abernathy", "Tides and clearances");
    const ines = await viewer("ines.marsh");
    const id = await quiz("Tides and clearances");
    await Promise.all([
      confirmStart(student, attemptId),
      extendRunning(ines, id, { minutes: 3, reason: "noise", attemptIds: [attemptId] }),
      openDesk(student, attemptId),
      extendRunning(ines, id, { minutes: 4, reason: "noise", attemptIds: [attemptId] }),
    ]);
    const row = await attempt(attemptId);
    expect(row?.deadline.getTime() - row?.started_at.getTime()).toBe(27 * MINUTE);
  });

  test("past the due time it is not late, and a hand-in may be taken back as long", async () => {
    const id = await quiz("Hydration and dough strength");
    const due = Date.now() + 10 * MINUTE;
    await sql`update quiz set due = ${new Date(due)}, closes = ${new Date(due + 3 * HOUR)},
      settings = settings || '{"lateCostPerDay":10,"takeBack":true}' where id = ${id}`;
    const { student, attemptId } = await started("uma.granlund", "Hydration and dough strength");
    await confirmStart(student, attemptId);
    const instructor = await viewer("tomas.oyelaran");
    await extendRunning(instructor, id, { minutes: 60, reason: "fire drill", attemptIds: [attemptId] });
    at(due + 30 * MINUTE);
    await handInAttempt(student, attemptId, {});
    const row = (await gradebookOf(student, "brd-120")).categories
      .flatMap(({ rows }) => rows)
      .find(({ quizId }) => quizId === id);
    expect(row?.why).not.toContain("late");
    expect(await takeBackRuling(await openAttempt(student, attemptId), database())).toEqual({ may: true });
    at(due + 61 * MINUTE);
    expect((await takeBackRuling(await openAttempt(student, attemptId), database())).may).toBe(false);
  });
});
