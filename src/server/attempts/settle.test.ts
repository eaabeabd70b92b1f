import { randomUUID } from "node:crypto";
import { expect, test } from "vitest";
import { ownDatabase } from "../../../tests/support/database";

const sql = await ownDatabase();
const { settle, sweep } = await import("./settle");

const [quiz] =
  await sql`select q.id, v.id as version from quiz q join quiz_version v on v.quiz_id = q.id where q.title = 'Lights at a glance'`;
const people =
  await sql`select e.person_id from enrolment e join course c on c.id = e.course_id where c.slug = 'nav-110' and e.role = 'student'`;

async function attemptEndedAgo(seconds: number, person: string): Promise<string> {
  const id = randomUUID();
  await sql`insert into attempt (id, quiz_id, version_id, person_id, number, seed, started_at, deadline, maximum)
    values (${id}, ${quiz?.id}, ${quiz?.version}, ${person}, 1, ${id}, now() - make_interval(secs => ${seconds + 60}), now() - make_interval(secs => ${seconds}), 3)`;
  return id;
}

const stateOf = async (id: string) =>
  (await sql`select handed_in_by, earned, handed_in_at = deadline as exact from attempt where id = ${id}`)[0];

test("two sweepers at once hand each attempt in once, and leave what is not due", async () => {
  const due = await Promise.all(people.slice(0, 12).map((row) => attemptEndedAgo(30, row.person_id)));
  const inGrace = await attemptEndedAgo(2, people[12]?.person_id);
  const counts = await Promise.all([sweep(50), sweep(50), sweep(50)]);
  expect(counts.reduce((a, b) => a + b)).toBe(12);
  for (const id of due)
    expect(await stateOf(id)).toMatchObject({ handed_in_by: "clock", exact: true, earned: "0.0000" });
  expect(await stateOf(inGrace)).toMatchObject({ handed_in_by: null });
  const [slips] = await sql`select count(*)::int as count from slip where attempt_id = any(${due})`;
  expect(slips?.count).toBe(12);
});

test("settling again, and from several sides, hands in once", async () => {
  const id = await attemptEndedAgo(10, people[13]?.person_id);
  const settled = await Promise.all([settle(id), settle(id), settle(id)]);
  expect(settled.filter(Boolean)).toHaveLength(1);
  expect(await settle(id)).toBe(false);
  const [marks] = await sql`select count(*)::int as count from mark where attempt_id = ${id}`;
  expect(marks?.count).toBe(3);
});
