import { afterEach, expect, test, vi } from "vitest";
import { DAY } from "@/core/time/instants";
import { college } from "../../../tests/support/college";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { viewer } = college(sql);
const { decideRetention, removalsOf, retentionOf, retentionRuleNow } = await import("./rule");
const { removeWhatIsOver } = await import("./remove");
const { gradebookOf } = await import("../gradebook/gradebook");
const { markedPaperOf } = await import("../handed-in/marked-paper");

afterEach(() => {
  vi.useRealTimers();
});

const from = Date.now();
const later = (days: number) => vi.useFakeTimers({ toFake: ["Date"], now: from + days * DAY });
const YEAR = 366;

test("only administrators see and decide it, and only whole years from one on", async () => {
  const student = await viewer("noor.haldane");
  await expect(retentionOf(student, null)).rejects.toMatchObject({ status: 404 });
  await expect(decideRetention(student, { years: "2" })).rejects.toMatchObject({ status: 404 });
  const admin = await viewer("yuki.brandvold");
  for (const years of ["0", "-1", "1.5", "51", "soon"]) {
    await expect(decideRetention(admin, { years })).rejects.toMatchObject({ status: 422 });
  }
  expect(await retentionRuleNow()).toBeNull();
});

test("without a rule nothing is ever removed", async () => {
  later(100 * YEAR);
  expect(await removeWhatIsOver()).toBe(false);
});

test("a rule says what it would remove, removes it after its notice and the years, and keeps totals, slips and what awaits", async () => {
  const admin = await viewer("yuki.brandvold");
  const noor = await viewer("noor.haldane");
  await sql`update attempt set handed_in_at = coalesce(handed_in_at, started_at), handed_in_by = coalesce(handed_in_by, 'clock'),
    earned = coalesce(earned, 0), awaited = coalesce(awaited, 0)`;
  expect(await removalsOf(2, from)).toEqual([]);
  await decideRetention(admin, { years: "2" });
  const [course] = await sql`select id, slug from course where slug = 'nav-110'`;
  const count = async () => {
    const [row] = await sql`
      select count(*) filter (where a.written_removed_at is null)::int as whole,
        count(*) filter (where a.written_removed_at is not null)::int as removed,
        count(*) filter (where coalesce(a.awaited, 0) <> 0)::int as awaiting
      from attempt a join quiz q on q.id = a.quiz_id where q.course_id = ${course?.id}`;
    return row as unknown as { whole: number; removed: number; awaiting: number };
  };
  const totals = async () =>
    JSON.stringify(
      await sql`select id, earned, awaited, maximum, handed_in_at, started_at from attempt order by id`,
    );
  const before = await count();
  const kept = await totals();
  const book = JSON.stringify((await gradebookOf(noor, "nav-110")).categories.map(({ title }) => title));
  const slips = (await sql`select count(*)::int as n from slip`)[0]?.n;

  // All of it is over by the years alone, but the rule has been there for less than a week.
  await sql`update retention_rule set holds_from = ${new Date(from + 4 * YEAR * DAY)}`;
  later(4 * YEAR - 1);
  const said = await removalsOf(2, Date.now());
  const nav = said.find(({ courseId }) => courseId === course?.id);
  expect(nav?.attempts).toBe(before.whole - before.awaiting);
  expect(nav?.waiting).toBe(before.awaiting);
  expect(await removeWhatIsOver()).toBe(false);

  later(4 * YEAR + 1);
  for (let rounds = 0; rounds < 50 && (await removeWhatIsOver()); rounds += 1);
  expect(await removeWhatIsOver()).toBe(false);
  const after = await count();
  expect(after.removed).toBe(nav?.attempts);
  expect(after.whole).toBe(before.awaiting);
  expect(await totals()).toBe(kept);
  expect((await sql`select count(*)::int as n from slip`)[0]?.n).toBe(slips);
  const [left] = await sql`
    select (select count(*) from answer x join attempt a on a.id = x.attempt_id where a.written_removed_at is not null)::int as answers,
      (select count(*) from answer_log x join attempt a on a.id = x.attempt_id where a.written_removed_at is not null)::int as log,
      (select count(*) from mark x join attempt a on a.id = x.attempt_id where a.written_removed_at is not null)::int as marks,
      (select count(*) from upload x join attempt a on a.id = x.attempt_id where a.written_removed_at is not null)::int as uploads,
      (select count(*) from record r where r.action like 'removed what was written%')::int as records`;
  expect(left).toMatchObject({ answers: 0, log: 0, marks: 0, uploads: 0 });
  expect(left?.records).toBeGreaterThanOrEqual(after.removed);
  expect(JSON.stringify((await gradebookOf(noor, "nav-110")).categories.map(({ title }) => title))).toBe(
    book,
  );
  const [gone] =
    await sql`select id from attempt where person_id = ${noor.id} and written_removed_at is not null limit 1`;
  await expect(markedPaperOf(noor, gone?.id)).rejects.toMatchObject({
    status: 410,
    sentence: expect.stringContaining("stays in the gradebook"),
  });
});

test("a rule that is taken back removes nothing more", async () => {
  const admin = await viewer("yuki.brandvold");
  await decideRetention(admin, { years: "none" });
  expect(await retentionRuleNow()).toMatchObject({ years: null });
  later(20 * YEAR);
  expect(await removeWhatIsOver()).toBe(false);
});
