import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { say } from "@/words/t";
import { fieldsOf, mapFields } from "../kinds/fields";
import { marking, markQuestion, type Question } from "../kinds/marking";
import { openSeed } from "../numbers/seeded";
import { type QuizFile, readQuizFile } from "../quiz/quiz-file";
import { namedByPlace } from "./names";
import { quizOfPlain, readPlain, writtenQuiz } from "./plain-form";
import { asLines, asRich } from "./plain-text";
import { withFigures, writtenQuestion } from "./write-question";

const folder = "src/demo/quizzes";
const files = readdirSync(folder).filter((file) => file.endsWith(".json"));
const load = (file: string) => JSON.parse(readFileSync(`${folder}/${file}`, "utf8")) as QuizFile;

/** Names by place, as the plain form gives them. */
function renamed(quiz: QuizFile): QuizFile {
  let nth = 0;
  return {
    ...quiz,
    sections: quiz.sections.map((section) => ({
      ...section,
      questions: section.questions.map((question) => {
        nth += 1;
        return { ...namedByPlace(question), id: `q${nth}` };
      }),
    })),
  };
}

describe("a quiz as text", () => {
  test.each(files)("%s is the same again when it is read", (file) => {
    const reading = readPlain(writtenQuiz(load(file)));
    expect(reading.mistakes).toEqual([]);
    expect(withFigures(quizOfPlain(reading))).toEqual(withFigures(renamed(load(file))));
    expect(readQuizFile(quizOfPlain(reading)).ok).toBe(true);
  });

  test("most questions have words of their own in it, and need no JSON", () => {
    const all = files.flatMap((file) => load(file).sections.flatMap(({ questions }) => questions));
    const plain = all.filter((question) => !writtenQuestion(question).startsWith("json:"));
    expect(plain.length / all.length).toBeGreaterThan(0.75);
  });

  test("whatever stands in its texts, a question is the same again", () => {
    const all = files.flatMap((file) => load(file).sections.flatMap(({ questions }) => questions));
    const awkward = fc.oneof(
      fc.string({ maxLength: 30 }),
      fc.constantFrom(
        "marks: 2",
        "\\ a backslash",
        "first\nmraks: 2",
        "a >> b",
        "a = b",
        "one | two",
        " spaces around ",
        "two\nlines",
        "an empty\n\nline",
        "<p>one</p><p>two</p>",
        "2<sup>3</sup> &amp; more",
        "&lt;p&gt;",
        "x < 5 > y & z",
        "",
        "\t",
        "json: {",
        "\\(a_{1}\\)",
        "[[one]]",
      ),
    );
    fc.assert(
      fc.property(fc.nat(all.length - 1), fc.infiniteStream(awkward), (nth, texts) => {
        const named = namedByPlace(all[nth] as Question);
        const question = mapFields(named, marking(named.kind).fields, (text, use) =>
          use === "picture" ? text : (texts.next().value ?? text),
        ) as Question;
        const reading = readPlain(`${writtenQuestion(question)}\n\nAnd one more.\nanswer: true`);
        expect(reading.questions).toBe(2);
        expect(withFigures(reading.sections[0]?.questions[0])).toEqual(
          withFigures({ ...question, id: "q1" }),
        );
      }),
      { numRuns: 600 },
    );
  });
});

test("rich text and its lines are each other's way back", () => {
  fc.assert(
    fc.property(
      fc.array(fc.string({ minLength: 1, maxLength: 20 }), { minLength: 1, maxLength: 4 }),
      (lines) => {
        const rich = asRich(lines.flatMap((line) => line.split("\n")));
        expect(asRich(asLines(rich))).toBe(rich);
      },
    ),
  );
});

const TWENTY = `quiz: Tides

section: Heights
about: Alder Quay, 14 May.

Spring tides happen near
right: new and full moon >> Yes: sun and moon pull in one line.
wrong: the quarters
wrong: the equinox
wrong last: none of these
marks: 2

Which two run with the ebb?
right: the stream off the bar
right: the stream in the gut
wrong: the stream in the dock

It floods twice a day here.
answer: true
said: Look at the table again.

What is the falling tide called?
accept: ebb
accept 1/2: ebb tide >> One word was asked for.
compare: typing mistakes

The [[first]] comes before the [[second]].
gap first: ebb | the ebb
choose second: flood | slack water

section: Numbers
draw: 1

High water is {hw} m, low water {lw} m.
value hw: 4.2 to 5.4 by 0.2
value lw: 0.4; 0.6; 0.8
number a: hw - lw
part: Range
within: 3 figures
unit: m, printed
marks: 2
number b: hw - 3/12*a
part: Two hours after
within: 1 %
unit: m
marks: 2
mistake 1/2: hw - a >> That is low water.
`;

describe("what is written quickly", () => {
  const reading = readPlain(TWENTY);
  const all = reading.sections.flatMap(({ questions }) => questions);

  test("is read whole, with sections and draws", () => {
    expect(reading.mistakes).toEqual([]);
    expect(reading.head).toEqual({ title: "Tides" });
    expect(reading.sections.map(({ title, draw, stimulus }) => [title, draw, stimulus?.text])).toEqual([
      ["Heights", undefined, "Alder Quay, 14 May."],
      ["Numbers", 1, undefined],
    ]);
    expect(all.map(({ kind, marks }) => [kind, marks])).toEqual([
      ["one-of-several", 2],
      ["several-of-several", 1],
      ["true-or-false", 1],
      ["short-text", 1],
      ["gaps", 1],
      ["numeric", 4],
    ]);
  });

  test("is marked as it says", () => {
    const seed = openSeed("plain");
    const marks = (nth: number, answer: object) =>
      markQuestion(all[nth] as Question, seed, answer as Parameters<typeof markQuestion>[2]).marks;
    expect(marks(2, { value: true })).toBe("1");
    expect(marks(3, { text: "ebb tide" })).toBe("1/2");
    expect(marks(3, { text: "ebbb" })).toBe("0");
    expect(marks(4, { gaps: { first: "the ebb" } })).toBe("1/2");
    expect(all[0]).toMatchObject({ options: [{ right: true }, {}, {}, { last: true }] });
    expect(fieldsOf(all[0], marking("one-of-several").fields, "rich")).toContain(
      "Yes: sun and moon pull in one line.",
    );
  });
});

describe("what is wrong is told by its line", () => {
  const told = (text: string) =>
    readPlain(text).mistakes.map(({ line, words }) => [line, say(words)] as const);

  test.each([
    ["Which?\nright: a\nwrong: b\nmarks: many", 4, "number"],
    ["Which?\nrihgt: a\nwrong: b", 2, "Is “right:” meant?"],
    ["Which?\nright: a\nwrong:", 3, "what the option says"],
    ["Which?\nwrong: a\nwrong: b", 1, "right"],
    ["Which?", 1, "Say below the question what is right"],
    ["Which?\nright: a\nand more of it", 3, "begins with no word"],
    ["How long?\nnumber: h +\nwithin: 0.1", 1, "formula"],
    ["How long?\nnumber: 4\nwithin: roughly", 3, "After “within:” stands"],
    ["How long?\nwithin: 1 %\nnumber: 4", 2, "stands below the “number:”"],
    ["Pair them.\npair: N = north\npair: E: east\npair: S = south", 3, "A pair has"],
    ["It ebbs.\nanswer: perhaps", 2, "true, false"],
    ["It ebbs.\nanswer: true\naccept: ebb", 3, "does not go with"],
    ["It ebbs.\nanswer: true\nanswer: false", 3, "only once"],
    ["Write.\nessay: a lot", 2, "how many"],
    ["Bring it.\nfiles: scroll", 2, "After “files:” stands one of"],
    ["section: One\ndraw: 3\n\nIt ebbs.\nanswer: true", 1, ""],
    ["section: One", 1, "no question"],
    ["json: {", 1, "in braces"],
    ["It ebbs.\nanswer: true\n\nquiz: Late", 4, "above everything else"],
  ])("%j: line %i", (text, line, words) => {
    const found = told(text);
    expect(found.filter(([at, sentence]) => at === line && sentence.includes(words))).not.toEqual([]);
    // Nothing of it is told on a line that there is not.
    expect(found.every(([at]) => at >= 1 && at <= text.split("\n").length)).toBe(true);
  });

  test("the ninth question’s mistake is on its own line, and the others are read", () => {
    const good = "It ebbs.\nanswer: true";
    const text = [...Array(8).fill(good), "Which?\nright: a\nmarks: -1\nwrong: b", good].join("\n\n");
    expect(told(text).map(([line]) => line)).toEqual([27]);
    expect(readPlain(text).questions).toBe(10);
  });

  test("nothing that is pasted makes it fail, and nothing takes long", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            fc.string(),
            fc.constantFrom(
              ...TWENTY.split("\n"),
              "json: {}",
              'json: {"kind":"gaps"}',
              'json: {"kind":7}',
              "pair:",
              "value:",
              "number:",
              "unit: ,,",
            ),
          ),
          { maxLength: 30 },
        ),
        (lines) => {
          const reading = readPlain(lines.join("\n"));
          expect(reading.mistakes.every(({ words }) => typeof say(words) === "string")).toBe(true);
          // What is said to be right is right for the check of quiz files too.
          if (reading.mistakes.length === 0 && reading.questions > 0) {
            const file = { ...quizOfPlain(reading), title: "A title" };
            const read = readQuizFile(file);
            expect(read.ok ? [] : read.mistakes.filter(({ path }) => path.includes("questions["))).toEqual(
              [],
            );
          }
        },
      ),
      { numRuns: 500 },
    );
    const long = `${"x".repeat(200_000)}\n${"right: y\n".repeat(2_000)}`;
    const begun = performance.now();
    readPlain(long);
    expect(performance.now() - begun).toBeLessThan(3_000);
  });
});
