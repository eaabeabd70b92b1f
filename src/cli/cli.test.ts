import { execFileSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Ajv from "ajv/dist/2020";
import addFormats from "ajv-formats";
import { describe, expect, test } from "vitest";
import { asFile } from "@/core/quiz/as-file";
import { quizFileSchema } from "@/core/quiz/json-schema";
import { readQuizFile } from "@/core/quiz/quiz-file";
import { run } from "./shizuka";

function shizuka(...args: string[]): { code: number; output: string } {
  const lines: string[] = [];
  const code = run(
    args,
    (text) => lines.push(text),
    (text) => lines.push(text),
  );
  return { code, output: lines.join("\n") };
}

/** A command line as a shell would split it. */
const split = (line: string) =>
  [...line.matchAll(/"([^"]*)"|(\S+)/g)].map(([, quoted, bare]) => quoted ?? bare ?? "");

describe("every example of the documentation", () => {
  const page = readFileSync("docs/command-line.md", "utf8");
  const examples = [...page.matchAll(/```\n\$ npx shizuka (.*)\n([\s\S]*?)\n```/g)].map(
    ([, command, output]) => [command ?? "", output ?? ""],
  );
  test("there are some", () => expect(examples.length).toBeGreaterThanOrEqual(8));
  test.each(examples)("shizuka %s", (command, expected) => {
    const { output } = shizuka(...split(command));
    let at = 0;
    // "..." stands for lines that are left out.
    for (const chunk of expected
      .split(/^\.\.\.$/m)
      .map((each) => each.trim())
      .filter(Boolean)) {
      const found = output.indexOf(chunk, at);
      expect(found, `${chunk}\nis not in\n${output.slice(at, at + 2_000)}`).toBeGreaterThanOrEqual(at);
      at = found + chunk.length;
    }
    if (!expected.includes("...")) expect(output).toEqual(expected);
  });
});

test("the exit code tells right from wrong from misunderstood", () => {
  expect(shizuka("check", "docs/examples/every-kind.json").code).toBe(0);
  expect(shizuka("check", "docs/examples/faulty.json").code).toBe(1);
  expect(shizuka("check")).toEqual({ code: 2, output: "Name a quiz file." });
  expect(shizuka("check", "no/such/file.json")).toEqual({
    code: 2,
    output: "no/such/file.json cannot be read.",
  });
  expect(shizuka("check", "README.md").output).toMatch(/^README.md is not JSON/);
  expect(shizuka("draw", "docs/examples/faulty.json").output).toContain("rules.counts: must be one of");
  expect(shizuka("deadline", "--limit", "20").output).toEqual("Say when it starts: --start 10:00");
  expect(shizuka("deadline", "--start", "10:00", "--limit", "many").output).toContain(
    "--limit must be a number",
  );
  expect(shizuka("deadline", "--start", "noon").output).toContain("must be a time such as 10:00");
  expect(shizuka("deadline", "--start").output).toEqual("--start needs a value.");
  expect(shizuka("gradebook", "docs/examples/course.json", "--need", "Exam").output).toEqual(
    "The course has no item “Exam”.",
  );
  expect(shizuka("draw", "docs/examples/every-kind.json", "--sed", "7")).toEqual({
    code: 2,
    output: "There is no option --sed.",
  });
  expect(shizuka("sing").code).toBe(2);
  expect(shizuka("help").code).toBe(0);
});

test("the deadlines of the rules", () => {
  const ends = (...args: string[]) =>
    JSON.parse(shizuka("deadline", "--closes", "12:00", ...args).output).deadline;
  expect(ends("--start", "10:00", "--limit", "20", "--factor", "1.5")).toEqual("10:30:00");
  expect(ends("--start", "11:30", "--limit", "60")).toEqual("12:00:00");
  expect(ends("--start", "9:05")).toEqual("12:00:00");
  expect(JSON.parse(shizuka("deadline", "--start", "2026-11-25T10:00:00Z", "--limit", "8").output)).toEqual({
    deadline: "2026-11-25T10:08:00.000Z",
    timeWarnings: ["4:00", "2:00", "0:20"],
  });
});

test("an answer that does not fit is named, and the command says that something is wrong", () => {
  const { code, output } = shizuka("mark", "docs/examples/every-kind.json", "docs/examples/answers.json");
  expect(code).toBe(0);
  expect(JSON.parse(output).total).toMatchObject({
    earned: { shown: "5.5", exact: "11/2" },
    range: "5.5 to 11.5",
  });
});

describe("the JSON Schema", () => {
  const ajv = new Ajv({ allErrors: true, strict: false });
  addFormats(ajv);
  const validate = ajv.compile(quizFileSchema());
  const files = [
    ...readdirSync("src/demo/quizzes")
      .filter((file) => file.endsWith(".json"))
      .map((file) => `src/demo/quizzes/${file}`),
    "docs/examples/every-kind.json",
  ];

  test("is the one that is kept in the documentation", () => {
    expect(JSON.parse(readFileSync("docs/quiz-file.schema.json", "utf8"))).toEqual(
      JSON.parse(JSON.stringify(quizFileSchema())),
    );
  });

  test.each(files)("takes %s", (file) => {
    validate(JSON.parse(readFileSync(file, "utf8")));
    expect(validate.errors ?? []).toEqual([]);
  });

  test.each(files)("takes %s as a file of version 2, which is the same quiz", (file) => {
    const first = readQuizFile(JSON.parse(readFileSync(file, "utf8")));
    if (!first.ok) throw new Error("unreadable");
    const two = JSON.parse(JSON.stringify(asFile(first.quiz)));
    validate(two);
    expect(validate.errors ?? []).toEqual([]);
    expect(readQuizFile(two)).toEqual(first);
    // What stands in the wrong half is told where it stands.
    const { settings, rules } = two;
    const mixed = { ...two, settings: { ...settings, order: rules.order }, rules: { ...rules, attempts: 1 } };
    const reading = readQuizFile(mixed);
    expect(reading.ok ? [] : reading.mistakes.map(({ path }) => path)).toEqual([
      "settings.order",
      "rules.attempts",
    ]);
    const { attempts: _, ...without } = settings;
    const lacking = readQuizFile({ ...two, settings: { ...without, counts: "worst" } });
    expect(lacking.ok ? [] : lacking.mistakes.map(({ path }) => path)).toContain("settings.counts");
    expect(validate(mixed)).toBe(false);
  });

  test("refuses what is not a quiz", () => {
    expect(validate(JSON.parse(readFileSync("docs/examples/faulty.json", "utf8")))).toBe(false);
    expect(validate({})).toBe(false);
  });

  test.each(files)("writing then reading %s gives the same quiz", (file) => {
    const first = readQuizFile(JSON.parse(readFileSync(file, "utf8")));
    if (!first.ok) throw new Error("unreadable");
    const again = readQuizFile(JSON.parse(JSON.stringify(first.quiz)));
    expect(again).toEqual(first);
  });
});

test.each([
  ["en", "docs/examples/every-kind.json is right: “Every kind of question”, 12 questions, 34 marks."],
  ["ja", "docs/examples/every-kind.json に誤りはありません：「Every kind of question」、12問、34点。"],
  ["xx", "docs/examples/every-kind.json is right: “Every kind of question”, 12 questions, 34 marks."],
])(
  "as it is installed it speaks %s",
  (language, words) => {
    const output = execFileSync("node", ["tools/shizuka.mjs", "check", "docs/examples/every-kind.json"], {
      env: { ...process.env, SHIZUKA_LANGUAGE: language },
      encoding: "utf8",
    });
    expect(output.trim()).toBe(words);
  },
  60_000,
);

describe("a table of marks", () => {
  const table = (text: string, ...maxima: string[]) => {
    const path = join(mkdtempSync(join(tmpdir(), "shizuka-")), "marks.csv");
    writeFileSync(path, text);
    return shizuka("figures", path, ...maxima);
  };

  test("with semicolons, decimal commas and a byte order mark, and without names, is read", () => {
    const { code, output } = table("\uFEFFa;b\r\n1,5;0\r\n2;1\r\n0;\r\n", "--maxima", "2,1");
    expect(code).toBe(0);
    expect(JSON.parse(output)).toMatchObject({
      attempts: 3,
      questions: [
        { question: "a", attempts: 3, facility: 0.5833 },
        { question: "b", attempts: 2, facility: 0.5 },
      ],
    });
  });

  test.each([
    ["a,b\n1,x\n1,2,3\n", ["2,2"], "line 2, b: “x” is no number"],
    ["a,b\n1,x\n1,2,3\n", ["2,2"], "line 3: has 3 marks, and there are 2 questions"],
    ["a,b\n1,2\n", ["2"], "Say what each of the 2 questions is worth"],
    ["a,b\n1,2\n", ["2,none"], "Say what each of the 2 questions is worth"],
    ["a,b\n1,2\n", [], "Say what each of the 2 questions is worth"],
    ["", ["1"], "has no table"],
  ])("%j with maxima %j is refused with every mistake", (text, maxima, sentence) => {
    const { code, output } = table(text, ...maxima.flatMap((each) => ["--maxima", each]));
    expect(code).toBe(2);
    expect(output).toContain(sentence);
  });
});
