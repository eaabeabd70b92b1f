import { describe, expect, test } from "vitest";
import { planAttempt } from "@/core/attempt/plan";
import type { QuizContent } from "@/core/quiz/quiz-file";
import { ownDatabase } from "../../../tests/support/database";
import { characters } from "./characters";
import { ESSAYS } from "./essays";

const sql = await ownDatabase();
const { seedOf } = await import("@/server/attempts/seeds");

/** What each first attempt at a quiz earned, by question. */
async function earnedAt(title: string): Promise<ReadonlyMap<string, ReadonlyMap<string, number>>> {
  const attempts = await sql<{ id: string; seed: string; naming: number; content: QuizContent }[]>`
    select a.id, a.seed, a.naming, v.content from attempt a join quiz q on q.id = a.quiz_id
    join quiz_version v on v.id = a.version_id
    where q.title = ${title} and a.number = 1 and a.handed_in_at is not null`;
  const all = new Map<string, Map<string, number>>();
  for (const attempt of attempts) {
    const marks = await sql<{ slot: number; marks: number; maximum: number }[]>`
      select distinct on (slot) slot, marks::float, maximum::float from mark
      where attempt_id = ${attempt.id} order by slot, added desc`;
    const plan = planAttempt(attempt.content, await seedOf(attempt));
    all.set(
      attempt.id,
      new Map(
        plan.flatMap(({ slot, question }) => {
          const mark = marks.find((each) => each.slot === slot);
          return mark && mark.maximum > 0 ? [[question.id, mark.marks / mark.maximum] as const] : [];
        }),
      ),
    );
  }
  return all;
}

const mean = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0) / values.length;

/** Pearson's correlation. */
function correlation(x: readonly number[], y: readonly number[]): number {
  const [mx, my] = [mean(x), mean(y)];
  const by = (values: readonly number[], middle: number) =>
    Math.sqrt(values.reduce((sum, each) => sum + (each - middle) ** 2, 0));
  const together = x.reduce((sum, each, i) => sum + (each - mx) * ((y[i] ?? 0) - my), 0);
  return together / (by(x, mx) * by(y, my));
}

/** Facility and discrimination of the questions that all had: what is drawn differs from one installation to the next. */
async function figuresOf(title: string) {
  const all = [...(await earnedAt(title)).values()];
  const ids = [...new Set(all.flatMap((each) => [...each.keys()]))];
  return ids.flatMap((id) => {
    const had = all.filter((each) => each.has(id));
    if (had.length < all.length) return [];
    const own = had.map((each) => each.get(id) ?? 0);
    const rest = had.map((each) =>
      mean([...each].filter(([other]) => other !== id).map(([, share]) => share)),
    );
    return [{ id, facility: mean(own), discrimination: correlation(own, rest) }];
  });
}

const figures = await figuresOf("Half-term paper");

describe("how the questions of the half-term paper behave", () => {
  const odd = ["p-lee", "t-press"];
  const usual = figures.filter(({ id }) => !odd.includes(id));
  const of = (id: string) => figures.find((each) => each.id === id);

  test("facility is sensible", () => {
    expect(figures.length).toBeGreaterThanOrEqual(20);
    const outside = usual.filter(({ facility }) => facility < 0.3 || facility > 0.9);
    expect(outside).toEqual([]);
  });

  test("discrimination is above 0.15 for most", () => {
    const low = usual.filter(({ discrimination }) => discrimination <= 0.15);
    expect(low.length).toBeLessThanOrEqual(2);
  });

  test("two misbehave on purpose: one misleads who knows most, and of the other a wrong option is taken most", async () => {
    expect(of("p-lee")?.discrimination).toBeLessThan(0.1);
    expect(of("t-press")?.facility).toBeLessThan(0.35);
  });
});

test("the class is one: some know much and some little, some are by the clock, some late, some leave questions empty", async () => {
  const totals = [...(await earnedAt("Half-term paper")).values()].map((each) => mean([...each.values()]));
  expect(totals.length).toBeGreaterThanOrEqual(20);
  expect(Math.min(...totals)).toBeLessThan(0.35);
  expect(Math.max(...totals)).toBeGreaterThan(0.85);
  const count = async (rows: Promise<readonly unknown[]>) => (await rows).length;
  expect(await count(sql`select 1 from attempt where handed_in_by = 'clock'`)).toBeGreaterThan(2);
  expect(
    await count(sql`select 1 from attempt a join quiz q on q.id = a.quiz_id where a.handed_in_at > q.due`),
  ).toBeGreaterThan(2);
  expect(await count(sql`select 1 from slip where answered < questions`)).toBeGreaterThan(20);
  expect(await count(sql`select 1 from answer_check`)).toBeGreaterThan(30);
  expect(await count(sql`select 1 from answer_log where revision > 1`)).toBeGreaterThan(30);
});

test("nobody has two attempts that overlap, nor one that ends after now or outside its window", async () => {
  const outside = await sql`select a.seed from attempt a join quiz q on q.id = a.quiz_id
    where a.started_at < q.opens or a.handed_in_at > coalesce(q.closes, 'infinity') or a.handed_in_at > now()`;
  expect(outside.map(({ seed }) => seed)).toEqual([]);
});

test("essays and pages wait, of many qualities, and no two in other words than the one that was copied", async () => {
  const waiting = await sql<{ title: string; n: number }[]>`select q.title, count(*)::int as n from attempt a
    join quiz q on q.id = a.quiz_id where a.awaited > 0 group by q.title`;
  expect(waiting.map(({ title }) => title)).toEqual(
    expect.arrayContaining([
      "Letters to a beekeeper",
      "Pages of the field notebook",
      "Sampling pollinators",
      "Two short essays on the meadow",
    ]),
  );
  const essays = await sql<{ text: string }[]>`select w.answer ->> 'rich' as text from answer w
    join attempt a on a.id = w.attempt_id join quiz q on q.id = a.quiz_id
    where q.title = 'Two short essays on the meadow' and w.slot = 1 and w.answer ->> 'rich' is not null`;
  expect(essays.length).toBeGreaterThanOrEqual(9);
  expect(new Set(essays.map(({ text }) => text)).size).toBe(essays.length);
  for (const texts of Object.values(ESSAYS)) expect(texts.length).toBeGreaterThanOrEqual(11);
  const types = await sql<{ type: string }[]>`select distinct type from upload`;
  expect(types.map(({ type }) => type).sort()).toEqual(["application/pdf", "image/png", "text/plain"]);
});

test("the forty are always the same", () => {
  expect(characters()).toEqual(characters());
  expect(characters()).toHaveLength(40);
});
