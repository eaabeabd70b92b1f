import { randomUUID } from "node:crypto";
import { afterEach, describe, expect, test } from "vitest";
import { courseStanding } from "@/core/gradebook/standing";
import { chance } from "@/core/numbers/seeded";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { courseTable } = await import("./course-table");
const { courseWork } = await import("./course-work");
const { cellStory } = await import("./cell-story");
const { setMarks } = await import("./set-marks");
const { marksFile } = await import("./marks-file");
const { bringMarksIn, lookOverMarks, textOf } = await import("./marks-file-in");
const { changePlan, lookOverPlan, planPage } = await import("./change-plan");
const { gradebookOf } = await import("../gradebook/gradebook");
const { gradebookWork } = await import("../gradebook/gradebook-work");
const { countingQueries } = await import("../base/query-count");

const ines = await viewer("ines.marsh");
const noor = await viewer("noor.haldane");
const itemNamed = async (title: string): Promise<string> =>
  (await sql`select id from gradebook_item where title = ${title}`)[0]?.id;
const tableOf = async (slug = "nav-110") => courseTable(ines, slug);
const lineOf = async (name: string) => {
  const table = await tableOf();
  const line = table.students.find((each) => each.name === name);
  const items = table.categories.flatMap(({ items: own }) => own);
  return Object.fromEntries(items.map(({ title }, i) => [title, line?.cells[i]]));
};
const standingOf = async (name: string) =>
  (await tableOf()).students.find((each) => each.name === name)?.standing;
const told = async (personId: string) =>
  await sql`select text, kind, path from person_notice where person_id = ${personId} and kind = 'gradebook' order by created_at desc, id desc`;
const adjustments = async () => (await sql`select count(*)::int as n from adjustment`)[0]?.n;
const seenOf = async (title: string) =>
  (await tableOf()).categories.flatMap(({ items }) => items).find((each) => each.title === title)?.seen ?? 0;

afterEach(async () => {
  await sql`delete from adjustment where reason like 'test:%'`;
  await sql`delete from person_notice where kind = 'gradebook'`;
});

describe("who may", () => {
  test("only an instructor of the course opens it; for everyone else there is nothing there", async () => {
    const itemId = await itemNamed("Compass and variation");
    for (const email of [
      "noor.haldane",
      "yuna.petrides",
      "laszlo.hemming",
      "yuki.brandvold",
      "adaeze.okafor",
    ]) {
      const someone = await viewer(email);
      await expect(courseTable(someone, "nav-110")).rejects.toMatchObject({ status: 404 });
      await expect(cellStory(someone, "nav-110", { student: noor.id, item: itemId })).rejects.toMatchObject({
        status: 404,
      });
      await expect(
        setMarks(someone, "nav-110", {
          itemId,
          personIds: [noor.id],
          deed: "excuse",
          reason: "test: x",
          seen: 0,
        }),
      ).rejects.toMatchObject({ status: 404 });
    }
  });

  test("work of another course, and people who are not its students, cannot be set", async () => {
    const before = await adjustments();
    const theirs = (
      await sql`select i.id from gradebook_item i join gradebook_category c on c.id = i.category_id join course o on o.id = c.course_id where o.slug = 'pol-101' limit 1`
    )[0]?.id;
    const own = await itemNamed("Compass and variation");
    const deed = { deed: "marks", marks: "1", reason: "test: x", seen: 1e9 };
    await expect(
      setMarks(ines, "nav-110", { ...deed, itemId: theirs, personIds: [noor.id] }),
    ).rejects.toMatchObject({ status: 404 });
    await expect(
      setMarks(ines, "nav-110", { ...deed, itemId: own, personIds: [ines.id] }),
    ).rejects.toMatchObject({ status: 404 });
    await expect(
      setMarks(ines, "nav-110", { ...deed, itemId: own, personIds: [noor.id, randomUUID()] }),
    ).rejects.toMatchObject({ status: 404 });
    expect(await adjustments()).toBe(before);
  });
});

describe("setting a mark", () => {
  test("it stands in the table, in the student's gradebook and at their bell, with its reason, and can be taken back", async () => {
    const itemId = await itemNamed("Compass and variation");
    const before = (await lineOf("Noor Haldane"))["Compass and variation"];
    expect(before?.[0]).toBe("marked");
    const seen = await seenOf("Compass and variation");
    const set = {
      itemId,
      personIds: [noor.id],
      deed: "marks",
      marks: "12,25",
      reason: "test: your sketch was right",
      seen,
    };
    const { changed, students } = await setMarks(ines, "nav-110", set);
    expect(changed).toBe(1);
    expect(students.map(({ name }) => name)).toEqual(["Noor Haldane"]);
    const line = (await lineOf("Noor Haldane"))["Compass and variation"];
    expect(line?.slice(0, 2)).toEqual(["marked", "12.25"]);
    expect(line?.[3]).toContain("set");
    const row = (await gradebookOf(noor, "nav-110")).categories
      .flatMap(({ rows }) => rows)
      .find(({ title }) => title === "Compass and variation");
    expect(row?.mark?.figure).toBe("12.25");
    expect(row?.why).toContain("test: your sketch was right");
    const [notice] = await told(noor.id);
    expect(english(notice?.text)).toBe(
      "Your mark for “Compass and variation” is set to 12.25 of 20 by your instructor. The reason: test: your sketch was right",
    );
    expect(notice?.path).toBe(`/gradebook/nav-110#work-${itemId}`);
    const [line2] =
      await sql`select course_id, details from record where action = 'set a mark' order by at desc, id desc limit 1`;
    expect(line2?.course_id).not.toBeNull();

    const story = await cellStory(ines, "nav-110", { student: noor.id, item: itemId });
    expect(story.set[0]).toMatchObject({ what: "marks", marks: "12.25", by: "Captain Ines Marsh" });
    expect(story.computed).toBe(before?.[1]);
    expect(story.seenByStudent).toBe("12.25 / 20");

    await setMarks(ines, "nav-110", { ...set, deed: "as-the-work", reason: "test: no, it was not" });
    expect((await lineOf("Noor Haldane"))["Compass and variation"]).toEqual(before);
    const again = (await gradebookOf(noor, "nav-110")).categories
      .flatMap(({ rows }) => rows)
      .find(({ title }) => title === "Compass and variation");
    expect(again?.mark?.figure).toBe(before?.[1]);
    // The history keeps both.
    expect(
      (await cellStory(ines, "nav-110", { student: noor.id, item: itemId })).set
        .map(({ what }) => what)
        .slice(0, 2),
    ).toEqual(["as-the-work", "marks"]);
    await expect(
      setMarks(ines, "nav-110", { ...set, deed: "as-the-work", reason: "test: twice", seen: 1e9 }),
    ).rejects.toMatchObject({ status: 422 });
  });

  test("set and taken back, it is in the figures of the class as it was before", async () => {
    const itemId = await itemNamed("Compass and variation");
    const figures = async () => (await gradebookOf(noor, "nav-110", undefined, itemId)).classMarks?.shown;
    const before = await figures();
    expect(before?.marks).toBeGreaterThan(5);
    const line = (await tableOf()).students.find(({ name }) => name === "Bao Lindqvist");
    const set = { itemId, personIds: [line?.id], reason: "test: x", seen: 1e9 };
    await setMarks(ines, "nav-110", { ...set, deed: "excuse" });
    expect((await figures())?.marks).toBe((before?.marks ?? 0) - 1);
    await setMarks(ines, "nav-110", { ...set, deed: "as-the-work" });
    expect(await figures()).toEqual(before);
  });

  test("excused, the work leaves the calculation", async () => {
    const itemId = await itemNamed("Compass and variation");
    const set = { itemId, personIds: [noor.id], reason: "test: ill", seen: 0 };
    await setMarks(ines, "nav-110", { ...set, deed: "marks", marks: "0" });
    const withNothing = Number((await standingOf("Noor Haldane"))?.low);
    await setMarks(ines, "nav-110", { ...set, deed: "excuse" });
    expect((await lineOf("Noor Haldane"))["Compass and variation"]).toEqual(["excused"]);
    expect(Number((await standingOf("Noor Haldane"))?.low)).toBeGreaterThan(withNothing);
    expect(english((await told(noor.id))[0]?.text)).toMatch(/^You are excused from “Compass and variation”/);
  });

  test.each([
    ["nineteen", /is not a mark/],
    ["", /is not a mark/],
    ["-1", /is not a mark/],
    ["1e1", /is not a mark/],
    ["1.23456", /is not a mark/],
    ["20.0001", /above the maximum of 20/],
    ["NaN", /is not a mark/],
  ])("%j is refused with what would be right, and nothing changes", async (marks, sentence) => {
    const itemId = await itemNamed("Compass and variation");
    const before = await adjustments();
    const set = { itemId, personIds: [noor.id], deed: "marks", marks, reason: "test: x", seen: 1e9 };
    const refused = await setMarks(ines, "nav-110", set).catch((error) => error);
    expect(refused.status).toBe(422);
    expect(english(refused.sentence)).toMatch(sentence);
    expect(await adjustments()).toBe(before);
  });

  test("a reason is asked for", async () => {
    const itemId = await itemNamed("Compass and variation");
    for (const reason of ["", "   "])
      await expect(
        setMarks(ines, "nav-110", {
          itemId,
          personIds: [noor.id],
          deed: "marks",
          marks: "3",
          reason,
          seen: 1e9,
        }),
      ).rejects.toMatchObject({ status: 422 });
  });

  test("what another instructor set meanwhile is not written over: it is refused with their name, for one and for all", async () => {
    const second = await viewer("tomas.oyelaran");
    await sql`insert into enrolment (person_id, course_id, role) select ${second.id}, id, 'instructor' from course where slug = 'nav-110'`;
    try {
      const itemId = await itemNamed("Compass and variation");
      const seen = await seenOf("Compass and variation");
      const set = { itemId, personIds: [noor.id], deed: "marks", reason: "test: x", seen };
      const everyone = (await tableOf()).students.map(({ id }) => id);
      await setMarks(second, "nav-110", { ...set, marks: "7" });
      for (const personIds of [[noor.id], everyone]) {
        const refused = await setMarks(ines, "nav-110", { ...set, personIds, marks: "9" }).catch(
          (error) => error,
        );
        expect(refused.status).toBe(409);
        expect(english(refused.sentence)).toMatch(/Tomas Oyelaran has set the mark of Noor Haldane/);
      }
      // Somebody else's mark in the same column is no obstacle, and one's own is none either.
      const other = everyone.find((id) => id !== noor.id) ?? "";
      await setMarks(ines, "nav-110", { ...set, personIds: [other], marks: "9" });
      await setMarks(ines, "nav-110", { ...set, personIds: [other], marks: "8" });
      expect((await lineOf("Noor Haldane"))["Compass and variation"]?.[1]).toBe("7");
    } finally {
      await sql`delete from adjustment where reason like 'test:%'`;
      await sql`delete from enrolment where person_id = ${second.id} and course_id = (select id from course where slug = 'nav-110')`;
    }
  });

  test("two at once for one student: one is written, the other is refused", async () => {
    const second = await viewer("tomas.oyelaran");
    await sql`insert into enrolment (person_id, course_id, role) select ${second.id}, id, 'instructor' from course where slug = 'nav-110'`;
    try {
      const itemId = await itemNamed("Compass and variation");
      const seen = await seenOf("Compass and variation");
      const set = { itemId, personIds: [noor.id], deed: "marks", reason: "test: x", seen };
      const both = await Promise.allSettled([
        setMarks(ines, "nav-110", { ...set, marks: "5" }),
        setMarks(second, "nav-110", { ...set, marks: "6" }),
      ]);
      expect(both.map(({ status }) => status).sort()).toEqual(["fulfilled", "rejected"]);
      expect(both.find(({ status }) => status === "rejected")).toMatchObject({ reason: { status: 409 } });
    } finally {
      await sql`delete from adjustment where reason like 'test:%'`;
      await sql`delete from enrolment where person_id = ${second.id} and course_id = (select id from course where slug = 'nav-110')`;
    }
  });

  test("filling what is empty leaves alone who has a mark, writes, is excused, or handed in after the table was read", async () => {
    const table = await tableOf();
    const items = table.categories.flatMap(({ items: own }) => own);
    const at = items.findIndex(({ title }) => title === "Compass and variation");
    const item = items[at];
    const everyone = table.students.map(({ id }) => id);
    const empty = table.students.filter(({ cells }) =>
      ["missed", "to-come", "not-begun"].includes(cells[at]?.[0] ?? ""),
    );
    expect(empty.length).toBeGreaterThan(0);
    const first = empty[0]?.id ?? "";
    // One of them was handed in meanwhile.
    await sql`update attempt set person_id = ${first}, number = 99 where id = (
      select a.id from attempt a where a.quiz_id = ${item?.quizId ?? ""} and a.person_id <> ${noor.id} and a.number = 2 limit 1)`;
    const { changed } = await setMarks(ines, "nav-110", {
      itemId: item?.id,
      personIds: everyone,
      deed: "marks",
      marks: "0",
      onlyEmpty: true,
      reason: "test: nothing was handed in",
      seen: item?.seen,
    });
    expect(changed).toBe(empty.length - 1);
    expect((await told(first)).length).toBe(0);
  });
});

describe("marks as a table", () => {
  const bytes = (text: string) => new TextEncoder().encode(text);
  const head = "E-mail;Compass and variation;Passage plan";
  const table = (...rows: string[]) => bytes([head, ...rows].join("\r\n"));

  test("taken out and brought back in it changes nothing, in any of the courses", async () => {
    for (const [email, slug] of [
      ["ines.marsh", "nav-110"],
      ["tomas.oyelaran", "brd-120"],
      ["adaeze.okafor", "pol-101"],
    ] as const) {
      const someone = await viewer(email);
      const file = await marksFile(someone, slug);
      const preview = await lookOverMarks(someone, slug, bytes(file));
      expect(preview).toMatchObject({ changes: [], mistakes: [] });
      expect(file.split("\r\n").length).toBeGreaterThan(15);
    }
  });

  test("decimal commas, semicolons and other encodings are read; what would change is shown, then done, and each student told once", async () => {
    const before = await adjustments();
    const rows = table(
      "noor.haldane@alderquay.example;12,5;41",
      "anneke.tremaine@alderquay.example;;excused",
    );
    const preview = await lookOverMarks(ines, "nav-110", rows);
    expect(preview.mistakes).toEqual([]);
    expect(preview.changes.map(({ line, name, title, to }) => [line, name, title, to])).toEqual([
      [2, "Noor Haldane", "Compass and variation", "12.5"],
      [2, "Noor Haldane", "Passage plan", "41"],
      [3, "Anneke Tremaine", "Passage plan", "excused"],
    ]);
    expect(await adjustments()).toBe(before);
    expect(
      await bringMarksIn(ines, "nav-110", rows, { reason: "test: from paper", expects: preview.expects }),
    ).toEqual({ set: 3 });
    expect((await lineOf("Noor Haldane"))["Passage plan"]?.[1]).toBe("41");
    const notices = await told(noor.id);
    expect(notices).toHaveLength(1);
    expect(english(notices[0]?.text)).toBe(
      "2 marks of yours in “Coastal Navigation” are set by your instructor. The reason: test: from paper",
    );
    // A second time it would change nothing.
    await expect(
      bringMarksIn(ines, "nav-110", rows, { reason: "test: x", expects: preview.expects }),
    ).rejects.toMatchObject({ status: 409 });
    expect((await lookOverMarks(ines, "nav-110", rows)).changes).toEqual([]);
  });

  test("what was not looked at is not done: a mark set meanwhile, another file, a file with a mistake", async () => {
    const rows = table("noor.haldane@alderquay.example;12,5;41");
    const { expects } = await lookOverMarks(ines, "nav-110", rows);
    const itemId = await itemNamed("Passage plan");
    await setMarks(ines, "nav-110", {
      itemId,
      personIds: [noor.id],
      deed: "marks",
      marks: "3",
      reason: "test: x",
      seen: 0,
    });
    const before = await adjustments();
    const terms = { reason: "test: y", expects };
    await expect(bringMarksIn(ines, "nav-110", rows, terms)).rejects.toMatchObject({ status: 409 });
    await expect(
      bringMarksIn(ines, "nav-110", table("noor.haldane@alderquay.example;1;2"), terms),
    ).rejects.toMatchObject({ status: 409 });
    await expect(
      bringMarksIn(ines, "nav-110", table("noor.haldane@alderquay.example;1;51"), terms),
    ).rejects.toMatchObject({ status: 422 });
    await expect(bringMarksIn(ines, "nav-110", rows, { expects })).rejects.toMatchObject({ status: 422 });
    expect(await adjustments()).toBe(before);
  });

  test("a file that is none of these is refused with its line, and never fails", async () => {
    const all: [Uint8Array, RegExp][] = [
      [new Uint8Array(), /empty/],
      [bytes(`${head}\r\nnoor.haldane@alderquay.example;"12;3`), /quotation mark/],
      [table("noor.haldane@alderquay.example;20,5;1"), /above the maximum of 20/],
      [table("noor.haldane@alderquay.example;=1+1;1"), /is not a mark/],
      [table("noor.haldane@alderquay.example;1"), /2 cells stand here/],
    ];
    for (const [file, sentence] of all) {
      const looked = await lookOverMarks(ines, "nav-110", file).catch((error) => ({
        mistakes: [{ words: english(error.sentence) }],
      }));
      expect(looked.mistakes.map(({ words }) => words).join(" ")).toMatch(sentence);
    }
    const next = chance("any bytes");
    for (let i = 0; i < 60; i += 1) {
      const noise = Uint8Array.from({ length: 400 }, () => Math.floor(next() * 256));
      const looked = await lookOverMarks(ines, "nav-110", noise).catch((error) => error);
      expect(looked.status ?? 200, String(looked)).toBeLessThan(500);
      if (looked.status === undefined) expect(looked.changes).toEqual([]);
    }
  });

  test("by its byte order mark, else UTF-8, else as older programs write it", () => {
    const text = "Élodie;12";
    const utf16 = (order: "le" | "be") => {
      const buffer = Buffer.from(`\uFEFF${text}`, "utf16le");
      return new Uint8Array(order === "le" ? buffer : buffer.swap16());
    };
    expect(textOf(bytes(`\uFEFF${text}`)).text.replace(/^\uFEFF/, "")).toBe(text);
    expect(textOf(utf16("le")).text.replace(/^\uFEFF/, "")).toBe(text);
    expect(textOf(utf16("be")).text.replace(/^\uFEFF/, "")).toBe(text);
    expect(textOf(new Uint8Array(Buffer.from(text, "latin1")))).toEqual({ text, isOld: true });
  });

  test("a mark that came in as a third is not changed by taking it out and in", async () => {
    const itemId = await itemNamed("Compass and variation");
    const [kept] =
      await sql`select id, earned from attempt where person_id = ${noor.id} and quiz_id = (select quiz_id from gradebook_item where id = ${itemId}) order by number desc limit 1`;
    await sql`update attempt set earned = 18.6667, maximum = 21 where id = ${kept?.id}`;
    try {
      expect((await lookOverMarks(ines, "nav-110", bytes(await marksFile(ines, "nav-110")))).changes).toEqual(
        [],
      );
    } finally {
      await sql`update attempt set earned = ${kept?.earned}, maximum = 20 where id = ${kept?.id}`;
    }
  });
});

describe("what counts", () => {
  type Plan = Awaited<ReturnType<typeof planPage>>["plan"];
  const now = async () => (await planPage(ines, "nav-110")).plan;
  const weighing = (plan: Plan, ...weights: string[]): Plan => ({
    ...plan,
    categories: plan.categories.map((each, i) => ({ ...each, weight: weights[i] ?? each.weight })),
  });
  const versions = async () => (await planPage(ines, "nav-110")).versions;

  test("is looked over before it is changed: what is shown is exactly what happens, to everyone; each version is kept, everyone told", async () => {
    const plan = await now();
    const itemId = await itemNamed("Passage plan");
    await setMarks(ines, "nav-110", {
      itemId,
      personIds: [noor.id],
      deed: "marks",
      marks: "41",
      reason: "test: x",
      seen: 1e9,
    });
    const heavier = weighing(plan, "10", "90");
    const next = {
      ...heavier,
      missingCountsZero: true,
      categories: heavier.categories.map((each) => ({ ...each, dropLowest: 0 })),
    };
    const before = await tableOf();
    const effect = await lookOverPlan(ines, "nav-110", { plan: next });
    // Looking changed nothing.
    expect(await tableOf()).toEqual(before);
    expect(await now()).toEqual(plan);
    expect(await versions()).toEqual([]);
    expect(effect.lines.length).toBeGreaterThan(3);
    await changePlan(ines, "nav-110", { plan: next, reason: "test: as agreed", expects: effect.expects });
    const after = await tableOf();
    const changed = after.students.flatMap(({ name, standing }, i) => {
      const was = before.students[i]?.standing;
      return JSON.stringify(was) === JSON.stringify(standing)
        ? []
        : [
            {
              name,
              from: was?.low ?? null,
              to: standing.low,
              fromHigh: was?.high ?? null,
              toHigh: standing.high,
            },
          ];
    });
    expect(effect.lines.map(({ direction: _, ...line }) => line)).toEqual(changed);
    expect((await versions()).map(({ number, reason, by }) => [number, reason, by])).toEqual([
      [2, "test: as agreed", "Captain Ines Marsh"],
      [1, "", null],
    ]);
    const kept = await versions();
    expect(kept[0]?.plan).toEqual(next);
    expect(kept[1]?.plan).toEqual(plan);
    expect(english((await told(noor.id))[0]?.text)).toBe(
      "What counts in “Coastal Navigation” has changed. The reason: test: as agreed",
    );
    expect(await told(ines.id)).toEqual([]);
    expect((await gradebookOf(noor, "nav-110")).changed).toMatchObject({ reason: "test: as agreed" });
    // And back again.
    const back = await lookOverPlan(ines, "nav-110", { plan: kept[1]?.plan });
    await changePlan(ines, "nav-110", { plan: kept[1]?.plan, reason: "test: back", expects: back.expects });
    expect(await tableOf()).toEqual(before);
  });

  test("what was not looked over is not done: another plan, and one that was overtaken", async () => {
    const plan = await now();
    const first = weighing(plan, "20", "80");
    const second = weighing(plan, "30", "70");
    const looked = await lookOverPlan(ines, "nav-110", { plan: first });
    await expect(
      changePlan(ines, "nav-110", { plan: second, reason: "test: x", expects: looked.expects }),
    ).rejects.toMatchObject({ status: 409 });
    const other = await lookOverPlan(ines, "nav-110", { plan: second });
    await changePlan(ines, "nav-110", { plan: second, reason: "test: x", expects: other.expects });
    await expect(
      changePlan(ines, "nav-110", { plan: first, reason: "test: x", expects: looked.expects }),
    ).rejects.toMatchObject({ status: 409 });
    await expect(changePlan(ines, "nav-110", { plan: first, expects: looked.expects })).rejects.toMatchObject(
      { status: 422 },
    );
    const back = await lookOverPlan(ines, "nav-110", { plan });
    await changePlan(ines, "nav-110", { plan, reason: "test: back", expects: back.expects });
  });

  test("new work and categories are written, moved and taken out; what has marks stays", async () => {
    const plan = await now();
    const [quizzes, written] = plan.categories;
    if (!quizzes || !written) throw new Error("There should be two categories.");
    const added: Plan = {
      ...plan,
      categories: [
        {
          ...written,
          items: [
            ...written.items,
            {
              id: "new-1",
              title: "Log book",
              maximum: "12.5",
              quizId: null,
              fullForTakingPart: false,
              standsInFor: null,
            },
          ],
        },
        { ...quizzes, items: [...quizzes.items].reverse() },
        { id: "new-2", title: "Seamanship", weight: "5", mean: "equal", dropLowest: 0, items: [] },
      ],
    };
    const effect = await lookOverPlan(ines, "nav-110", { plan: added });
    await changePlan(ines, "nav-110", { plan: added, reason: "test: more", expects: effect.expects });
    const then = await now();
    expect(then.categories.map(({ title, items }) => [title, items.map((item) => item.title)])).toEqual([
      [written.title, [...written.items.map(({ title }) => title), "Log book"]],
      [quizzes.title, [...quizzes.items].reverse().map(({ title }) => title)],
      ["Seamanship", []],
    ]);
    const logBook = then.categories[0]?.items.at(-1);
    await setMarks(ines, "nav-110", {
      itemId: logBook?.id,
      personIds: [noor.id],
      deed: "marks",
      marks: "12",
      reason: "test: x",
      seen: 0,
    });
    const refused = await lookOverPlan(ines, "nav-110", { plan }).catch((error) => error);
    expect(refused).toHaveProperty("sentence");
    expect(english(refused.sentence)).toMatch(/“Log book” has marks that were set by hand/);
    const smaller = JSON.parse(JSON.stringify(then).replace('"12.5"', '"11"'));
    expect(
      english((await lookOverPlan(ines, "nav-110", { plan: smaller }).catch((error) => error)).sentence),
    ).toMatch(/has a mark of 12 that was set by hand/);
    await sql`delete from adjustment where reason like 'test:%'`;
    const back = await lookOverPlan(ines, "nav-110", { plan });
    await changePlan(ines, "nav-110", { plan, reason: "test: back", expects: back.expects });
    expect(await now()).toEqual(plan);
  });

  test("one piece of work may stand in for another where it is allowed: its student chooses it, and taking it back ends it", async () => {
    const { chooseStandIn } = await import("../gradebook/choose-stand-in");
    const plan = await now();
    const all = plan.categories.flatMap(({ items }) => items);
    const other = all.find(({ title }) => title === "Compass and variation");
    const allowed = all.find(({ standsInFor }) => standsInFor !== null);
    if (!other || !allowed) throw new Error("There should be such work.");
    // What the demo allows is part of what counts, and can be said otherwise.
    expect(all.find(({ id }) => id === allowed.standsInFor)?.title).toBe("Chart symbols");
    const retake = { id: "new-1", title: "Retake", maximum: "20", quizId: null, fullForTakingPart: false };
    const withRetake = (standsInFor: string | null): Plan => ({
      ...plan,
      categories: plan.categories.map((each, i) =>
        i === 0 ? { ...each, items: [...each.items, { ...retake, standsInFor }] } : each,
      ),
    });
    for (const wrong of ["new-1", allowed.id, allowed.standsInFor, "nothing"])
      await expect(lookOverPlan(ines, "nav-110", { plan: withRetake(wrong) })).rejects.toMatchObject({
        sentence: expect.stringContaining("Retake"),
      });
    const next = withRetake(other.id);
    const effect = await lookOverPlan(ines, "nav-110", { plan: next });
    await changePlan(ines, "nav-110", { plan: next, reason: "test: a retake", expects: effect.expects });
    const made = (await now()).categories[0]?.items.at(-1);
    expect(made).toMatchObject({ title: "Retake", standsInFor: other.id });
    await setMarks(ines, "nav-110", {
      itemId: made?.id,
      personIds: [noor.id],
      deed: "marks",
      marks: "20",
      reason: "test: x",
      seen: 0,
    });
    const markOfNoor = async () => {
      const { categories, students } = await tableOf();
      const items = categories.flatMap((category) => category.items);
      return students.find(({ id }) => id === noor.id)?.cells[items.findIndex(({ id }) => id === other.id)];
    };
    const before = JSON.stringify(await markOfNoor());
    await chooseStandIn(noor, "nav-110", { item: other.id, choice: "stand-in" });
    expect(JSON.stringify(await markOfNoor())).not.toBe(before);
    // No longer allowed, the choice counts for nothing.
    const without = { ...(await now()) };
    const taken: Plan = {
      ...without,
      categories: without.categories.map((each) => ({
        ...each,
        items: each.items.map((item) => (item.id === made?.id ? { ...item, standsInFor: null } : item)),
      })),
    };
    const looked = await lookOverPlan(ines, "nav-110", { plan: taken });
    expect(looked.lines.map(({ name }) => name)).toEqual([noor.name]);
    await changePlan(ines, "nav-110", { plan: taken, reason: "test: no retake", expects: looked.expects });
    expect(JSON.stringify(await markOfNoor())).toBe(before);
    await expect(
      chooseStandIn(noor, "nav-110", { item: other.id, choice: "stand-in" }),
    ).rejects.toMatchObject({ status: 422 });
    await sql`delete from adjustment where reason like 'test:%'`;
    await sql`delete from stand_in where item_id = ${other.id}`;
    const back = await lookOverPlan(ines, "nav-110", { plan });
    await changePlan(ines, "nav-110", { plan, reason: "test: back", expects: back.expects });
    expect(await now()).toEqual(plan);
  });

  test("what contradicts itself, or is not of this course, is refused with a sentence, and nothing changes", async () => {
    const plan = await now();
    const [first, ...rest] = plan.categories;
    if (!first) throw new Error("There should be a category.");
    const theirs = (
      await sql`select q.id from quiz q join course c on c.id = q.course_id where c.slug = 'pol-101' limit 1`
    )[0]?.id;
    const item = { id: "new-1", title: "X", maximum: "5", quizId: null, fullForTakingPart: false };
    const withFirst = (change: object) => ({ ...plan, categories: [{ ...first, ...change }, ...rest] });
    for (const [wrong, sentence] of [
      [weighing(plan, "0", "0"), /needs a weight/],
      [weighing(plan, "-1"), /A weight is a number/],
      [weighing(plan, "1e3"), /A weight is a number/],
      [withFirst({ dropLowest: first.items.length }), /Fewer than that can be dropped/],
      [withFirst({ title: " " }), /title/],
      [withFirst({ items: [...first.items, { ...item, maximum: "0" }] }), /above 0/],
      [withFirst({ items: [...first.items, { ...item, quizId: theirs }] }), /not in this course/],
      [
        withFirst({
          items: [...first.items, { ...item, quizId: first.items.find(({ quizId }) => quizId)?.quizId }],
        }),
        /only once/,
      ],
      [withFirst({ items: [...first.items, { ...item, id: randomUUID() }] }), /has been changed since/],
      [
        withFirst({ items: first.items.map((each) => ({ ...each, quizId: null })) }),
        /cannot become other work/,
      ],
      [
        {
          ...plan,
          scale: {
            kind: "letters",
            thresholds: [
              { name: "A", from: "50" },
              { name: "B", from: "70" },
            ],
          },
        },
        /must fall/,
      ],
      [{ ...plan, scale: { kind: "letters", thresholds: [] } }, /must fall/],
    ] as [unknown, RegExp][]) {
      const refused = await lookOverPlan(ines, "nav-110", { plan: wrong }).catch((error) => error);
      expect(refused, sentence.source).toHaveProperty("sentence");
      expect(english(refused.sentence)).toMatch(sentence);
    }
    expect(await now()).toEqual(plan);
  });

  test("a scale is set, told beside each standing, and read back as it was set", async () => {
    const plan = await now();
    for (const scale of [
      {
        kind: "letters",
        thresholds: [
          { name: "A", from: "85" },
          { name: "B", from: "62.5" },
        ],
      },
      { kind: "reached", from: "50" },
      null,
    ] as Plan["scale"][]) {
      const { expects } = await lookOverPlan(ines, "nav-110", { plan: { ...plan, scale } });
      await changePlan(ines, "nav-110", { plan: { ...plan, scale }, reason: "test: scale", expects });
      expect((await now()).scale).toEqual(scale);
      const scaled = (await tableOf()).students.map((each) => each.scaled);
      expect(scaled.some((each) => each !== null)).toBe(scale !== null);
    }
  });

  test("nobody else can look it over or change it", async () => {
    const plan = await now();
    for (const email of ["noor.haldane", "adaeze.okafor", "yuki.brandvold"]) {
      const someone = await viewer(email);
      await expect(planPage(someone, "nav-110")).rejects.toMatchObject({ status: 404 });
      await expect(lookOverPlan(someone, "nav-110", { plan })).rejects.toMatchObject({ status: 404 });
      await expect(
        changePlan(someone, "nav-110", { plan, reason: "test: x", expects: "x" }),
      ).rejects.toMatchObject({ status: 404 });
    }
  });
});

describe("the table", () => {
  test("says the same as each student's own gradebook, once everything of it is shown to them", async () => {
    for (const slug of ["nav-110", "brd-120", "pol-101"]) {
      const [course] = await sql`select c.id, c.missing_counts_zero from course c where slug = ${slug}`;
      await sql`update quiz set settings = jsonb_set(settings, '{reveal,total}', '"at-hand-in"') where course_id = ${course?.id}`;
      await sql`update quiz set settings = settings #- '{reveal,onlyAfterLastAttempt}' #- '{takeBack}' where course_id = ${course?.id}`;
      const work = await courseWork(course?.id);
      expect(work.students.length).toBeGreaterThan(10);
      for (const student of work.students) {
        const [person] = await sql`select id, name, email from person where id = ${student.id}`;
        const own = await gradebookWork(person as never, slug);
        const options = { missingCountsZero: course?.missing_counts_zero };
        const theirs = courseStanding(
          own.categories.map(({ category }) => category),
          options,
        );
        const ours = courseStanding(student.categories, options);
        const figures = ({ markedSoFar, low, high, stillToCome, categories }: typeof ours) => ({
          markedSoFar: markedSoFar?.toFraction(),
          low: low?.toFraction(),
          high: high?.toFraction(),
          stillToCome: stillToCome.toFraction(),
          dropped: categories.map(({ dropped }) => [...dropped].sort()),
        });
        expect(figures(ours), `${student.name} in ${slug}`).toEqual(figures(theirs));
      }
    }
  });

  test("so it does in random courses: weights, drops, means, marks set and taken back, excuses, work elsewhere", async () => {
    const next = chance("random courses");
    const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
    const [course] = await sql`select id from course where slug = 'nav-110'`;
    const students = (await tableOf()).students;
    for (let round = 0; round < 12; round += 1) {
      const missing = next() < 0.5;
      await sql`update course set missing_counts_zero = ${missing} where id = ${course?.id}`;
      for (const category of await sql`select id from gradebook_category where course_id = ${course?.id}`) {
        await sql`update gradebook_category set weight = ${pick([0, 1, 2.5, 40])}, mean = ${pick(["by-points", "equal"])}, drop_lowest = ${pick([0, 0, 1, 2])} where id = ${category.id}`;
        if (round < 3)
          await sql`insert into gradebook_item (id, category_id, title, maximum, position) values (${randomUUID()}, ${category.id}, ${`test: elsewhere ${round}`}, ${pick([5, 12.5, 100])}, ${50 + round})`;
      }
      const items =
        await sql`select i.id, i.maximum from gradebook_item i join gradebook_category c on c.id = i.category_id where c.course_id = ${course?.id}`;
      await sql`update gradebook_item set full_for_taking_part = ${next() < 0.3} where id = ${pick([...items])?.id}`;
      for (let i = 0; i < 60; i += 1) {
        const item = pick([...items]);
        const kind = pick(["marks", "marks", "excused", "withdrawn"]);
        await sql`insert into adjustment (item_id, person_id, id, marks, excused, withdrawn, reason, set_by)
          values (${item?.id}, ${pick(students).id}, ${randomUUID()}, ${kind === "marks" ? Math.floor(next() * Number(item?.maximum)) : null}, ${kind === "excused"}, ${kind === "withdrawn"}, 'test: random', ${ines.id})`;
      }
      const work = await courseWork(course?.id);
      for (let i = 0; i < 6; i += 1) {
        const student = pick(work.students);
        const [person] = await sql`select id, name, email from person where id = ${student.id}`;
        const own = await gradebookWork(person as never, "nav-110");
        const options = { missingCountsZero: missing };
        const theirs = courseStanding(
          own.categories.map(({ category }) => category),
          options,
        );
        const ours = courseStanding(student.categories, options);
        expect(ours.markedSoFar?.toFraction()).toBe(theirs.markedSoFar?.toFraction());
        expect([ours.low?.toFraction(), ours.high?.toFraction()]).toEqual([
          theirs.low?.toFraction(),
          theirs.high?.toFraction(),
        ]);
        const cellsOf = (categories: typeof student.categories) =>
          categories.flatMap(({ items: all }) =>
            all.map(({ id, mark, excused, over }) => [
              id,
              mark?.earned.toFraction(),
              mark?.awaited.toFraction(),
              excused,
              over,
            ]),
          );
        expect(cellsOf(student.categories)).toEqual(cellsOf(own.categories.map(({ category }) => category)));
      }
    }
    await sql`delete from adjustment where reason like 'test:%'`;
    await sql`delete from gradebook_item where title like 'test:%'`;
  });

  test("reads as much for five hundred as for thirty: the number of queries stays the same", async () => {
    const { result: table, queries } = await countingQueries(tableOf);
    expect(queries).toBeLessThanOrEqual(10);
    expect(table.students.length).toBeGreaterThan(20);
    const [course] = await sql`select id from course where slug = 'nav-110'`;
    for (let i = 0; i < 30; i += 1) {
      const id = randomUUID();
      await sql`insert into person (id, name, email) values (${id}, ${`More ${i}`}, ${`more.${i}@alderquay.example`})`;
      await sql`insert into enrolment (person_id, course_id, role) values (${id}, ${course?.id}, 'student')`;
    }
    const more = await countingQueries(tableOf);
    expect(more.result.students.length).toBe(table.students.length + 30);
    expect(more.queries).toBe(queries);
  });
});
