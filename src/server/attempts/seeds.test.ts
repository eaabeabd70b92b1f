import { randomBytes } from "node:crypto";
import { v7 } from "uuid";
import { expect, test } from "vitest";
import { planAttempt } from "@/core/attempt/plan";
import { present, type Question } from "@/core/kinds/marking";
import { type AttemptSeed, openSeed } from "@/core/numbers/seeded";
import type { QuizContent } from "@/core/quiz/quiz-file";
import { ownDatabase } from "../../../tests/support/database";
import { solveOrder, wordsOfOpenName } from "../../../tests/support/order-solver";

const sql = await ownDatabase();
const { currentNaming, seedOf } = await import("./seeds");

const LETTERS = ["a", "b", "c", "d"] as const;
const question: Question = {
  id: "which",
  kind: "one-of-several",
  text: "?",
  marks: 1,
  options: LETTERS.map((id) => ({ id, text: id, ...(id === "a" ? { right: true } : {}) })),
};

/** The names as a student gets them, in the order in which they are shown, and which letter each stands for. */
function shown(seed: AttemptSeed): { names: string[]; letters: string[] } {
  const presented = present(question, seed);
  if (!("options" in presented)) throw new Error("no options");
  return { names: presented.options.map(({ id }) => id), letters: presented.options.map(({ text }) => text) };
}

const secret = async () =>
  seedOf({ id: v7(), seed: randomBytes(16).toString("hex"), naming: await currentNaming() });

/** Whether the solver recovers the order of writing, in one direction or the other; it guesses where it finds nothing. */
function recovers(
  { names, letters }: ReturnType<typeof shown>,
  words: (name: string) => [number, number][],
): boolean {
  const order = solveOrder(names.map(words)) ?? [0, 1, 2, 3];
  const found = order.map((place) => letters[place]).join("");
  return found === "abcd" || found === "dcba";
}

test("from names of the open naming the order in which the options were written can be worked out", () => {
  for (let i = 0; i < 5; i += 1) {
    expect(recovers(shown(openSeed(randomBytes(16).toString("hex"))), wordsOfOpenName)).toBe(true);
  }
}, 120_000);

test("from names made with the server's key the same solver does no better than chance, over 200 questions", async () => {
  const words = (name: string): [number, number][] => {
    const bytes = Buffer.from(name.slice(1), "base64url");
    return [[bytes.readUInt32LE(0), bytes.readUInt32LE(4)]];
  };
  let found = 0;
  for (let i = 0; i < 200; i += 1) if (recovers(shown(await secret()), words)) found += 1;
  // Chance finds 2 of 24 orders, 17 of 200; 36 or more happen by chance once in 50,000 runs.
  expect(found).toBeLessThan(36);
}, 240_000);

test("the names of one attempt differ in every character from place to place, and from attempt to attempt", async () => {
  const [one, other] = [await secret(), await secret()];
  const names = ["x", "y"].flatMap((group) => LETTERS.map((id) => one.name(group, id)));
  expect(new Set([...names, ...LETTERS.map((id) => other.name("x", id))]).size).toBe(12);
  for (const name of names) expect(name).toMatch(/^o[\w-]{16}$/);
  expect(one.picture("left")).not.toContain("left");
});

test("the same attempt is drawn and named the same at every reading, whatever the process", async () => {
  const seeded = { id: v7(), seed: "fixed", naming: await currentNaming() };
  const quiz: QuizContent = {
    format: "shizuka-quiz",
    version: 1,
    title: "t",
    rules: { order: "free", shuffleQuestions: true },
    sections: [{ questions: LETTERS.map((id) => ({ ...question, id })) }],
  };
  const first = planAttempt(quiz, await seedOf(seeded)).map(({ question: each }) => each.id);
  const [row] = await sql`select secret from server_key where number = ${seeded.naming}`;
  expect(row?.secret.length).toBeGreaterThanOrEqual(32);
  expect(planAttempt(quiz, await seedOf({ ...seeded })).map(({ question: each }) => each.id)).toEqual(first);
});

test("every option comes first equally often", async () => {
  const counts = new Map<string, number>(LETTERS.map((id) => [id, 0]));
  for (let i = 0; i < 4_000; i += 1) {
    const [first = ""] = shown(await secret()).letters;
    counts.set(first, (counts.get(first) ?? 0) + 1);
  }
  const chi = [...counts.values()].reduce((total, count) => total + (count - 1_000) ** 2 / 1_000, 0);
  // 99.9 % of fair draws stay below 16.27 with 3 degrees of freedom.
  expect(chi).toBeLessThan(16.27);
});

test("the right options of the demo stand at all places, so that none is worth more than another", async () => {
  const rows = await sql`select content from quiz_version`;
  const places = rows.flatMap(({ content }) =>
    (content as QuizContent).sections.flatMap(({ questions }) =>
      questions.flatMap((each) =>
        each.kind === "one-of-several" ? [each.options.findIndex(({ right }) => right)] : [],
      ),
    ),
  );
  const first = places.filter((place) => place === 0).length;
  expect(places.length).toBeGreaterThan(30);
  expect(first / places.length).toBeLessThan(0.45);
  expect(new Set(places).size).toBeGreaterThanOrEqual(4);
});
