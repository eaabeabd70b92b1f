import { randomUUID } from "node:crypto";
import { expect, test } from "vitest";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { copyQuizzes, copySources } = await import("./copy-quizzes");
const { assignPage } = await import("./assign-page");
const { draftsOfCourse } = await import("./drafts-of-course");

const ines = await viewer("ines.marsh");
const tomas = await viewer("tomas.oyelaran");
const noor = await viewer("noor.haldane");
const yuna = await viewer("yuna.petrides");
const NAV = "nav-110";

const drafts = async () => (await draftsOfCourse(ines, NAV)).drafts;

test("a course is copied whole, as drafts that nobody sees, with the dates moved together", async () => {
  const { sources } = await copySources(ines, NAV);
  const [source] = sources;
  expect(source?.slug).toBe(NAV);
  const quizzes = source?.quizzes ?? [];
  expect(quizzes.length).toBeGreaterThan(5);
  const seen = await sql`select id from quiz`;
  const { count } = await copyQuizzes(ines, NAV, {
    quizzes: quizzes.map(({ id }) => id),
    first: "2031-09-01",
    breaks: [{ from: "2031-10-20", to: "2031-10-26" }],
  });
  expect(count).toBe(quizzes.length);
  // Nothing is set for anyone.
  expect(await sql`select id from quiz`).toHaveLength(seen.length);
  const made = await drafts();
  expect(made.map(({ title }) => title).sort()).toEqual(quizzes.map(({ title }) => title).sort());
  const tides = quizzes.find(({ title }) => title === "Tides and clearances");
  const copied = made.find(({ title }) => title === "Tides and clearances");
  const view = await assignPage(ines, copied?.id ?? "");
  expect(view.quizId).toBeNull();
  const { planned } = view;
  expect(planned?.due).toBeGreaterThan(Date.UTC(2031, 8, 1));
  // As long as it was, whatever the clocks do.
  const length = (window: { opens: number | null; due: number | null } | null | undefined) =>
    Math.round(((window?.due ?? 0) - (window?.opens ?? 0)) / 86_400_000);
  expect(length(planned)).toBe(length(tides));
});

test("without dates, and from another course that one teaches too, its pictures with it", async () => {
  const [course] = await sql<{ id: string }[]>`insert into course (id, slug, code, title)
    values (gen_random_uuid(), 'nav-205', 'NAV 205', 'Pilotage') returning id`;
  await sql`insert into enrolment (course_id, person_id, role) values (${course?.id ?? ""}, ${ines.id}, 'instructor')`;
  const { sources } = await copySources(ines, "nav-205");
  const [shown] = await sql<{ id: string }[]>`select q.id from quiz q join course c on c.id = q.course_id
    join quiz_version v on v.quiz_id = q.id where c.slug = ${NAV} and jsonb_array_length(v.content -> 'pictures') > 0 limit 1`;
  expect(sources.flatMap(({ quizzes }) => quizzes).some(({ id }) => id === shown?.id)).toBe(true);
  await copyQuizzes(ines, "nav-205", { quizzes: [shown?.id], first: null, breaks: [] });
  const [draft] = (await draftsOfCourse(ines, "nav-205")).drafts;
  expect((await assignPage(ines, draft?.id ?? "")).planned).toBeNull();
  const [kept] = await sql<
    { count: number }[]
  >`select count(*)::int as count from asset where course_id = ${course?.id ?? ""}`;
  expect(kept?.count).toBeGreaterThan(0);
});

test("only by who teaches both courses; bad input says what would be right, and nothing is copied", async () => {
  const [quiz] = await sql<{ id: string }[]>`select id from quiz where title = 'Tides and clearances'`;
  const [theirs] = await sql<
    { id: string }[]
  >`select q.id from quiz q join course c on c.id = q.course_id where c.slug = 'brd-120' limit 1`;
  const before = (await drafts()).length;
  const input = { quizzes: [quiz?.id], first: null, breaks: [] };
  for (const other of [tomas, noor, yuna])
    await expect(copyQuizzes(other, NAV, input)).rejects.toMatchObject({ status: 404 });
  await expect(copyQuizzes(ines, NAV, { ...input, quizzes: [quiz?.id, theirs?.id] })).rejects.toMatchObject({
    status: 404,
  });
  await expect(copyQuizzes(ines, NAV, { ...input, quizzes: [randomUUID()] })).rejects.toMatchObject({
    status: 404,
  });
  for (const bad of [
    { quizzes: [] },
    { first: "next Monday" },
    { first: "2031-02-30x" },
    { breaks: [{ from: "2031-01-01" }] },
    { breaks: "none" },
  ])
    await expect(copyQuizzes(ines, NAV, { ...input, ...bad })).rejects.toMatchObject({ status: 422 });
  expect(await drafts()).toHaveLength(before);
});
