import { expect, test } from "vitest";
import { say } from "@/words/t";
import type { Question } from "../kinds/marking";
import type { QuizContent } from "../quiz/quiz-file";
import { paperFeel } from "./paper-feel";
import { NEW_RULES } from "./pieces";

const words = (count: number): string => Array.from({ length: count }, (_, i) => `word${i}`).join(" ");

const one = (id: string, read = 20): Question => ({
  id,
  kind: "one-of-several",
  text: words(read),
  marks: 1,
  options: ["a", "b", "c", "d"].map((each) => ({
    id: each,
    text: words(6),
    feedback: words(90),
    right: each === "b",
  })),
});

const quiz = (sections: QuizContent["sections"]): QuizContent => ({
  format: "shizuka-quiz",
  version: 1,
  title: "Feel",
  rules: NEW_RULES,
  sections,
});

const twelve = quiz([{ questions: Array.from({ length: 12 }, (_, i) => one(`q${i}`)) }]);

test("what is read is the text and the options, and nothing that only comes afterwards", () => {
  expect(paperFeel(twelve, 12).words).toBe(12 * 44);
});

test("twelve questions in twelve minutes leave no time to look things up; in eight many do not finish; in forty there is much left", () => {
  expect(say(paperFeel(twelve, 12).warning ?? "")).toBe(
    "12 questions in 12 minutes: people who look things up will not finish.",
  );
  expect(say(paperFeel(twelve, 8).warning ?? "")).toContain("Many will not finish.");
  expect(paperFeel(twelve, 17).warning).toBeNull();
  expect(say(paperFeel(twelve, 40).warning ?? "")).toContain("there is time to look things up");
  expect(paperFeel(twelve, undefined)).toMatchObject({ warning: null, given: null, marksPerMinute: null });
});

test("of a section that is drawn from, a question counts as often as it will be drawn", () => {
  const drawn = quiz([{ draw: 3, questions: Array.from({ length: 12 }, (_, i) => one(`q${i}`)) }]);
  const whole = paperFeel(twelve, 12);
  const part = paperFeel(drawn, 12);
  expect(part.questions).toBe(3);
  expect(part.words).toBe(whole.words / 4);
  expect(part.expected).toBeCloseTo(whole.expected / 4);
  expect(part.marksPerMinute).toBe(3 / 12);
});

test("what past sittings took stands before what its kind is thought to take; marks are shared out by kind", () => {
  const essay: Question = {
    id: "e",
    kind: "essay",
    text: "Why?",
    marks: 6,
    words: { least: 200, most: 400 },
  };
  const mixed = quiz([{ questions: [one("q"), one("r"), essay] }]);
  const feel = paperFeel(mixed, 30, new Map([["e", 600_000]]));
  const without = paperFeel(mixed, 30);
  expect(feel.fromPast).toBe(1);
  // 300 words by 15 a minute are twenty minutes; it took ten.
  expect(without.expected - feel.expected).toBeGreaterThan(9.9 * 60_000);
  expect(feel.kinds).toEqual([
    { kind: "essay", questions: 1, share: 0.75 },
    { kind: "one-of-several", questions: 2, share: 0.25 },
  ]);
});

test("a question that is half written is counted as far as it goes", () => {
  const half = { id: "n", kind: "numeric", text: words(9), marks: 2, parts: [] } as unknown as Question;
  expect(paperFeel(quiz([{ questions: [half] }]), 5).words).toBe(9);
});
