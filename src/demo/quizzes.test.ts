import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { run } from "@/cli/shizuka";
import { marking } from "@/core/kinds/marking";
import type { QuizFile } from "@/core/quiz/quiz-file";

const QUIZZES = "src/demo/quizzes";
const ANSWERS = "src/demo/answers";
const names = readdirSync(QUIZZES)
  .filter((file) => file.endsWith(".json"))
  .map((file) => file.replace(/\.json$/, ""));

/** The command line, as somebody calls it who checks a quiz before class. */
function shizuka(...args: string[]): { code: number; output: string } {
  const lines: string[] = [];
  const code = run(
    args,
    (line) => lines.push(line),
    (line) => lines.push(line),
  );
  return { code, output: lines.join("\n") };
}

interface Tried {
  readonly questions: Readonly<
    Record<
      string,
      { readonly answers: readonly { readonly answer: unknown; readonly marks: number | string }[] }
    >
  >;
}

const quizOf = (name: string): QuizFile => JSON.parse(readFileSync(`${QUIZZES}/${name}.json`, "utf8"));
const questionsOf = (name: string) => quizOf(name).sections.flatMap(({ questions }) => questions);
const triedOf = (name: string): Tried => JSON.parse(readFileSync(`${ANSWERS}/${name}.json`, "utf8"));
const byRule = (name: string) =>
  questionsOf(name).filter(({ kind }) => !marking(kind).byHand && kind !== "declaration");

/** How many answers of good students are listed for a question: where only one thing can be picked, there is one. */
const LEAST_FULL: Readonly<Record<string, number>> = {
  numeric: 4,
  "short-text": 4,
  gaps: 4,
  "point-on-picture": 4,
};

describe.each(names)("%s", (name) => {
  test("is right, and nothing in it is worth another look: figures, signs, tolerances, options, feedback", () => {
    const { code, output } = shizuka("check", `${QUIZZES}/${name}.json`);
    expect(output.split("\n").slice(1)).toEqual([]);
    expect(code).toBe(0);
  });

  if (byRule(name).length === 0) return;

  test("what good students write earns full marks, and usual mistakes what they should", () => {
    const { code, output } = shizuka("try", `${QUIZZES}/${name}.json`, `${ANSWERS}/${name}.json`);
    expect(code, output).toBe(0);
  });

  test("each question that a rule marks is tried, with what good students write and with what is wrong", () => {
    const tried = triedOf(name);
    for (const question of byRule(name)) {
      const answers = tried.questions[question.id]?.answers ?? [];
      const full = answers.filter(({ marks }) => String(marks) === String(question.marks));
      expect(full.length, question.id).toBeGreaterThanOrEqual(LEAST_FULL[question.kind] ?? 1);
      expect(answers.length, question.id).toBeGreaterThan(full.length);
      if (question.kind === "one-of-several") {
        const picked = answers.map(({ answer }) => (answer as { pick: string }).pick);
        expect([...new Set(picked)].sort(), question.id).toEqual(question.options.map(({ id }) => id).sort());
      }
    }
  });

  test("every question has a worked answer, and what a person marks a rubric and a model", () => {
    for (const question of questionsOf(name)) {
      if (question.kind === "declaration") continue;
      expect(question.worked, question.id).toBeTruthy();
      if (!marking(question.kind).byHand) continue;
      expect(question, question.id).toMatchObject({ rubric: expect.anything(), model: expect.any(String) });
    }
  });
});

test("every usual mistake that is named is told to somebody who makes it, or never fits", () => {
  for (const name of names) {
    const parts = questionsOf(name).flatMap((each) => (each.kind === "numeric" ? each.parts : []));
    for (const part of parts)
      for (const { feedback } of part.mistakes ?? []) expect(feedback).toMatch(/^<p>.+<\/p>$/);
  }
});

test("the same is not asked twice", () => {
  const texts = names.flatMap((name) =>
    questionsOf(name)
      .filter(({ kind }) => kind !== "declaration")
      .map(
        ({ text, id }) =>
          [
            text
              .replace(/<[^>]*>/g, "")
              .trim()
              .toLowerCase(),
            `${name} ${id}`,
          ] as const,
      ),
  );
  const seen = new Map<string, string>();
  const twice = texts.flatMap(([text, where]) => {
    const before = seen.get(text);
    seen.set(text, where);
    return before ? [`${before} and ${where}: ${text}`] : [];
  });
  expect(twice).toEqual([]);
});

test("the right option stands in every place about as often, and is not the longest more often than by chance", () => {
  const picked = names.flatMap((name) =>
    questionsOf(name).flatMap((each) => (each.kind === "one-of-several" && !each.keepOrder ? [each] : [])),
  );
  const four = picked.filter(({ options }) => options.length === 4);
  const places = [0, 1, 2, 3].map((place) => four.filter(({ options }) => options[place]?.right).length);
  for (const count of places) expect(count / four.length).toBeGreaterThan(0.12);
  const longest = picked.filter(({ options }) => {
    const others = options.filter(({ right }) => !right).map(({ text }) => text.length);
    return (options.find(({ right }) => right)?.text.length ?? 0) > Math.max(...others);
  });
  expect(longest.length / picked.length).toBeLessThan(0.3);
});

test("what is read further exists: the plan of the course names the chapter and its title", () => {
  const plans = readFileSync("src/demo/write-plans.ts", "utf8");
  for (const name of names) {
    for (const { readMore, id } of questionsOf(name)) {
      if (!readMore) continue;
      const title = /“([^”]+)”/.exec(readMore)?.[1] ?? "?";
      expect(plans, `${name} ${id}`).toContain(title);
    }
  }
});
