import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { answering, KIND_NAMES, readAnswer } from "@/core/kinds/answering";
import { type FieldUses, mapFields } from "@/core/kinds/fields";
import { marking, markQuestion, present, type Question } from "@/core/kinds/marking";
import { openSeed } from "@/core/numbers/seeded";
import { type QuizFile, readQuizFile } from "@/core/quiz/quiz-file";
import { english } from "../../../tests/support/english";
import { drawnQuestion } from "../text/formulas";
import { cleanQuiz } from "./clean-quiz";

const seed = openSeed("s");
const reading = readQuizFile(JSON.parse(readFileSync("docs/examples/every-kind.json", "utf8")));
if (!reading.ok) throw new Error(JSON.stringify(reading.mistakes));
const example = reading.quiz;

const cleaned = (question: object): Question => {
  const file = { ...example, sections: [{ questions: [question] }] } as unknown as QuizFile;
  return cleanQuiz(file).sections[0]?.questions[0] as Question;
};
const marks = (question: Question, raw: unknown) => {
  const read = readAnswer(present(question, seed), raw);
  if (!read.ok) throw new Error(english(read.problem));
  return markQuestion(question, seed, read.answer);
};

describe("what is compared is plain, and what is read is rich", () => {
  test.each(["R&D", "x < 5", "a > b & c", "<b>", "&amp;"])(
    "the accepted answer %s matches what is written",
    (text) => {
      const short = cleaned({
        id: "s",
        kind: "short-text",
        text: "<p>Which?</p>",
        marks: 1,
        accepted: [{ text, feedback: "<p>Good <script>alert(1)</script>R&amp;D</p>" }],
      });
      const marked = marks(short, { text });
      expect(marked.marks).toEqual("1");
      expect(marked.parts[0]).toMatchObject({ written: text, right: text, feedback: "<p>Good R&amp;D</p>" });
      const gaps = cleaned({
        id: "g",
        kind: "gaps",
        text: "<p>It is [[a]].</p>",
        marks: 1,
        gaps: [{ id: "a", accepted: [{ text }] }],
      });
      expect(marks(gaps, { gaps: { a: text } }).marks).toEqual("1");
    },
  );

  test("an option, a prompt and an item with & or < say in one line what they say", () => {
    const options = [
      { id: "a", text: "R&D", right: true },
      { id: "b", text: "x &lt; 5" },
    ];
    const one = cleaned({ id: "o", kind: "one-of-several", text: "?", marks: 1, options });
    const presented = present(one, seed);
    const said = (wanted: string) =>
      ("options" in presented ? (presented.options ?? []) : [])
        .map(({ id }) => answering("one-of-several").summary(presented, { pick: id } as never))
        .includes(wanted);
    expect(said("R&D")).toBe(true);
    expect(said("x < 5")).toBe(true);
    const order = cleaned({
      id: "r",
      kind: "ordering",
      text: "?",
      marks: 1,
      credit: "exact",
      items: [
        { id: "a", text: "x < 5" },
        { id: "b", text: "R&D" },
      ],
    });
    expect(markQuestion(order, seed, null).parts[0]?.right).toEqual("1 x < 5, 2 R&D");
    const match = cleaned({
      id: "m",
      kind: "matching",
      text: "?",
      marks: 2,
      prompts: [
        { id: "a", text: "a < b", target: "x" },
        { id: "b", text: "c & d", target: "y" },
      ],
      targets: [
        { id: "x", text: "1 < 2" },
        { id: "y", text: "3 & 4" },
      ],
    });
    const labels = markQuestion(match, seed, null).parts.map(({ label, right }) => `${label}: ${right}`);
    expect(labels.sort()).toEqual(["a < b: 1 < 2", "c & d: 3 & 4"]);
  });

  test("a file's name with quotes and signs stays as its owner called it", () => {
    const question = example.sections
      .flatMap(({ questions }) => questions)
      .find(({ kind }) => kind === "upload");
    const name = `"R&D" <final>'s.pdf`;
    const answer = { files: [{ id: "7d0c1f0e-4f7e-4c0e-9c7b-0d6f0a3d2b11", name, size: 3 }], text: "" };
    const presented = question && present(question, seed);
    expect(presented && answering("upload").summary(presented, answer)).toBe(name);
  });

  test("nothing that runs survives in any rich field of any kind, and nothing plain is touched", () => {
    const poison = `<p onclick="x()">ok</p><script>alert(1)</script>`;
    for (const question of example.sections.flatMap(({ questions }) => questions)) {
      const { fields } = marking(question.kind);
      const poisoned = mapFields(question, fields, (text, use) =>
        use === "rich" ? `${poison}${text}` : use === "plain" ? `${text} & <i>` : text,
      );
      const after = cleaned(poisoned);
      mapFields(after, fields, (text, use) => {
        if (use === "rich") expect(text).not.toMatch(/script|onclick/);
        if (use === "plain") expect(text.endsWith(" & <i>")).toBe(true);
        return text;
      });
    }
  });
});

test("every kind declares its fields: no text of an example stays undeclared", () => {
  // The names, numbers and words of choice that no one reads as text.
  const dull =
    /^(id|kind|marks|credit|key|value|unit|unitRule|rule|shape|name|allows|target|points|list|weight|within|from|to|step|unitMeanings|unitMissingLoses|tooFewFiguresLoses|nm)$/;
  const undeclared = (value: unknown, uses: FieldUses | undefined, at: string): string[] =>
    Object.entries(value as object).flatMap(([field, held]) => {
      const use = uses?.[field];
      if (typeof held === "string") return use || dull.test(field) ? [] : [`${at}.${field}`];
      if (Array.isArray(held)) {
        const each = Array.isArray(use) ? (use[0] as FieldUses) : undefined;
        return held.flatMap((item) =>
          typeof item === "object" && item !== null ? undeclared(item, each, `${at}.${field}`) : [],
        );
      }
      if (typeof held === "object" && held !== null && !dull.test(field)) {
        return undeclared(held, use as FieldUses | undefined, `${at}.${field}`);
      }
      return [];
    });
  const questions = example.sections.flatMap((section) => section.questions);
  expect(new Set(questions.map(({ kind }) => kind)).size).toBe(KIND_NAMES.length);
  expect(questions.flatMap((each) => undeclared(each, marking(each.kind).fields, each.kind))).toEqual([]);
});

test("formulas are drawn where rich text and formulas are declared, and nowhere else", () => {
  const question = cleaned({
    id: "o",
    kind: "one-of-several",
    text: "<p>\\(x^2\\)</p>",
    marks: 1,
    options: [
      { id: "a", text: "", formula: "x^2", right: true },
      { id: "b", text: "\\(y\\)" },
    ],
  });
  const drawn = drawnQuestion(present(question, seed));
  expect(drawn.text).toContain("<math");
  const options = "options" in drawn ? (drawn.options ?? []) : [];
  expect(options.find(({ formula }) => formula)).toMatchObject({ drawn: expect.stringContaining("<math") });
  expect(options.find(({ text }) => text !== "")?.text).toContain("<math");
});

test("a formula that cannot be drawn is shown as it was written, however it fails", () => {
  const braces = `${"{".repeat(5_000)}x${"}".repeat(5_000)}`;
  const question = cleaned({
    id: "t",
    kind: "true-or-false",
    text: `<p>\\(${braces}\\)</p>`,
    marks: 1,
    right: true,
  });
  const drawn = drawnQuestion(present(question, seed)).text;
  expect(drawn).toContain("{{{{");
  expect(drawn).not.toContain("undefined");
});
