import { randomUUID } from "node:crypto";
import papaparse from "papaparse";
import { afterEach, describe, expect, test, vi } from "vitest";
import { DAY, HOUR, MINUTE } from "@/core/time/instants";
import { ownDatabase } from "../../../tests/support/database";
import type { Viewer } from "../access/viewer";

const sql = await ownDatabase();
const { todayOf } = await import("./today");
const { gradebookOf } = await import("../gradebook/gradebook");
const { gradebookFile } = await import("../gradebook/gradebook-file");
const { coursePage, coursesOf } = await import("./courses");
const { briefOf } = await import("./brief");
const { attemptsWords, limitWords } = await import("../quizzes/rule-words");
const { startAttempt } = await import("../desk/start-attempt");
const { handInAttempt } = await import("../desk/hand-in");
const { countingQueries } = await import("../base/query-count");

async function viewerNamed(email: string): Promise<Viewer> {
  const [row] =
    await sql`select id, name, email, administrator from person where email = ${`${email}@alderquay.example`}`;
  return row as unknown as Viewer;
}
const noor = await viewerNamed("noor.haldane");
const quizNamed = async (title: string): Promise<string> =>
  (await sql`select id from quiz where title = ${title}`)[0]?.id;

afterEach(() => {
  vi.useRealTimers();
});
const moveClock = (later: number) => vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + later });

describe("Today", () => {
  test("shows each quiz in one plain state, with what runs out first at the top and practice after what counts", async () => {
    const { bands, running } = await todayOf(noor);
    expect(running.map((item) => item.quiz.title)).toEqual(["Species list, at leisure"]);
    const states = Object.fromEntries(bands.map((item) => [item.quiz.title, item.status.words]));
    expect(states).toMatchObject({
      "Tides and clearances": "ready",
      "Flower shapes": "ready, and late by now",
      "Hydration and dough strength": "ready",
      "Buoyage and lights": "ready",
      "Foraging ranges": expect.stringMatching(/^opens in /),
      "Flour and enzymes": "returned",
      "Sampling pollinators": "handed in, waits for Dr Adaeze Okafor",
      "Letters to a beekeeper": "returned, no attempts left",
      "Oven and steam": "closed without an attempt",
      "Chartroom sitting, part two": "locked: hand in “Chartroom sitting, part one” first",
    });
    const titles = bands.map((item) => item.quiz.title);
    // What runs stands on top by itself, and what is not set for one is in no list.
    expect(titles).not.toContain("Species list, at leisure");
    expect(titles).not.toContain("Compass and variation, second sitting");
    expect(titles.indexOf("Flower shapes")).toBeLessThan(titles.indexOf("Tides and clearances"));
    expect(titles.indexOf("Tides and clearances")).toBeLessThan(
      titles.indexOf("Hydration and dough strength"),
    );
    expect(titles.indexOf("Hydration and dough strength")).toBeLessThan(titles.indexOf("Buoyage and lights"));
    // Closed a week ago: it has left the bands.
    expect(titles).not.toContain("Compass and variation");
  });

  test("a running attempt stands on top; handed in, it leaves", async () => {
    const student = await viewerNamed("leif.okonma");
    const { attemptId } = await startAttempt(student, await quizNamed("Tides and clearances"));
    const { running, bands } = await todayOf(student);
    expect(running.map((item) => item.quiz.title)).toEqual(["Tides and clearances"]);
    expect(bands.map((item) => item.quiz.title)).not.toContain("Tides and clearances");
    await handInAttempt(student, attemptId, {});
    const after = await todayOf(student);
    expect(after.running).toEqual([]);
    expect(after.bands.find((item) => item.quiz.title === "Tides and clearances")?.status.words).toEqual(
      "marked, another attempt is open",
    );
  });

  test("an attempt whose time is up is settled before Today speaks of it", async () => {
    const student = await viewerNamed("nikolai.pellworth");
    await startAttempt(student, await quizNamed("Tides and clearances"));
    moveClock(25 * MINUTE);
    expect((await todayOf(student)).running).toEqual([]);
  });

  test("shows marks and the instructor's first words only where they may be shown", async () => {
    const { returned, announcements } = await todayOf(noor);
    expect(returned.map((work) => `${work.title}: ${work.figure}`)).toEqual([
      "Flour and enzymes: 17 / 20",
      "Letters to a beekeeper: 6 + ? / 12",
      expect.stringMatching(/^Half-term paper: \d+(\.\d+)? \/ 40$/),
      "Field camp review: 16.45 / 33",
    ]);
    expect(returned[1]?.waiting).toBe(
      "5 marks wait for Dr Adaeze Okafor. Your mark will be between 6 and 11.",
    );
    expect(returned[0]?.firstWords).toMatch(/^Clear on amylase,/);
    expect(JSON.stringify(returned)).not.toContain("Sampling");
    expect(announcements.map((each) => each.author)).toEqual(["Dr Adaeze Okafor", "Captain Ines Marsh"]);
  });

  test("a quiz turns active at its opening", async () => {
    const [row] = await sql`select opens from quiz where title = 'Foraging ranges'`;
    moveClock(Number(row?.opens) - Date.now() + MINUTE);
    const { bands } = await todayOf(noor);
    expect(bands.find((item) => item.quiz.title === "Foraging ranges")?.status).toMatchObject({
      state: "ready",
      mayStart: true,
    });
  });

  test("takes the same few queries with sixty quizzes as with nine", async () => {
    const { queries } = await countingQueries(() => todayOf(noor));
    const [nav] =
      await sql`select q.course_id, q.instructor_id, q.settings, v.content, v.facts from quiz q join quiz_version v on v.quiz_id = q.id where q.title = 'Tides and clearances'`;
    for (let i = 0; i < 51; i += 1) {
      const id = randomUUID();
      await sql`insert into quiz (id, course_id, title, opens, due, closes, instructor_id, settings)
        values (${id}, ${nav?.course_id}, ${`Extra ${i}`}, now(), now() + interval '1 day', now() + interval '2 days', ${nav?.instructor_id}, ${sql.json(nav?.settings)})`;
      await sql`insert into quiz_version (id, quiz_id, number, content, facts) values (${randomUUID()}, ${id}, 1, ${sql.json(nav?.content)}, ${sql.json(nav?.facts)})`;
    }
    const many = await countingQueries(() => todayOf(noor));
    expect(many.result.bands.length).toBeGreaterThan(55);
    expect(many.queries).toBe(queries);
    await sql`delete from quiz where title like 'Extra %'`;
  });
});

describe("courses", () => {
  test("a person sees the courses in which they are enrolled, and how each quiz stands", async () => {
    expect((await coursesOf(noor)).map((course) => course.code)).toEqual(["BRD 120", "NAV 110", "POL 101"]);
    const page = await coursePage(noor, "nav-110");
    expect(page.done.map((item) => item.quiz.title)).toContain("Compass and variation");
    const tides = page.toDo.find((item) => item.quiz.title === "Tides and clearances");
    expect(tides && [limitWords(tides), attemptsWords(tides)]).toEqual(["20 min", "best of 2"]);
    await expect(coursePage(await viewerNamed("hamid.castellane"), "nav-110")).rejects.toMatchObject({
      status: 404,
    });
    await expect(coursePage(noor, "no-such-course")).rejects.toMatchObject({ status: 404 });
  });
});

describe("the brief", () => {
  test("says when the time would end, and what was done before; reading it starts nothing", async () => {
    const brief = await briefOf(noor, await quizNamed("Tides and clearances"));
    expect(brief.ruling).toEqual({ may: "start", number: 1 });
    expect(Number(brief.endsIfStarted) - brief.now).toBe(20 * MINUTE);
    const [count] =
      await sql`select count(*)::int as count from attempt where person_id = ${noor.id} and quiz_id = ${brief.quizId}`;
    expect(count?.count).toBe(0);
    const compass = await briefOf(noor, await quizNamed("Compass and variation"));
    expect(compass.pastAttempts.map((past) => [past.number, past.mark])).toEqual([
      [1, "12 / 20"],
      [2, "18.5 / 20"],
    ]);
    expect(compass.ruling).toMatchObject({ may: "not", refusal: { rule: "closed" } });
  });

  test("marks in which rules the quiz is not as the last one that its reader took in the course", async () => {
    const tides = await briefOf(noor, await quizNamed("Tides and clearances"));
    expect(tides.differs?.from).toBe("Half-term paper");
    expect(tides.differs?.rules).toContain("Time");
    expect(tides.differs?.rules).not.toContain("Window");
    // Who took none yet has nothing to compare it with.
    const newcomer = await viewerNamed("yusuf.penhallow");
    await sql`delete from attempt where person_id = ${newcomer.id}`;
    expect((await briefOf(newcomer, await quizNamed("Tides and clearances"))).differs).toBeNull();
  });

  test("near the closing it says the earlier end", async () => {
    const [row] = await sql`select closes from quiz where title = 'Tides and clearances'`;
    moveClock(Number(row?.closes) - Date.now() - 7 * MINUTE);
    const brief = await briefOf(noor, await quizNamed("Tides and clearances"));
    expect(brief.endsIfStarted).toBe(Number(row?.closes));
    moveClock(7 * MINUTE + HOUR);
    expect((await briefOf(noor, await quizNamed("Tides and clearances"))).ruling).toMatchObject({
      refusal: { rule: "closed" },
    });
  });
});

describe("the gradebook", () => {
  test("shows each piece of work with what counts and why; what awaits or is not shown is never zero", async () => {
    const book = await gradebookOf(noor, "nav-110");
    const rows = Object.fromEntries(
      book.categories.flatMap((category) => category.rows).map((row) => [row.title, row]),
    );
    expect(rows["Compass and variation"]).toMatchObject({
      attempts: [
        { figure: "12", counts: false },
        { figure: "18.5", counts: true },
      ],
      countsWords: "best counts",
      mark: { figure: "18.5", maximum: "20" },
      why: "Attempt 2 of 2 counts.",
    });
    expect(rows["Chart symbols"]).toMatchObject({
      dropped: true,
      weight: "dropped",
      why: expect.stringContaining("Your lowest of the 6. Set by your instructor"),
    });
    expect(rows["Passage plan"]).toMatchObject({ mark: null, why: "Nothing to mark yet." });
    expect(book.practice.map((quiz) => quiz.title).sort()).toEqual([
      "Buoyage and lights",
      "Lights at a glance",
      "Steering rules, one way",
      "Term review, forty questions",
    ]);

    const pollinators = await gradebookOf(noor, "pol-101");
    const of = (title: string) => pollinators.categories[0]?.rows.find((row) => row.title === title);
    expect(of("Letters to a beekeeper")).toMatchObject({
      attempts: [{ figure: "6 + ?" }],
      mark: { figure: "6 + ?", onScale: null },
      why: "5 marks wait for Dr Adaeze Okafor. Your mark will be between 6 and 11.",
    });
    expect(of("Field camp review")).toMatchObject({
      mark: { figure: "16.45" },
      why: "Your only attempt. It was handed in 1 day late: 10 % of the maximum (3.3 marks) is lost.",
    });
    expect(of("Field camp review")?.making[0]).toBe(
      "Attempt 1: 19.75 / 33; 1 day late: 10 % of the maximum (3.3 marks) is lost: 16.45 / 33.",
    );
    expect(of("Sampling pollinators")).toMatchObject({
      mark: null,
      why: "Handed in. Marks are shown when your instructor returns it.",
    });
    // What is hidden is in no figure: 16.45 of 33 and 6 of the 7 marked ones.
    expect(pollinators.standing).toMatchObject({ markedSoFar: "56.13 %", range: "49.89 – 61 %" });
  });

  test("the worked example of the rules appears with exactly its figures", async () => {
    const [course] =
      await sql`insert into course (id, slug, code, title) values (${randomUUID()}, 'worked', 'WRK 1', 'Worked') returning id`;
    await sql`insert into enrolment (person_id, course_id, role) values (${noor.id}, ${course?.id}, 'student')`;
    const category = async (title: string, weight: number, drop: number, position: number) =>
      (
        await sql`insert into gradebook_category (id, course_id, title, weight, drop_lowest, position)
        values (${randomUUID()}, ${course?.id}, ${title}, ${weight}, ${drop}, ${position}) returning id`
      )[0]?.id;
    const [version] =
      await sql`select q.instructor_id, q.settings, v.content, v.facts from quiz q join quiz_version v on v.quiz_id = q.id where q.title = 'Lights at a glance'`;
    /** A quiz with one handed-in attempt that has these totals. */
    const marked = async (
      categoryId: string,
      title: string,
      maximum: number,
      earned: number,
      awaited: number,
      position: number,
    ) => {
      const [quiz, content] = [randomUUID(), randomUUID()];
      const settings = { ...version?.settings, practice: false, attempts: 1, counts: "first" };
      await sql`insert into quiz (id, course_id, title, opens, due, closes, instructor_id, settings)
        values (${quiz}, ${course?.id}, ${title}, now() - interval '3 days', now() - interval '2 days', now() - interval '2 days', ${version?.instructor_id}, ${sql.json(settings)})`;
      await sql`insert into quiz_version (id, quiz_id, number, content, facts) values (${content}, ${quiz}, 1, ${sql.json(version?.content)}, ${sql.json(version?.facts)})`;
      await sql`insert into gradebook_item (id, category_id, quiz_id, title, maximum, position) values (${randomUUID()}, ${categoryId}, ${quiz}, ${title}, ${maximum}, ${position})`;
      await sql`insert into attempt (id, quiz_id, version_id, person_id, number, seed, started_at, handed_in_at, handed_in_by, earned, awaited, maximum)
        values (${randomUUID()}, ${quiz}, ${content}, ${noor.id}, 1, 's', now() - interval '3 days', now() - interval '3 days', 'student', ${earned}, ${awaited}, ${maximum})`;
    };
    const quizzes = await category("Quizzes", 40, 1, 0);
    await marked(quizzes, "First", 20, 16, 0, 0);
    await marked(quizzes, "Second", 20, 9, 0, 1);
    await marked(quizzes, "Third", 20, 12, 4, 2);
    await marked(quizzes, "Fourth", 20, 19, 0, 3);
    await marked(await category("Written", 60, 0, 1), "Essay", 50, 41, 0, 0);

    const book = await gradebookOf(noor, "worked");
    expect(book.standing).toEqual({
      markedSoFar: "82.77 %",
      range: "80.53 – 83.2 %",
      possible: null,
      stillToCome: "0 %",
      onScale: null,
    });
    const rows = book.categories[0]?.rows ?? [];
    // What is dropped weighs nothing; the rest makes up the 40 % of the category.
    expect(rows.map((row) => [row.title, row.dropped, row.weight])).toEqual([
      ["First", false, "13.33 %"],
      ["Second", true, "dropped"],
      ["Third", false, "13.33 %"],
      ["Fourth", false, "13.33 %"],
    ]);
    expect(rows[2]).toMatchObject({
      mark: { figure: "12 + ?" },
      why: "4 marks wait for Captain Ines Marsh. Your mark will be between 12 and 16.",
    });
    // The marks were shown in turn, so the course stood at other figures before; it ends with the one above.
    expect(book.history.at(-1)?.figure).toBe("82.77 %");

    // As a table: what waits is not a number, and no text is taken for a formula.
    await sql`update gradebook_item set title = '=1+1' where title = 'Fourth'`;
    const { data } = papaparse.parse<Record<string, string>>(
      (await gradebookFile(noor, "worked")).replace("\uFEFF", ""),
      { header: true, skipEmptyLines: true },
    );
    const work = data.filter((row) => row.Category !== "Course");
    expect(work.map((row) => [row.Category, row.Work, row.Marks, row.Maximum])).toEqual([
      ["Quizzes", "First", "16", "20"],
      ["Quizzes", "Second", "9", "20"],
      ["Quizzes", "Third", "12 + ?", "20"],
      ["Quizzes", "'=1+1", "19", "20"],
      ["Written", "Essay", "41", "50"],
    ]);
    // With the name, and with what it all comes to.
    expect(
      data.filter((row) => row.Category === "Course").map((row) => [row.Work, row["Per cent"], row.State]),
    ).toEqual([
      ["Marked so far", "82.77 %", "Noor Haldane, WRK 1 Worked"],
      ["All that is handed in, once it is marked", "80.53 – 83.2 %", "Noor Haldane, WRK 1 Worked"],
      ["Still to come", "0 %", "Noor Haldane, WRK 1 Worked"],
    ]);

    // Of what is still to come, the third one can go from 12 to 16: 83.2 % at most.
    const ask = async (target: string, work?: string) => {
      const third = rows[2]?.id ?? "";
      return (await gradebookOf(noor, "worked", { work: work ?? third, target })).need;
    };
    expect((await ask("80")).choices.map(({ title }) => title)).toEqual(["Third"]);
    expect((await ask("80")).answer).toMatch(
      /^With any mark in|marks in “Third”, or more, bring the course to 80 %/,
    );
    expect((await ask("99")).answer).toMatch(
      /^“Third” alone cannot do it: all its 20 marks bring the course to /,
    );
    expect((await ask("82,5")).answer).toMatch(
      /^\d+(\.\d+)? of 20 marks in “Third”, or more, bring the course to 82\.5 %, /,
    );
    expect((await ask("high")).answer).toBe("Write the per cent of the course to come to, from 0 to 100.");
    expect((await ask("101")).answer).toBe("Write the per cent of the course to come to, from 0 to 100.");
    expect((await ask("80", rows[0]?.id)).answer).toBe("Choose a piece of work whose mark is still to come.");
  });

  test("an adjusted mark stands beside what the quiz itself gave, with the reason; excused work leaves", async () => {
    const [item] = await sql`select i.id from gradebook_item i where i.title = 'Compass and variation'`;
    const [ines] = await sql`select id from person where email = 'ines.marsh@alderquay.example'`;
    const set = (marks: number | null, excused: boolean, reason: string) =>
      sql`insert into adjustment (item_id, person_id, id, marks, excused, reason, set_by)
        values (${item?.id}, ${noor.id}, ${`01a2ffff-0000-7000-8000-${String(Date.now()).slice(-12)}`}, ${marks}, ${excused}, ${reason}, ${ines?.id})`;
    const compass = async () =>
      (await gradebookOf(noor, "nav-110")).categories[0]?.rows.find(
        (row) => row.title === "Compass and variation",
      );
    await set(20, false, "question 4 was faulty");
    expect(await compass()).toMatchObject({
      mark: { figure: "20" },
      why: "Set by your instructor: “question 4 was faulty” The work itself gave 18.5.",
      attempts: [{ figure: "12" }, { figure: "18.5" }],
    });
    moveClock(DAY);
    await set(null, true, "ill that week");
    expect(await compass()).toMatchObject({ mark: null, weight: "excused", why: "Excused: “ill that week”" });
  });
});
