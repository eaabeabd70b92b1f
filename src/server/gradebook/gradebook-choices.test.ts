import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test } from "vitest";
import { isStrong } from "@/core/brief/phrases";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { gradebookOf } = await import("./gradebook");
const { gradebookFile } = await import("./gradebook-file");
const { chooseStandIn } = await import("./choose-stand-in");
const { coursePlanOf } = await import("../overview/course-plan");
const { coursePage, coursesOf } = await import("../overview/courses");
const { briefOf } = await import("../overview/brief");
const { todayOf } = await import("../overview/today");
const { handInByStudent } = await import("../attempts/settle");
const { takeBack } = await import("../handed-in/take-back");
const { splitFile } = await import("@/core/quiz/quiz-file");
const { factsOf } = await import("../quizzes/quiz-facts");
const { readQuizFile } = await import("@/core/quiz/quiz-file");
const { startAttempt } = await import("../desk/start-attempt");
const { currentMarks, setMark } = await import("../attempts/marks");
const { database, inTransaction } = await import("@/data/database");
const { countingQueries } = await import("../base/query-count");

const noor = await viewer("noor.haldane");
const rowsOf = async (slug: string) =>
  Object.fromEntries(
    (await gradebookOf(noor, slug)).categories.flatMap(({ rows }) => rows).map((row) => [row.title, row]),
  );
const itemNamed = async (title: string): Promise<string> =>
  (await sql`select id from gradebook_item where title = ${title}`)[0]?.id;

describe("stands in", () => {
  test("where it is allowed a student chooses it and takes it back; both marks stay in sight", async () => {
    const symbols = await itemNamed("Chart symbols");
    const partOne = await itemNamed("Chartroom sitting, part one");
    const [ines] = await sql`select id from person where email = 'ines.marsh@alderquay.example'`;
    await sql`insert into adjustment (item_id, person_id, id, marks, reason, set_by)
      values (${partOne}, ${noor.id}, ${randomUUID()}, 6, 'from the paper', ${ines?.id})`;
    // "Chart symbols" was set by hand, which holds before anything that stands in.
    await sql`delete from adjustment where item_id = ${symbols}`;
    expect((await rowsOf("nav-110"))["Chart symbols"]).toMatchObject({
      mark: null,
      standIn: { title: "Chartroom sitting, part one", chosen: false },
    });
    await chooseStandIn(noor, "nav-110", { item: symbols, choice: "stand-in" });
    await chooseStandIn(noor, "nav-110", { item: symbols, choice: "stand-in" });
    // 6 of 8, on 20.
    expect((await rowsOf("nav-110"))["Chart symbols"]).toMatchObject({
      mark: { figure: "15", maximum: "20" },
      why: expect.stringMatching(/“Chartroom sitting, part one” stands in, as you chose\.$/),
      standIn: { chosen: true },
    });
    expect((await rowsOf("nav-110"))["Chartroom sitting, part one"]).toMatchObject({ mark: { figure: "6" } });
    const record =
      await sql`select action from record where actor_id = ${noor.id} and action like '%stand-in%'`;
    expect(record).toHaveLength(1);
    await chooseStandIn(noor, "nav-110", { item: symbols, choice: "itself" });
    expect((await rowsOf("nav-110"))["Chart symbols"]).toMatchObject({ mark: null });
    await sql`delete from adjustment where item_id = ${partOne}`;
  });

  test("where it is not allowed it is refused, and nothing changes", async () => {
    const compass = await itemNamed("Compass and variation");
    for (const input of [
      { item: compass, choice: "stand-in" },
      { item: "compass", choice: "stand-in" },
      { item: await itemNamed("Chart symbols"), choice: "both" },
      {},
    ]) {
      await expect(chooseStandIn(noor, "nav-110", input)).rejects.toMatchObject({ status: 422 });
    }
    const hamid = await viewer("hamid.castellane");
    const input = { item: await itemNamed("Chart symbols"), choice: "stand-in" };
    await expect(chooseStandIn(hamid, "nav-110", input)).rejects.toMatchObject({ status: 404 });
    expect(await sql`select * from stand_in`).toEqual([]);
  });
});

describe("stands in, as declared in the quiz itself", () => {
  const statements = [
    { id: "new", text: "<p>Let this exam count for the symbols.</p>", standsIn: true },
    { id: "old", text: "<p>Leave the symbols as they are.</p>", standsIn: false },
    { id: "later", text: "<p>I shall choose in the gradebook.</p>" },
  ];
  const content = {
    format: "shizuka-quiz",
    version: 1,
    title: "Symbols again",
    rules: {
      attempts: 9,
      counts: "latest",
      order: "free",
      reveal: {
        total: "at-hand-in",
        marks: "at-hand-in",
        written: "at-hand-in",
        right: "at-hand-in",
        worked: "at-hand-in",
        laterAttemptsKnow: true,
      },
    },
    sections: [
      {
        questions: [
          { id: "own", kind: "declaration", text: "<p>Which?</p>", marks: 0, options: statements },
          { id: "so", kind: "true-or-false", text: "<p>Is it?</p>", marks: 4, right: true },
        ],
      },
    ],
  };

  async function writeExam(standsInFor: string | null): Promise<string> {
    expect(readQuizFile(content)).toEqual({ ok: true, quiz: expect.anything() });
    const id = randomUUID();
    const [nav] = await sql`select id, (select instructor_id from quiz where course_id = c.id limit 1) as by
      from course c where slug = 'nav-110'`;
    const [category] = await sql`select id from gradebook_category where title = 'Written work'`;
    const title = `Symbols again ${id}`;
    const split = splitFile(content as never);
    await sql`insert into quiz (id, course_id, title, instructor_id, settings)
      values (${id}, ${nav?.id}, ${title}, ${nav?.by}, ${sql.json(split.settings as never)})`;
    await sql`insert into quiz_version (id, quiz_id, number, content, facts)
      values (${randomUUID()}, ${id}, 1, ${sql.json(split.content as never)}, ${sql.json(factsOf(split.content) as never)})`;
    await sql`insert into gradebook_item (id, category_id, quiz_id, title, maximum, position, stands_in_for_id)
      values (${randomUUID()}, ${category?.id}, ${id}, ${title}, 4, 60, ${standsInFor})`;
    return id;
  }

  afterEach(async () => {
    await sql`delete from gradebook_item where title like 'Symbols again%'`;
  });

  async function handInDeclaring(quizId: string, choice: string | null): Promise<void> {
    const { attemptId } = await startAttempt(noor, quizId);
    const answers = [
      ["1", choice === null ? null : { choice }],
      ["2", { value: true }],
    ] as const;
    for (const [slot, answer] of answers) {
      await sql`insert into answer (attempt_id, slot, answer, ribbon, ruled_out, revision, device, written_at, saved_at)
        values (${attemptId}, ${slot}, ${sql.json(answer as never)}, false, '[]', 1, ${randomUUID()}, now(), now())`;
    }
    await handInByStudent(attemptId, noor.id);
  }

  test("whoever chooses it has it, whoever chooses otherwise has not, and silence changes nothing", async () => {
    const symbols = await itemNamed("Chart symbols");
    await sql`update gradebook_item set stands_in_for_id = null where stands_in_for_id = ${symbols}`;
    const exam = await writeExam(symbols);
    const chosen = async () =>
      (await sql`select 1 from stand_in where item_id = ${symbols} and person_id = ${noor.id}`).length === 1;
    for (const [choice, stands] of [
      ["later", false],
      ["new", true],
      ["later", true],
      [null, true],
      ["old", false],
      ["new", true],
    ] as const) {
      await handInDeclaring(exam, choice);
      expect(await chosen(), String(choice)).toBe(stands);
    }
    // 4 of 4, on 20; the paper's own mark stays in sight beside it.
    expect((await rowsOf("nav-110"))["Chart symbols"]).toMatchObject({
      mark: { figure: "20", maximum: "20" },
      standIn: { chosen: true },
    });
    await chooseStandIn(noor, "nav-110", { item: symbols, choice: "itself" });
    expect(await chosen()).toBe(false);
  });

  test("what was declared is undone by taking the hand-in back, and what the gradebook was told before comes again", async () => {
    const symbols = await itemNamed("Chart symbols");
    await sql`update gradebook_item set stands_in_for_id = null where stands_in_for_id = ${symbols}`;
    const exam = await writeExam(symbols);
    await sql`delete from stand_in`;
    await sql`update quiz set settings = settings || '{"takeBack":true,"reveal":{"total":"at-hand-in","marks":"at-hand-in","written":"at-hand-in","right":"never","worked":"never"}}'
      where id = ${exam}`;
    const chosen = async () =>
      (await sql`select 1 from stand_in where item_id = ${symbols} and person_id = ${noor.id}`).length === 1;
    await handInDeclaring(exam, "new");
    expect(await chosen()).toBe(true);
    const [row] = await sql`select id from attempt where quiz_id = ${exam} order by number desc limit 1`;
    await takeBack(noor, row?.id);
    expect(await chosen()).toBe(false);
    // Emptied meanwhile, it says nothing.
    await sql`update answer set answer = null where attempt_id = ${row?.id} and slot = 1`;
    await handInByStudent(row?.id, noor.id);
    expect(await chosen()).toBe(false);
  });

  test("where the gradebook does not allow it, a declaration changes nothing", async () => {
    await handInDeclaring(await writeExam(null), "new");
    expect(await sql`select * from stand_in`).toEqual([]);
  });
});

describe("marks against the class", () => {
  test("are shown where the course allows it, from five on, with the reader's own among them", async () => {
    const compass = await itemNamed("Compass and variation");
    const { classMarks } = await gradebookOf(noor, "nav-110", undefined, compass);
    const steps = classMarks?.shown?.steps ?? [];
    const [people] =
      await sql`select count(distinct person_id)::int as count from attempt where quiz_id = ${await quiz("Compass and variation")}`;
    expect(steps.reduce((total, { count }) => total + count, 0)).toBe(people?.count);
    expect(classMarks?.shown).toMatchObject({ marks: people?.count, own: "92.5 %" });
    expect(steps.find(({ own }) => own)).toMatchObject({ from: 90, to: 100 });
    // Of a single person's work nothing is told.
    const alone = await gradebookOf(noor, "nav-110", undefined, await itemNamed("Chart symbols"));
    expect(alone.classMarks?.shown).toBeNull();
  });

  test("exactly five: four are too few", async () => {
    const compass = await itemNamed("Compass and variation");
    const quizId = await quiz("Compass and variation");
    const kept =
      await sql`select id, person_id from attempt where quiz_id = ${quizId} and person_id <> ${noor.id} and number = 1
        and not exists (select 1 from attempt second where second.quiz_id = ${quizId} and second.number = 2
          and second.person_id = attempt.person_id) order by id`;
    await sql`delete from attempt where quiz_id = ${quizId} and person_id <> ${noor.id}
      and id not in ${sql(kept.map(({ id }) => id))}`;
    const hide = (from: number) =>
      sql`update attempt set handed_in_at = null, deadline = null where id in ${sql(kept.slice(from).map(({ id }) => id))}`;
    const shown = async () => (await gradebookOf(noor, "nav-110", undefined, compass)).classMarks;
    await hide(4);
    expect((await shown())?.shown?.marks).toBe(5);
    await hide(3);
    expect(await shown()).toMatchObject({
      shown: null,
      problem: "Fewer than 5 have a mark in “Compass and variation”; the class is shown from 5 on.",
    });
    await sql`update attempt set handed_in_at = now() where quiz_id = ${quizId} and handed_in_at is null`;
  });

  test("not where the course does not, nor of work whose own mark is not shown", async () => {
    expect(
      (await gradebookOf(noor, "pol-101", undefined, await itemNamed("Field camp review"))).classMarks,
    ).toBeNull();
    const hidden = await gradebookOf(noor, "nav-110", undefined, await itemNamed("Tides and clearances"));
    expect(hidden.classMarks).toMatchObject({
      shown: null,
      problem: "Choose a piece of work of which your own mark is known.",
    });
  });
});

describe("what the course says", () => {
  test("work that was not handed in counts as 0 only where the course says so", async () => {
    expect((await rowsOf("brd-120"))["Oven and steam"]).toMatchObject({
      mark: null,
      weight: "left out",
      why: "Nothing was handed in; it is left out of your figures.",
    });
    const before = (await gradebookOf(noor, "brd-120")).standing.markedSoFar;
    expect(before).toBe("83.5 %");
    await sql`update course set missing_counts_zero = true where slug = 'brd-120'`;
    expect((await rowsOf("brd-120"))["Oven and steam"]).toMatchObject({
      mark: { figure: "0", maximum: "6" },
      why: "Nothing was handed in before it closed: it counts as 0 in this course.",
    });
    // 17 of 26 and 41 of 50, in halves.
    expect((await gradebookOf(noor, "brd-120")).standing.markedSoFar).toBe("73.69 %");
    await sql`update course set missing_counts_zero = false where slug = 'brd-120'`;
  });

  test("full marks for taking part stand beside what the work gave", async () => {
    await sql`update gradebook_item set full_for_taking_part = true where title = 'Field camp review'`;
    expect((await rowsOf("pol-101"))["Field camp review"]).toMatchObject({
      mark: { figure: "33", maximum: "33" },
      why: "Full marks for taking part. The work itself gave 16.45.",
    });
    await sql`update gradebook_item set full_for_taking_part = false where title = 'Field camp review'`;
  });

  test("a scale names the standing, and an item's own its mark, never while it waits", async () => {
    expect((await gradebookOf(noor, "brd-120")).standing.onScale).toEqual({
      markedSoFar: "with merit",
      range: "with merit",
    });
    const scale = { kind: "reached", from: 50 };
    await sql`update gradebook_item set scale = ${sql.json(scale)} where title in ('Flour and enzymes', 'Letters to a beekeeper')`;
    expect((await rowsOf("brd-120"))["Flour and enzymes"]?.mark?.onScale).toBe("reached");
    expect((await rowsOf("pol-101"))["Letters to a beekeeper"]?.mark?.onScale).toBeNull();
  });

  test("a quiz that is not assigned is in no figure and cannot be started", async () => {
    const second = await quiz("Compass and variation, second sitting");
    const brief = await briefOf(noor, second);
    expect(brief.ruling).toMatchObject({ may: "not", refusal: { rule: "not-assigned" } });
    await expect(startAttempt(noor, second)).rejects.toMatchObject({ status: 409, type: "not-assigned" });
    expect((await briefOf(await viewer("quentin.mbele"), second)).ruling).toMatchObject({ may: "start" });
    // In the gradebook it is nobody's zero, even where what is missed counts as one.
    const [category] = await sql`select id from gradebook_category where title = 'Written work'`;
    await sql`insert into gradebook_item (id, category_id, quiz_id, title, maximum, position)
      values (${randomUUID()}, ${category?.id}, ${second}, 'Second sitting', 20, 9)`;
    await sql`update quiz set due = now(), closes = now() where id = ${second}`;
    await sql`update course set missing_counts_zero = true where slug = 'nav-110'`;
    // Nor in any list.
    expect((await rowsOf("nav-110"))["Second sitting"]).toBeUndefined();
    expect((await gradebookOf(noor, "nav-110")).standing.markedSoFar).toBe("92.5 %");
    await sql`update course set missing_counts_zero = false where slug = 'nav-110'`;
    await sql`delete from gradebook_item where title = 'Second sitting'`;
  });
});

describe("the course", () => {
  test("its plan has readings, notices and quizzes where the instructor put them, and says which week it is", async () => {
    const { sections } = await coursePlanOf(noor, "nav-110");
    expect(sections.filter(({ isNow }) => isNow).map(({ title }) => title)).toEqual(["Week 9: tides"]);
    const week = sections.find(({ isNow }) => isNow);
    expect(
      week?.entries.map((entry) => (entry.kind === "quiz" ? entry.item.quiz.title : entry.kind)),
    ).toEqual([
      "note",
      "reading",
      "Tides and clearances",
      "Chartroom sitting, part one",
      "Chartroom sitting, part two",
    ]);
    expect((await coursePlanOf(noor, "brd-120")).sections.every(({ isNow }) => !isNow)).toBe(true);
    await expect(coursePlanOf(await viewer("hamid.castellane"), "nav-110")).rejects.toMatchObject({
      status: 404,
    });
  });

  test("the courses that were opened last stand first", async () => {
    await coursePage(noor, "pol-101");
    expect((await coursesOf(noor)).map(({ code }) => code)).toEqual(["POL 101", "BRD 120", "NAV 110"]);
  });

  test("the brief says an allowance, what comes first, and to its instructor where the text differs", async () => {
    const said = async (who: typeof noor, title: string, name: string) =>
      (await briefOf(who, await quiz(title))).rules
        .find((rule) => english(rule.name) === name)
        ?.text.map((phrase) => english(isStrong(phrase) ? phrase.strong : phrase))
        .join("");
    expect(await said(noor, "Hydration and dough strength", "Time")).toMatch(
      /^45 minutes for you, from the moment you start; for others 35 minutes\./,
    );
    expect((await briefOf(noor, await quiz("Chartroom sitting, part two"))).first).toMatchObject({
      title: "Chartroom sitting, part one",
      missing: "Hand in “Chartroom sitting, part one” first.",
    });
    const [version] =
      await sql`select v.id, v.content from quiz_version v join quiz q on q.id = v.quiz_id where q.title = 'Oven and steam'`;
    await sql`update quiz_version set content = ${sql.json({ ...version?.content, brief: "<p>You have ten minutes.</p>" })} where id = ${version?.id}`;
    const oven = await quiz("Oven and steam");
    expect((await briefOf(await viewer("tomas.oyelaran"), oven)).remarks).toEqual([
      "Your text says “ten minutes”; the time limit is 6 minutes.",
    ]);
    expect((await briefOf(noor, oven)).remarks).toEqual([]);
  });
});

describe("marks that are set anew", () => {
  test("add the attempt up again, and keep what was there as history", async () => {
    const [row] =
      await sql`select a.id from attempt a join quiz q on q.id = a.quiz_id where q.title = 'Letters to a beekeeper' and a.person_id = ${noor.id}`;
    const attemptId = row?.id;
    const spray = (await currentMarks(database(), attemptId)).find(({ slot }) => slot === 3);
    if (!spray) throw new Error("no mark");
    const detail = { ...spray.detail, marks: "5/3", awaiting: "0", state: "part" as const };
    await inTransaction((tx) =>
      setMark(tx, attemptId, {
        slot: 3,
        detail,
        source: "hand",
        reason: "short",
        markedBy: null,
        at: Date.now(),
      }),
    );
    const [after] = await sql`select earned, awaited, maximum from attempt where id = ${attemptId}`;
    expect(after).toEqual({ earned: "7.6667", awaited: "0.0000", maximum: "12.0000" });
    expect(await sql`select id from mark where attempt_id = ${attemptId} and slot = 3`).toHaveLength(2);
  });
});

describe("large courses", () => {
  test("a gradebook with 200 items takes as many queries as a small one, and says of each what waits", async () => {
    const [nav] =
      await sql`select q.course_id, q.instructor_id, q.settings, v.content, v.facts from quiz q join quiz_version v on v.quiz_id = q.id where q.title = 'Tides and clearances'`;
    const [category] = await sql`select id from gradebook_category where title = 'Written work'`;
    const small = await countingQueries(() => gradebookOf(noor, "nav-110"));
    const ids = Array.from({ length: 200 }, () => [randomUUID(), randomUUID(), randomUUID()] as const);
    for (const [i, [id, version, item]] of ids.entries()) {
      await sql`insert into quiz (id, course_id, title, opens, due, closes, instructor_id, settings)
        values (${id}, ${nav?.course_id}, ${`Extra ${i}`}, now() - interval '9 days', now() + interval '1 day', now() + interval '2 days', ${nav?.instructor_id}, ${sql.json(nav?.settings)})`;
      await sql`insert into quiz_version (id, quiz_id, number, content, facts) values (${version}, ${id}, 1, ${sql.json(nav?.content)}, ${sql.json(nav?.facts)})`;
      await sql`insert into gradebook_item (id, category_id, quiz_id, title, maximum, position) values (${item}, ${category?.id}, ${id}, ${`Extra ${i}`}, 30, ${i + 9})`;
      await sql`insert into attempt (id, quiz_id, version_id, person_id, number, seed, started_at, handed_in_at, handed_in_by, earned, awaited, maximum)
        values (${randomUUID()}, ${id}, ${version}, ${noor.id}, 1, 's', now() - interval '3 days', now() - interval '3 days', 'student', ${i % 31}, ${i % 7 === 0 ? 1 : 0}, 30)`;
    }
    const book = await countingQueries(() => gradebookOf(noor, "nav-110"));
    expect(book.result.categories.flatMap(({ rows }) => rows).length).toBeGreaterThan(200);
    expect(book.queries).toBe(small.queries);
    expect((await todayOf(noor)).bands.length).toBeGreaterThan(200);
    const file = await gradebookFile(noor, "nav-110");
    // What waits is nowhere a zero among all of them.
    const waiting = book.result.categories
      .flatMap(({ rows }) => rows)
      .filter(({ title }) => title === "Extra 0");
    expect(waiting[0]).toMatchObject({ mark: { figure: "?" }, attempts: [{ figure: "?" }] });
    expect(file).toMatch(/Extra 0,[^\n]*,\?,\?,30,/);
  });
});
