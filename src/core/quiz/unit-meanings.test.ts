import { expect, test } from "vitest";
import { markQuestion, type Question, withMeanings } from "../kinds/marking";
import { openSeed } from "../numbers/seeded";
import { type QuizFile, quizWithMeanings, readQuizFile, splitFile } from "./quiz-file";

const leg = (change: object = {}) => ({
  id: "leg",
  kind: "numeric" as const,
  text: "How far?",
  marks: 1,
  parts: [
    { id: "a", marks: 1, key: "6.3", unit: "nm", tolerance: { rule: "absolute" as const, within: "0.05" } },
  ],
  ...change,
});
const quiz = (question: object, change: object = {}): QuizFile =>
  ({
    format: "shizuka-quiz",
    version: 1,
    title: "Legs",
    rules: {
      counts: "latest",
      order: "free",
      reveal: {
        total: "at-hand-in",
        marks: "at-hand-in",
        written: "at-hand-in",
        right: "never",
        worked: "never",
      },
    },
    sections: [{ questions: [question] }],
    ...change,
  }) as QuizFile;
const stateOf = (question: Question | undefined, text: string) =>
  question && markQuestion(question, openSeed("s"), { parts: { a: text } }).state;
const first = (file: { readonly sections: QuizFile["sections"] }) => file.sections[0]?.questions[0];

test("what a unit means is said by the question before the quiz, and by the quiz before the course", () => {
  const course = { nm: "nauticalmile", miles: "nauticalmile" };
  const bySchool = first(splitFile(quiz(leg()), course).content);
  expect(["6.3", "6.3 nm", "6.3 NM", "6.3 miles", "11.67 km"].map((text) => stateOf(bySchool, text))).toEqual(
    Array(5).fill("full"),
  );
  // The quiz has miles of its own: those on land.
  const byQuiz = first(splitFile(quiz(leg(), { unitMeanings: { miles: "mile" } }), course).content);
  expect(stateOf(byQuiz, "6.3 miles")).toBe("none");
  expect(stateOf(byQuiz, "6.3 nm")).toBe("full");
  const byQuestion = first(
    splitFile(
      quiz(leg({ unitMeanings: { miles: "nauticalmile" } }), { unitMeanings: { miles: "mile" } }),
      course,
    ).content,
  );
  expect(stateOf(byQuestion, "6.3 miles")).toBe("full");
});

test("without a word of anyone nm is a nanometre", () => {
  expect(stateOf(first(quizWithMeanings(quiz(leg()))), "6.3 NM")).toBe("none");
});

test("a version keeps what was meant when it was made, and nothing of the quiz's own field is left in it", () => {
  const { content } = splitFile(quiz(leg(), { unitMeanings: { nm: "nauticalmile" } }));
  expect(content).not.toHaveProperty("unitMeanings");
  expect(first(content)).toMatchObject({ unitMeanings: { nm: "nauticalmile" } });
});

test("bearings are read with what stands behind them, in any spacing", () => {
  const course: Question = {
    ...leg({
      parts: [{ id: "a", marks: 1, key: "73", unit: "°", tolerance: { rule: "absolute", within: "0.5" } }],
    }),
  } as Question;
  const told = withMeanings(course, { "° T": "°", "degrees true": "°" });
  for (const text of ["073", "073°", "73° T", "073°T", "073 ° (T)", "73 degrees", "73 Degrees True"])
    expect([text, stateOf(told, text)]).toEqual([text, "full"]);
});

test("meanings that name no unit are refused", () => {
  expect(readQuizFile(quiz(leg(), { unitMeanings: { nm: "nauticalleague" } })).ok).toBe(false);
  expect(readQuizFile(quiz(leg(), { unitMeanings: { nm: "nauticalmile" } })).ok).toBe(true);
});
