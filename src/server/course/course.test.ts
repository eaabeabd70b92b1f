import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test, vi } from "vitest";
import { DAY } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { coursePlanOf } = await import("../overview/course-plan");
const { todayOf } = await import("../overview/today");
const { sendWaiting } = await import("../mail/send-waiting");
const { announce, announcementsOf, takeDown } = await import("./announce");
const { planToWrite, writePlan } = await import("./write-plan");

const SLUG = "nav-110";
const ines = await viewer("ines.marsh");
const noor = await viewer("noor.haldane");
const at = (instant: number) => vi.useFakeTimers({ toFake: ["Date"], now: instant });
afterEach(() => {
  vi.useRealTimers();
});
const nobodies = async () => [
  noor,
  await viewer("adaeze.okafor"),
  await viewer("laszlo.hemming"),
  await viewer("yuki.brandvold"),
];

describe("the plan of a course", () => {
  test("is read as it stands, changed, moved and kept; students see it, and a quiz at its place is the same quiz", async () => {
    const { plan, expects, quizzes } = await planToWrite(ines, SLUG);
    expect(plan.length).toBeGreaterThan(2);
    const [first, second, ...rest] = plan;
    const tides = await quiz("Tides and clearances");
    expect(quizzes.map(({ id }) => id)).toContain(tides);
    const kept = await writePlan(ines, SLUG, {
      expects,
      sections: [
        second,
        { ...first, title: "  The handbook, again  " },
        ...rest,
        {
          id: "new-1",
          title: "Week 15: the last one",
          starts: "2031-03-03",
          entries: [
            { id: "new-2", kind: "quiz", quizId: tides },
            {
              id: "new-3",
              kind: "note",
              text: '<p>See <a href="https://tides.example/table" onclick="x()">the table</a>.<script>x()</script></p>',
            },
          ],
        },
      ],
    });
    expect(kept.plan[0]?.id).toBe(second?.id);
    expect(kept.plan[1]).toMatchObject({ id: first?.id, title: "The handbook, again" });
    expect((await planToWrite(ines, SLUG)).expects).toBe(kept.expects);
    const seen = (await coursePlanOf(noor, SLUG)).sections.at(-1);
    expect(seen).toMatchObject({ title: "Week 15: the last one", isNow: false });
    const [there, note] = seen?.entries ?? [];
    expect(there?.kind === "quiz" && there.item.quiz.id).toBe(tides);
    expect(note).toMatchObject({ kind: "note" });
    const text = note && "text" in note ? note.text : "";
    expect(text).toContain('href="https://tides.example/table"');
    expect(text).not.toMatch(/onclick|script/);
    // The week in which we are is the one that began last, wherever it stands.
    at(Date.parse("2031-03-05T12:00:00Z"));
    expect(
      (await coursePlanOf(noor, SLUG)).sections.filter(({ isNow }) => isNow).map(({ title }) => title),
    ).toEqual(["Week 15: the last one"]);
  });

  test("two who write it do not write over each other; keeping the same twice changes nothing", async () => {
    const { plan, expects } = await planToWrite(ines, SLUG);
    const again = await writePlan(ines, SLUG, { expects, sections: plan });
    expect(again.plan).toEqual(plan);
    const changed = plan.map((section, i) => (i === 0 ? { ...section, title: "Mine" } : section));
    await writePlan(ines, SLUG, { expects, sections: changed });
    await expect(writePlan(ines, SLUG, { expects, sections: plan })).rejects.toMatchObject({
      type: "changed-meanwhile",
    });
    const now = (await planToWrite(ines, SLUG)).expects;
    const both = await Promise.allSettled(
      ["One", "Two"].map((title) =>
        writePlan(ines, SLUG, {
          expects: now,
          sections: [{ id: "new-1", title, starts: null, entries: [] }],
        }),
      ),
    );
    expect(both.filter(({ status }) => status === "fulfilled")).toHaveLength(1);
    expect((await planToWrite(ines, SLUG)).plan).toHaveLength(1);
  });

  test("what is missing, strange or too much is refused, and nothing is changed; nobody else writes it", async () => {
    const { expects, plan } = await planToWrite(ines, SLUG);
    const elsewhere = await quiz("Field camp review");
    const section = { id: "new-1", title: "Week", starts: null, entries: [] as object[] };
    const entry = (of: object) => ({ ...section, entries: [{ id: "e", ...of }] });
    for (const sections of [
      [{ ...section, title: " " }],
      [{ ...section, starts: "tomorrow" }],
      [{ ...section, starts: "2026-13-40" }],
      [entry({ kind: "quiz", quizId: elsewhere })],
      [entry({ kind: "quiz", quizId: randomUUID() })],
      [entry({ kind: "quiz" })],
      [entry({ kind: "note", text: "<p>  </p>" })],
      [entry({ kind: "note", text: "x".repeat(20_001) })],
      [entry({ kind: "picture", text: "x" })],
      Array.from({ length: 101 }, () => section),
      "none",
    ])
      await expect(
        writePlan(ines, SLUG, { expects, sections }),
        JSON.stringify(sections).slice(0, 90),
      ).rejects.toMatchObject({ status: 422 });
    await expect(writePlan(ines, SLUG, { sections: [] })).rejects.toMatchObject({ status: 422 });
    for (const who of await nobodies()) {
      await expect(planToWrite(who, SLUG)).rejects.toMatchObject({ status: 404 });
      await expect(writePlan(who, SLUG, { expects, sections: [] })).rejects.toMatchObject({ status: 404 });
    }
    expect(await planToWrite(ines, SLUG)).toMatchObject({ plan, expects });
    // One that another course has is not taken over by its name.
    const [other] =
      await sql`select s.id from plan_section s join course c on c.id = s.course_id where c.slug = 'pol-101' limit 1`;
    const kept = await writePlan(ines, SLUG, { expects, sections: [{ ...section, id: other?.id }] });
    expect(kept.plan[0]?.id).not.toBe(other?.id);
    expect((await sql`select 1 from plan_section where id = ${other?.id}`).length).toBe(1);
  });
});

describe("an announcement", () => {
  const text = "The lights are out in the chartroom.\nBring a lamp.";

  test("stands on Today, at every student's bell and in the mail, once, however often it is sent", async () => {
    await sql`delete from person_notice`;
    const id = randomUUID();
    const sent = await Promise.all([1, 2, 3].map(() => announce(ines, SLUG, { id, text })));
    const [students] =
      await sql`select count(*)::int as count from enrolment e join course c on c.id = e.course_id where c.slug = ${SLUG} and e.role = 'student'`;
    expect(sent.map(({ told }) => told)).toEqual(Array(3).fill(students?.count));
    const rows = await sql`select kind, text, path from person_notice`;
    expect(rows).toHaveLength(students?.count);
    expect(rows[0]).toMatchObject({ kind: "announced", path: `/courses/${SLUG}/announcements` });
    expect(english(rows[0]?.text)).toBe(`Coastal Navigation: ${text}`);
    expect((await todayOf(noor)).announcements[0]).toMatchObject({ text, author: ines.name });
    expect((await announcementsOf(noor, SLUG)).announcements[0]).toMatchObject({ id, text });
    let mails = 0;
    await sendWaiting(1_000, {
      sendMail: async ({ text: body }: { text?: unknown }) => {
        if (String(body).includes("Bring a lamp.")) mails += 1;
      },
    } as never);
    expect(mails).toBe(students?.count);
    // Its number is nobody else's, and holds no other words.
    await expect(announce(ines, SLUG, { id, text: "Something else." })).rejects.toMatchObject({
      status: 422,
    });
    await expect(announce(await viewer("adaeze.okafor"), "pol-101", { id, text })).rejects.toMatchObject({
      status: 422,
    });
  });

  test("leaves Today after its last day, or when it is taken down; the list keeps it", async () => {
    const id = randomUUID();
    const until = new Date(Date.now() + 2 * DAY).toISOString().slice(0, 10);
    await announce(ines, SLUG, { id, text: "Until then.", until });
    const onToday = async () =>
      (await todayOf(noor)).announcements.some((each) => each.text === "Until then.");
    expect(await onToday()).toBe(true);
    at(Date.parse(`${until}T20:00:00Z`));
    expect(await onToday()).toBe(true);
    at(Date.parse(`${until}T20:00:00Z`) + DAY);
    expect(await onToday()).toBe(false);
    vi.useRealTimers();
    await takeDown(ines, SLUG, { id });
    expect(await onToday()).toBe(false);
    await takeDown(ines, SLUG, { id });
    expect((await announcementsOf(noor, SLUG)).announcements.some((each) => each.id === id)).toBe(true);
  });

  test("is made by who teaches the course alone; a day that is past, no words, or too many are refused", async () => {
    await sql`delete from person_notice`;
    for (const who of await nobodies()) {
      await expect(announce(who, SLUG, { id: randomUUID(), text })).rejects.toMatchObject({ status: 404 });
      const [one] = await sql`select id from announcement limit 1`;
      await expect(takeDown(who, SLUG, { id: one?.id })).rejects.toMatchObject({ status: 404 });
    }
    await expect(announcementsOf(await viewer("adaeze.okafor"), SLUG)).rejects.toMatchObject({ status: 404 });
    for (const input of [
      { id: randomUUID(), text: "  " },
      { id: randomUUID(), text: "x".repeat(2_001) },
      { id: randomUUID(), text, until: "2001-01-01" },
      { id: randomUUID(), text, until: "soon" },
      { id: "1", text },
      { text },
    ])
      await expect(announce(ines, SLUG, input)).rejects.toMatchObject({ status: 422 });
    const [foreign] =
      await sql`select a.id from announcement a join course c on c.id = a.course_id where c.slug = 'pol-101' limit 1`;
    await expect(takeDown(ines, SLUG, { id: foreign?.id })).rejects.toMatchObject({ status: 404 });
    expect(await sql`select id from person_notice`).toEqual([]);
  });
});
