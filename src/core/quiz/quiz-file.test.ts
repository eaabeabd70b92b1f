import { readdirSync, readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { maximumOf, planAttempt } from "../attempt/plan";
import { present } from "../kinds/marking";
import { shown } from "../numbers/exact";
import { openSeed } from "../numbers/seeded";
import { type QuizFile, quizMaximum, readQuizFile } from "./quiz-file";

const folder = "src/demo/quizzes";
const load = (file: string): unknown => JSON.parse(readFileSync(`${folder}/${file}`, "utf8"));
const files = readdirSync(folder).filter((file) => file.endsWith(".json"));

test.each(files)("the demo's %s is right", (file) => {
  const reading = readQuizFile(load(file));
  expect(reading.ok ? [] : reading.mistakes).toEqual([]);
});

test.each(files)("every attempt at %s is out of the same marks", (file) => {
  const reading = readQuizFile(load(file));
  if (!reading.ok) throw new Error("unreadable");
  for (const seed of ["a", "b", "c"]) {
    expect(maximumOf(planAttempt(reading.quiz, openSeed(seed))).equals(quizMaximum(reading.quiz))).toBe(true);
  }
});

test("every mistake is named with its place, and nothing is half-read", () => {
  const quiz = structuredClone(load("tides-and-clearances.json")) as Record<string, unknown> & QuizFile;
  const broken = {
    ...quiz,
    colour: "blue",
    rules: { ...quiz.rules, counts: "worst", timeLimit: 0 },
    sections: [
      {
        questions: [
          {
            id: "a",
            kind: "one-of-several",
            text: "?",
            marks: "a third",
            options: [{ id: "a", text: "one" }],
          },
          { id: "a", kind: "riddle" },
          {
            id: "b",
            kind: "numeric",
            text: "?",
            marks: 2,
            parts: [{ id: "a", marks: 1, key: "1", tolerance: { rule: "absolute" } }],
          },
        ],
      },
    ],
  };
  const reading = readQuizFile(broken);
  if (reading.ok) throw new Error("it was taken");
  const said = reading.mistakes.map(({ path, message }) => `${path}: ${english(message)}`);
  for (const part of [
    "colour",
    "rules.counts",
    "rules.timeLimit",
    "sections[0].questions[0].marks",
    "sections[0].questions[0].options",
    "sections[0].questions[1].kind",
    "sections[0].questions[1].id",
    "sections[0].questions[2].parts[0].tolerance",
    "sections[0].questions[2]",
  ]) {
    expect(
      said.some((line) => line.includes(part)),
      `${part} in\n${said.join("\n")}`,
    ).toBe(true);
  }
});

test.each([null, [], "quiz", 7, {}, { format: "shizuka-quiz", version: 2 }])(
  "%j is not a quiz file",
  (value) => {
    const reading = readQuizFile(value);
    expect(reading.ok).toBe(false);
    expect(!reading.ok && reading.mistakes.length).toBeGreaterThan(0);
  },
);

test("a question may have a language of its own, and another one in which it is answered", () => {
  const file = load("names-of-bees.json") as { sections: { questions: Record<string, unknown>[] }[] };
  const [question] = file.sections[0]?.questions ?? [];
  if (!question) throw new Error("no question");
  question.language = "fr";
  const reading = readQuizFile(file);
  if (!reading.ok) throw new Error("unreadable");
  const read = reading.quiz.sections[0]?.questions[0];
  if (!read) throw new Error("no question");
  expect(present(read, openSeed("1"))).toMatchObject({ language: "fr", answerLanguage: "la" });
  question.answerLanguage = "Latin, of course";
  const faulty = readQuizFile(file);
  expect(!faulty.ok && faulty.mistakes.map(({ path }) => path)).toEqual([
    "sections[0].questions[0].answerLanguage",
  ]);
});

test("a draw takes different questions, the same for the same seed, each equally often", () => {
  const reading = readQuizFile(load("tides-and-clearances.json"));
  if (!reading.ok) throw new Error("unreadable");
  const questions = reading.quiz.sections
    .flatMap((section) => section.questions)
    .filter((each) => shown(each.marks) === "2");
  const quiz: QuizFile = { ...reading.quiz, sections: [{ draw: 2, questions }] };
  const counts = new Map<string, number>();
  const runs = 10_000;
  for (let i = 0; i < runs; i += 1) {
    const ids = planAttempt(quiz, openSeed(String(i))).map(({ question }) => question.id);
    expect(new Set(ids).size).toBe(2);
    for (const id of ids) counts.set(id, (counts.get(id) ?? 0) + 1);
  }
  expect(planAttempt(quiz, openSeed("7"))).toEqual(planAttempt(quiz, openSeed("7")));
  const expected = (2 * runs) / questions.length;
  const statistic = [...counts.values()].reduce(
    (total, count) => total + (count - expected) ** 2 / expected,
    0,
  );
  // 99.9 % of fair draws stay below 22.46 with 6 degrees of freedom, and there are at most that many here.
  expect(questions.length).toBeLessThanOrEqual(7);
  expect(statistic).toBeLessThan(22.46);
});
