import { expect, test } from "vitest";
import type { QuizRules } from "./rules";
import { toldOtherwise } from "./told-numbers";

const rules: QuizRules = {
  timeLimit: 20,
  attempts: 2,
  counts: "best",
  order: "free",
  reveal: { total: "never", marks: "never", written: "never", right: "never", worked: "never" },
};
const remarks = (text: string, change: Partial<QuizRules> = {}) =>
  toldOtherwise(text, { rules: { ...rules, ...change }, questions: 10, maximum: 30 });

test("numbers that agree with the settings are not remarked on", () => {
  expect(remarks("<p>Ten questions in 20 minutes, two attempts, 30 marks.</p>")).toEqual([]);
  expect(remarks("<p>Read chapter 4 and page 30 first.</p>")).toEqual([]);
});

test("a number that the settings do not have is, each once and with what is set", () => {
  expect(remarks("You have 30 minutes. I repeat: 30 minutes.")).toEqual([
    "Your text says “30 minutes”; the time limit is 20 minutes.",
  ]);
  expect(remarks("One attempt, twelve questions, 25 marks.")).toEqual([
    "Your text says “One attempt”; 2 attempts are allowed.",
    "Your text says “twelve questions”; there are 10 questions.",
    "Your text says “25 marks”; the quiz is out of 30 marks.",
  ]);
});

test("hours are read as the limit too, and a limit that is not set is said", () => {
  expect(remarks("It takes 1 hour.", { timeLimit: 60 })).toEqual([]);
  expect(remarks("It takes 2 hours.", { timeLimit: 60 })).toEqual([
    "Your text says “2 hours”; the time limit is 60 minutes.",
  ]);
  const { timeLimit: _, attempts: __, ...open } = rules;
  const said = toldOtherwise("20 minutes, 2 attempts", { rules: open, questions: 1, maximum: 1 });
  expect(said).toEqual([
    "Your text says “20 minutes”; there is no time limit.",
    "Your text says “2 attempts”; attempts are not limited.",
  ]);
});
