import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test, vi } from "vitest";
import { isStrong } from "@/core/brief/phrases";
import { DAY, HOUR, MINUTE } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

const sql = await ownDatabase();
const { viewer, quiz, attempt } = college(sql);
const { startAttempt } = await import("../desk/start-attempt");
const { confirmStart, openDesk } = await import("../desk/open-desk");
const { briefOf } = await import("../overview/brief");
const { todayOf } = await import("../overview/today");
const { coursePage } = await import("../overview/courses");
const { gradebookOf } = await import("../gradebook/gradebook");
const { setTimes, lookOverTimes } = await import("../quizzes/set-times");
const { notifyOpened } = await import("../jobs/notify-opened");
const { giveAllowance, lookOverAllowance, lookOverTakingBack, takeAllowanceBack } = await import(
  "./give-allowance"
);
const { timesPageOf } = await import("./times-page");

const TIDES = "Tides and clearances";
const ines = await viewer("ines.marsh");
const noor = await viewer("noor.haldane");
const bao = await viewer("bao.lindqvist");
const tides = await quiz(TIDES);
const [course] =
  await sql`select course_id, slug from quiz q join course c on c.id = q.course_id where q.id = ${tides}`;
const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
afterEach(() => {
  vi.useRealTimers();
});

const clear = () => sql`delete from person_notice`;
const noticesOf = async (personId: string) =>
  (
    await sql`select kind, text, path from person_notice where person_id = ${personId} order by created_at, id`
  ).map(({ kind, path, text }) => ({ kind, path, text: english(text) }));
const idOf = async (personId: string) =>
  (
    await sql`select id from allowance where person_id = ${personId} and quiz_id = ${tides} and ended_at is null`
  )[0]?.id;
const phrases = (rules: Awaited<ReturnType<typeof briefOf>>["rules"]) =>
  english({
    code: "joined.nothing",
    values: { parts: rules.flatMap(({ text }) => text.map((each) => (isStrong(each) ? each.strong : each))) },
  });
async function sectionOf(...people: { readonly id: string }[]): Promise<string> {
  const id = randomUUID();
  await sql`insert into course_section (id, course_id, title, position) values (${id}, ${course?.course_id}, 'Tuesday group', 40)`;
  for (const person of people)
    await sql`insert into section_member (section_id, person_id) values (${id}, ${person.id})`;
  return id;
}

describe("giving and taking back", () => {
  test("is shown before it is done, does what was shown, is told to the one alone, and stands on their brief", async () => {
    await giveAllowance(
      ines,
      { quiz: tides },
      { personIds: [noor.id], extraMinutes: 1, reason: "too little" },
    );
    await clear();
    const wanted = { personIds: [noor.id], factor: 1.5, extraAttempts: 1 };
    const looked = await lookOverAllowance(ines, { quiz: tides }, wanted);
    expect(await noticesOf(noor.id)).toEqual([]);
    expect(looked).toMatchObject({
      told: 1,
      moved: [],
      warnings: [],
      reads: { name: noor.name, title: TIDES },
    });
    expect(looked.reads?.line).toContain("for you");
    const done = await giveAllowance(
      ines,
      { quiz: tides },
      {
        ...wanted,
        reason: "reads slowly",
        expects: looked.expects,
      },
    );
    expect({ ...done, expects: "" }).toEqual({ ...looked, expects: "" });
    const [told] = await noticesOf(noor.id);
    expect(told).toMatchObject({ kind: "extended", path: `/quizzes/${tides}` });
    expect(told?.text).toMatch(/^“Tides and clearances” now gives you .+\. reads slowly$/);
    expect((await sql`select distinct person_id from person_notice`).length).toBe(1);
    const words = phrases((await briefOf(noor, tides)).rules);
    expect(words).toContain("for you");
    expect(words).toContain("extra for you");
    expect(phrases((await briefOf(bao, tides)).rules)).not.toContain("for you");
    // What stood before is kept, with who replaced it; the record says who did what and why.
    const { held, past } = await timesPageOf(ines, { quiz: tides });
    expect(held.filter(({ to }) => "personId" in to && to.personId === noor.id)).toHaveLength(1);
    expect(past[0]).toMatchObject({ ended: { by: ines.name, reason: null } });
    const [line] =
      await sql`select actor_id, details, course_id from record where subject_id = ${noor.id} and action = 'allowance given' order by at desc, id desc limit 1`;
    expect(line).toMatchObject({
      actor_id: ines.id,
      course_id: course?.course_id,
      details: { reason: "reads slowly" },
    });
  });

  test("taken back, what everyone has holds again, with a reason that is told", async () => {
    await clear();
    const id = await idOf(noor.id);
    await expect(takeAllowanceBack(ines, { quiz: tides }, { id })).rejects.toMatchObject({ status: 422 });
    const looked = await lookOverTakingBack(ines, { quiz: tides }, { id });
    expect(looked.reads?.line).not.toContain("for you");
    expect(await idOf(noor.id)).toBe(id);
    await takeAllowanceBack(
      ines,
      { quiz: tides },
      { id, reason: "given by mistake", expects: looked.expects },
    );
    expect((await noticesOf(noor.id)).map(({ text }) => text).join()).toContain("given by mistake");
    expect(phrases((await briefOf(noor, tides)).rules)).not.toContain("for you");
    await expect(takeAllowanceBack(ines, { quiz: tides }, { id, reason: "twice" })).rejects.toMatchObject({
      status: 404,
    });
  });

  test("two instructors do not give over each other unseen; two at once leave one that holds", async () => {
    const wanted = { personIds: [bao.id], extraMinutes: 5 };
    const looked = await lookOverAllowance(ines, { quiz: tides }, wanted);
    await giveAllowance(ines, { quiz: tides }, { personIds: [bao.id], extraMinutes: 20, reason: "x" });
    await expect(
      giveAllowance(ines, { quiz: tides }, { ...wanted, reason: "x", expects: looked.expects }),
    ).rejects.toMatchObject({ status: 409, type: "changed-meanwhile" });
    await Promise.all(
      [1, 2, 3, 4].map((extraMinutes) =>
        giveAllowance(ines, { quiz: tides }, { personIds: [bao.id], extraMinutes, reason: "x" }),
      ),
    );
    expect(
      (
        await sql`select id from allowance where person_id = ${bao.id} and quiz_id = ${tides} and ended_at is null`
      ).length,
    ).toBe(1);
    await takeAllowanceBack(ines, { quiz: tides }, { id: await idOf(bao.id), reason: "x" });
  });

  test("an attempt that runs moves with it, in every desk; nobody is left without time", async () => {
    const student = await viewer("jun.abernathy");
    const { attemptId } = await startAttempt(student, tides);
    await confirmStart(student, attemptId);
    const before = Number((await attempt(attemptId))?.deadline);
    const given = { personIds: [student.id], extraMinutes: 15 };
    expect((await lookOverAllowance(ines, { quiz: tides }, given)).moved).toEqual([
      { name: student.name, title: TIDES, from: before, to: before + 15 * MINUTE },
    ]);
    expect(Number((await attempt(attemptId))?.deadline)).toBe(before);
    await giveAllowance(ines, { quiz: tides }, { ...given, reason: "the fire alarm" });
    expect((await openDesk(student, attemptId))?.clock.deadline).toBe(before + 15 * MINUTE);
    const [line] =
      await sql`select details from record where subject_id = ${attemptId} and action = 'deadline moved'`;
    expect(line?.details).toMatchObject({ reason: "the fire alarm" });
    at(before + MINUTE);
    await expect(
      takeAllowanceBack(ines, { quiz: tides }, { id: await idOf(student.id), reason: "x" }),
    ).rejects.toMatchObject({ status: 422 });
    expect(Number((await attempt(attemptId))?.deadline)).toBe(before + 15 * MINUTE);
  });
});

describe("a section, a course, and no closing", () => {
  test("a section's own window holds for its members alone, and opens for them when it says", async () => {
    const ottoline = await viewer("camila.thornbury");
    const other = await viewer("farid.kjeldsen");
    const sectionId = await sectionOf(ottoline);
    const later = Date.now() + 40 * HOUR;
    await sql`update quiz set opening_told = now() where id = ${tides}`;
    await giveAllowance(
      ines,
      { quiz: tides },
      {
        sectionId,
        opens: new Date(later).toISOString(),
        due: new Date(later + HOUR).toISOString(),
        closes: new Date(later + HOUR).toISOString(),
        reason: "sits on Tuesday",
      },
    );
    expect((await briefOf(ottoline, tides)).window).toEqual({
      opens: later,
      due: later + HOUR,
      closes: later + HOUR,
    });
    await expect(startAttempt(ottoline, tides)).rejects.toMatchObject({ type: "not-open-yet" });
    expect((await briefOf(other, tides)).window.opens).not.toBe(later);
    await clear();
    at(later + MINUTE);
    await notifyOpened();
    expect((await noticesOf(ottoline.id)).map(({ kind }) => kind)).toContain("opened");
    expect(
      (await sql`select distinct person_id from person_notice where path = ${`/quizzes/${tides}`}`).length,
    ).toBe(1);
    await notifyOpened();
    expect((await noticesOf(ottoline.id)).filter(({ kind }) => kind === "opened")).toHaveLength(1);
    await expect(startAttempt(ottoline, tides)).resolves.toBeDefined();
  });

  test("no closing is another thing than as everyone; throughout a course days are added to each quiz", async () => {
    const quentin = await viewer("quentin.mbele");
    const everyones = (await briefOf(quentin, tides)).window;
    await giveAllowance(
      ines,
      { quiz: tides },
      { personIds: [quentin.id], closes: "none", due: "none", reason: "ill" },
    );
    expect((await briefOf(quentin, tides)).window).toMatchObject({ due: null, closes: null });
    at(Date.now() + 300 * DAY);
    await expect(startAttempt(quentin, tides)).resolves.toBeDefined();
    vi.useRealTimers();
    const keziah = await viewer("valentin.aghedo");
    await giveAllowance(
      ines,
      { course: course?.slug },
      { personIds: [keziah.id], daysLater: 7, reason: "support" },
    );
    const own = (await briefOf(keziah, tides)).window;
    // Days on the calendar: an hour more or less where the clocks change.
    expect(Math.abs((own.closes ?? 0) - (everyones.closes ?? 0) - 7 * DAY)).toBeLessThanOrEqual(HOUR);
    expect(own.opens).toBe(everyones.opens);
    expect((await noticesOf(keziah.id)).map(({ text }) => text).join()).toContain("In all quizzes of");
    // The day after everyone's closing it is late for nobody who has longer.
    await giveAllowance(
      ines,
      { quiz: tides },
      { personIds: [keziah.id], factor: 1, reason: "the limit as for all" },
    );
    expect((await briefOf(keziah, tides)).window.closes).toBe(own.closes);
  });

  test("what contradicts itself, is empty, or reaches a stranger is refused, and nothing is changed", async () => {
    const okafor = await viewer("adaeze.okafor");
    const before = await sql`select * from allowance order by id`;
    const elsewhere = (
      await sql`select e.person_id as id from enrolment e where e.role = 'student' and e.course_id <> ${course?.course_id}
        and e.person_id not in (select person_id from enrolment where course_id = ${course?.course_id}) limit 1`
    )[0]?.id;
    const closes = new Date(Date.now() - DAY).toISOString();
    const opens = new Date(Date.now() + DAY).toISOString();
    for (const [what, input] of [
      ["quiz", { personIds: [noor.id], reason: "x" }],
      ["quiz", { personIds: [], factor: 2, reason: "x" }],
      ["quiz", { factor: 2, reason: "x" }],
      ["quiz", { personIds: [noor.id], sectionId: randomUUID(), factor: 2, reason: "x" }],
      ["quiz", { sectionId: randomUUID(), factor: 2, reason: "x" }],
      ["quiz", { personIds: [elsewhere], factor: 2, reason: "x" }],
      ["quiz", { personIds: [ines.id], factor: 2, reason: "x" }],
      ["quiz", { personIds: [noor.id], factor: 0.5, reason: "x" }],
      ["quiz", { personIds: [noor.id], factor: 2 }],
      ["quiz", { personIds: [noor.id], factor: 2, reason: " " }],
      ["quiz", { personIds: [noor.id], daysLater: 2, reason: "x" }],
      ["quiz", { personIds: [noor.id], opens, closes, reason: "x" }],
      ["quiz", { personIds: [noor.id], closes: "soon", reason: "x" }],
      ["quiz", { personIds: [noor.id], factor: "2", reason: "x" }],
      ["quiz", { personIds: [noor.id], factor: 2, reason: "x", grade: 1 }],
      ["course", { personIds: [noor.id], closes: opens, reason: "x" }],
    ] as const)
      await expect(
        giveAllowance(ines, what === "quiz" ? { quiz: tides } : { course: course?.slug }, input),
        JSON.stringify(input),
      ).rejects.toMatchObject({ status: 422 });
    for (const who of [noor, okafor, await viewer("laszlo.hemming"), await viewer("yuki.brandvold")])
      for (const what of [{ quiz: tides }, { course: course?.slug as string }]) {
        const input = { personIds: [noor.id], factor: 3, reason: "x" };
        await expect(giveAllowance(who, what, input)).rejects.toMatchObject({ status: 404 });
        await expect(lookOverAllowance(who, what, input)).rejects.toMatchObject({ status: 404 });
        await expect(timesPageOf(who, what)).rejects.toMatchObject({ status: 404 });
      }
    expect(await sql`select * from allowance order by id`).toEqual(before);
  });
});

test("what opens again, and what is known already, is said before it is done; staff see it open", async () => {
  const { staffQuizzes } = await import("../overview/staff-quizzes");
  const adaeze = await viewer("adaeze.okafor");
  const review = await quiz("Field camp review");
  const stateOf = async () => (await staffQuizzes(adaeze, { quizId: review }))[0]?.state;
  const before = await stateOf();
  expect(before).not.toBe("open");
  const closes = new Date(Date.now() + 2 * DAY).toISOString();
  const given = { personIds: [bao.id], due: closes, closes };
  const { warnings } = await lookOverAllowance(adaeze, { quiz: review }, given);
  expect(warnings).toContain("What has closed is open again for one student: Field camp review.");
  expect(warnings.join()).toContain("Right answers are shown already, to some at least: Field camp review.");
  expect(await stateOf()).toBe(before);
  await giveAllowance(adaeze, { quiz: review }, { ...given, reason: "was ill" });
  expect(await stateOf()).toBe("open");
  await takeAllowanceBack(
    adaeze,
    { quiz: review },
    {
      id: (
        await sql`select id from allowance where quiz_id = ${review} and person_id = ${bao.id} and ended_at is null`
      )[0]?.id,
      reason: "x",
    },
  );
  expect(await stateOf()).toBe(before);
});

test("no response to a student tells another's allowance", async () => {
  const mark = "secretly reads with a lens";
  const secret = {
    personIds: [noor.id],
    factor: 1.37,
    extraMinutes: 13,
    extraAttempts: 4,
    closes: "none",
    reason: mark,
  };
  await giveAllowance(ines, { quiz: tides }, secret);
  const seen = JSON.stringify([
    await briefOf(bao, tides),
    await todayOf(bao),
    await coursePage(bao, course?.slug),
    await gradebookOf(bao, course?.slug),
  ]);
  for (const tells of [mark, "1.37", "reads with"]) expect(seen).not.toContain(tells);
  expect(seen).not.toContain(noor.name);
});

describe("the times of everyone", () => {
  test("are shown before they are set; each who is concerned hears what becomes otherwise for them, and only that", async () => {
    await clear();
    const farid = await viewer("farid.kjeldsen");
    const own = new Date(Date.now() + 30 * DAY);
    await giveAllowance(
      ines,
      { quiz: tides },
      { personIds: [farid.id], closes: own.toISOString(), reason: "x" },
    );
    await clear();
    const closes = new Date(Date.now() + 9 * DAY).toISOString();
    const looked = await lookOverTimes(ines, tides, { closes });
    const done = await setTimes(ines, tides, {
      closes,
      reason: "moved by the harbour",
      expects: looked.expects,
    });
    expect(done.told).toBe(looked.told);
    expect((await sql`select distinct person_id from person_notice`).length).toBe(done.told);
    // Whose own closing stays hears nothing of everyone's.
    expect(await noticesOf(farid.id)).toEqual([]);
    expect((await noticesOf(bao.id))[0]?.text).toContain("now closes");
    await expect(
      setTimes(ines, tides, { closes: null, reason: "x", expects: looked.expects }),
    ).rejects.toMatchObject({ type: "changed-meanwhile" });
    // An opening after somebody's own closing is named.
    await expect(
      setTimes(ines, tides, {
        opens: new Date(own.getTime() + DAY).toISOString(),
        due: null,
        closes: null,
        reason: "x",
      }),
    ).rejects.toMatchObject({ status: 422, sentence: { values: { name: "Farid Kjeldsen" } } });
  });

  test("who may take it: the others see it and cannot start; each is told of their own", async () => {
    await clear();
    await setTimes(ines, tides, { onlyFor: [noor.id, bao.id], reason: "a second sitting" });
    const outside = await viewer("greta.nwosu");
    const inside = (
      await sql`select person_id from enrolment where course_id = ${course?.course_id} and role = 'student' and person_id not in (${noor.id}, ${bao.id}) limit 1`
    )[0]?.person_id;
    expect((await noticesOf(inside)).map(({ text }) => text)).toEqual([
      "“Tides and clearances” is no longer set for you. a second sitting",
    ]);
    expect(await noticesOf(noor.id)).toEqual([]);
    await expect(
      setTimes(ines, tides, { onlyFor: [outside.id, ines.id], reason: "x" }),
    ).rejects.toMatchObject({ status: 422 });
    await expect(setTimes(ines, tides, { onlyFor: [], reason: "x" })).rejects.toMatchObject({ status: 422 });
    await setTimes(ines, tides, { onlyFor: null, reason: "for all again" });
    expect((await noticesOf(inside)).at(-1)?.text).toContain("is now set for you");
  });
});
