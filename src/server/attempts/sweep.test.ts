import { randomUUID } from "node:crypto";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { MINUTE } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";
import { english } from "../../../tests/support/english";

// Two connections for everything, and nothing known from before: whoever holds one and waits for a second stops all.
process.env.DATABASE_CONNECTIONS = "2";
process.env.DATABASE_SAVE_CONNECTIONS = "1";
const sql = await ownDatabase();
const { viewer, quiz } = college(sql);
const { settle, sweep } = await import("./settle");
const { startAttempt } = await import("../desk/start-attempt");
const { handInAttempt } = await import("../desk/hand-in");
const { takeBack } = await import("../handed-in/take-back");
const { sendWaiting } = await import("../mail/send-waiting");
const { todayOf } = await import("../overview/today");
const { markedPaperOf } = await import("../handed-in/marked-paper");
const { bellOf } = await import("../notices/bell");
const { versionContent } = await import("../quizzes/versions");
const { present } = await import("@/core/kinds/marking");
const { readQuizFile } = await import("@/core/quiz/quiz-file");

beforeEach(async () => {
  await sql`update attempt set handed_in_at = now(), handed_in_by = 'clock' where handed_in_at is null`;
});
afterEach(() => {
  vi.useRealTimers();
});

/** Attempts whose time is up, each at a version of its own that no cache knows. */
async function overdue(count: number, change: (content: never) => unknown = (content) => content, from = 0) {
  const id = await quiz("Tides and clearances");
  const [version] = await sql`select content, facts from quiz_version where quiz_id = ${id} and number = 1`;
  const people = await sql`select person_id from enrolment e join course c on c.id = e.course_id
    where c.slug = 'nav-110' and e.role = 'student' order by person_id limit ${count} offset ${from}`;
  return Promise.all(
    people.map(async ({ person_id }, i) => {
      const [versionId, attemptId] = [randomUUID(), randomUUID()];
      const number = 100 + Math.floor(Math.random() * 1e8);
      await sql`insert into quiz_version (id, quiz_id, number, content, facts)
        values (${versionId}, ${id}, ${number}, ${sql.json(change(version?.content as never) as never)}, ${sql.json(version?.facts)})`;
      await sql`insert into attempt (id, quiz_id, version_id, person_id, number, seed, naming, started_at, deadline, maximum)
        values (${attemptId}, ${id}, ${versionId}, ${person_id}, ${number}, ${`seed ${i}`}, 2,
          now() - interval '1 hour', now() - make_interval(mins => ${count - i}), 30)`;
      return { attemptId, personId: person_id as string };
    }),
  );
}

const handedIn = async (ids: readonly string[]) =>
  (
    await sql`select count(*)::int as count from attempt where id = any(${[...ids]}::uuid[]) and handed_in_at is not null`
  )[0]?.count;

describe("with two connections and nothing in any cache", () => {
  test("a class past its deadline is handed in, by as many at once as there are", async () => {
    const all = (await overdue(12)).map(({ attemptId }) => attemptId);
    await Promise.all([...all.map((id) => settle(id)), sweep(50), sweep(50)]);
    expect(await handedIn(all)).toBe(12);
  }, 30_000);

  test("starting, handing in and taking back by many at once", async () => {
    const id = await quiz("Species list, at leisure");
    await sql`update quiz set settings = settings || '{"attempts":50,"takeBack":true}' where id = ${id}`;
    const people =
      await sql`select split_part(email, '@', 1) as name from person p join enrolment e on e.person_id = p.id
      join course c on c.id = e.course_id where c.slug = 'pol-101' and e.role = 'student' limit 8`;
    await Promise.all(
      people.map(async ({ name }) => {
        const student = await viewer(name);
        const { attemptId } = await startAttempt(student, id);
        await handInAttempt(student, attemptId, {});
        await takeBack(student, attemptId);
        await handInAttempt(student, attemptId, {});
      }),
    );
    expect(
      (await sql`select 1 from slip s join attempt a on a.id = s.attempt_id where a.quiz_id = ${id}`).length,
    ).toBeGreaterThanOrEqual(16);
  }, 30_000);

  test("mail goes to the internal mailbox while others mail too", async () => {
    const noor = await viewer("noor.haldane");
    await sql`update person_notice set mail = 'off'`;
    for (let i = 0; i < 6; i += 1) {
      await sql`insert into person_notice (id, person_id, kind, text, path, mail) values
        (${randomUUID()}, ${noor.id}, 'moved', ${`Moved ${i}.`}, '/today', 'waiting')`;
    }
    await Promise.all([sendWaiting(2), sendWaiting(2), sendWaiting(2), todayOf(noor)]);
    expect(await sql`select 1 from person_notice where mail = 'sent'`).toHaveLength(6);
  }, 30_000);
});

/** A numeric question whose key has no value where a is 20. */
const broken = (from: number, to: number) => ({
  id: "broken",
  kind: "numeric",
  text: "<p>What is one over {a} less twenty?</p>",
  marks: 4,
  variables: [{ name: "a", from, to, step: 1 }],
  parts: [
    { id: "q", marks: 3, key: "1 / (a - 20)", tolerance: { rule: "relative", within: "0.01" } },
    { id: "r", marks: 1, key: "a", tolerance: { rule: "absolute", within: 0 } },
  ],
});
const withBroken = (content: { sections: { questions: unknown[] }[] }) => ({
  ...content,
  sections: [
    {
      ...content.sections[0],
      questions: [broken(20, 20), ...(content.sections[0]?.questions ?? []).slice(1)],
    },
  ],
});

describe("one bad attempt stops nothing", () => {
  test("a part that cannot be marked awaits with its reason; its instructor is told; the others are handed in", async () => {
    const [bad] = await overdue(1, withBroken as never);
    await sql`insert into answer (attempt_id, slot, answer, revision, device, written_at, saved_at)
      values (${bad?.attemptId ?? ""}, 1, '{"parts":{"q":"5","r":"20"}}', 1, ${randomUUID()}, now(), now())`;
    const good = (await overdue(6, (content) => content, 1)).map(({ attemptId }) => attemptId);
    expect(await sweep(50)).toBe(7);
    expect(await handedIn([...good, bad?.attemptId ?? ""])).toBe(7);
    const [mark] =
      await sql`select marks, awaiting, detail from mark where attempt_id = ${bad?.attemptId ?? ""} and slot = 1`;
    expect(mark).toMatchObject({ marks: "1.0000", awaiting: "3.0000" });
    expect(mark?.detail.parts[0]).toMatchObject({
      state: "awaits",
      why: expect.stringContaining("your instructor decides"),
    });
    const ines = await viewer("ines.marsh");
    expect((await bellOf(ines))[0]).toMatchObject({
      kind: "faulty",
      text: expect.stringContaining("cannot be marked by its rule"),
    });
    // No page fails for it: neither the student's nor the instructor's.
    const [person] =
      await sql`select split_part(email, '@', 1) as name from person where id = ${bad?.personId ?? ""}`;
    const student = await viewer(person?.name);
    await expect(todayOf(student)).resolves.toBeTruthy();
    expect((await markedPaperOf(ines, bad?.attemptId ?? ""))?.questions[0]).toMatchObject({
      state: "awaits",
    });
    await expect(markedPaperOf(student, bad?.attemptId ?? "")).resolves.toBeTruthy();
  });

  test("what cannot be handed in at all is passed over, reported, and tried again later", async () => {
    const [bad] = await overdue(1, () => ({ format: "nonsense" }));
    const good = (await overdue(4, (content) => content, 1)).map(({ attemptId }) => attemptId);
    await sweep(50);
    await sweep(50);
    expect(await handedIn(good)).toBe(4);
    expect(await handedIn([bad?.attemptId ?? ""])).toBe(0);
    // It is not asked for again at once, and its student's pages go on.
    expect(await sweep(50)).toBe(0);
    const [person] =
      await sql`select split_part(email, '@', 1) as name from person where id = ${bad?.personId ?? ""}`;
    await expect(todayOf(await viewer(person?.name))).resolves.toBeTruthy();
    const [row] = await sql`select version_id from attempt where id = ${bad?.attemptId ?? ""}`;
    const [other] =
      await sql`select content from quiz_version where quiz_id = ${await quiz("Tides and clearances")} and number = 1`;
    await sql`update quiz_version set content = ${sql.json(other?.content)} where id = ${row?.version_id}`;
    vi.resetModules();
    await import("../base/language");
    vi.useFakeTimers({ toFake: ["Date"], now: Date.now() + 2 * MINUTE });
    const fresh = await import("./settle");
    await fresh.sweep(50);
    expect(await handedIn([bad?.attemptId ?? ""])).toBe(1);
    const { disconnect } = await import("@/data/database");
    await disconnect();
  });

  test("an attempt is started only with questions that can be shown and marked", async () => {
    const id = await quiz("Lights at a glance");
    const [old] =
      await sql`select content, facts from quiz_version where quiz_id = ${id} order by number limit 1`;
    const set = async (question: object, number: number) => {
      await sql`insert into quiz_version (id, quiz_id, number, content, facts) values (${randomUUID()}, ${id}, ${number},
        ${sql.json({ ...old?.content, sections: [{ questions: [question] }] })}, ${sql.json(old?.facts)})`;
      await sql`update quiz set current_version = ${number} where id = ${id}`;
    };
    const student = await viewer("bao.lindqvist");
    await set(broken(20, 20), 900);
    await expect(startAttempt(student, id)).rejects.toMatchObject({ status: 409, type: "faulty" });
    expect(await sql`select 1 from attempt where quiz_id = ${id} and person_id = ${student.id}`).toHaveLength(
      0,
    );
    // Where one draw in five is bad, another one is taken.
    await set(broken(18, 22), 901);
    for (let i = 0; i < 12; i += 1) {
      const { attemptId } = await startAttempt(student, id);
      const { seedOf } = await import("./seeds");
      const [row] = await sql`select * from attempt where id = ${attemptId}`;
      const question = (await versionContent(row?.version_id)).sections[0]?.questions[0];
      expect(question && present(question, await seedOf(row as never)).text).not.toContain("over 20 ");
      await handInAttempt(student, attemptId, {});
    }
  });
});

test("the check of a file finds a draw without a value, in small spaces and in large ones", () => {
  const file = (question: object) =>
    readQuizFile({
      format: "shizuka-quiz",
      version: 1,
      title: "t",
      rules: {
        attempts: 1,
        counts: "best",
        order: "free",
        reveal: { total: "never", marks: "never", written: "never", right: "never", worked: "never" },
      },
      sections: [{ questions: [question] }],
    });
  const problem = (question: object) => {
    const reading = file(question);
    return reading.ok ? null : english(reading.mistakes[0]?.message ?? "");
  };
  expect(problem(broken(1, 100))).toContain("has no value where a = 20");
  // Two variables of 300 values each: ninety thousand draws, of which one in 300 is bad.
  const large = {
    ...broken(1, 300),
    variables: [
      { name: "a", from: 1, to: 300, step: 1 },
      { name: "b", from: 1, to: 300, step: 1 },
    ],
  };
  expect(problem(large)).toContain("a = 20");
  expect(problem(broken(21, 400))).toBeNull();
});
