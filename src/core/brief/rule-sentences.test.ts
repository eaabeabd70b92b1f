import { expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { NO_ALLOWANCE } from "../attempt/deadline";
import type { QuizRules } from "../quiz/rules";
import { isStrong } from "./phrases";
import { differingRules, type RuleTerms, ruleSentences } from "./rule-sentences";

const rules: QuizRules = {
  timeLimit: 20,
  attempts: 2,
  counts: "best",
  order: "free",
  reveal: {
    total: "at-hand-in",
    marks: "at-hand-in",
    written: "at-hand-in",
    right: "after-closing",
    worked: "after-closing",
  },
};
const terms: RuleTerms = {
  rules,
  window: { opens: null, due: null, closes: Date.parse("2026-11-25T23:59:00Z") },
  allowance: NO_ALLOWANCE,
  used: 0,
  questions: 10,
  drawn: false,
  maximum: "30",
  zone: "Europe/London",
};
const said = (change: Partial<RuleTerms> = {}) =>
  Object.fromEntries(
    ruleSentences({ ...terms, ...change }).map(({ name, text }) => [
      english(name),
      text.map((phrase) => english(isStrong(phrase) ? phrase.strong : phrase)).join(""),
    ]),
  );

test("the sentences come from the settings", () => {
  expect(said()).toMatchObject({
    Time: "20 minutes, from the moment you start. It runs on if you leave, and at the end hands in what you have written. Closing ends it too, if that comes first.",
    Pace: "About 2 min for each question.",
    "Time warnings": "You are told once with 10:00, 5:00, 2:00 and 0:20 left.",
    Attempts: "Two attempts, none used yet. The best one counts.",
    Window: "No due time. Closes Wed 25 Nov, 23:59.",
    Questions: "10, worth 30 marks.",
    Order: "Free. You can go back to any question until you hand in.",
    Pages: "One question at a time.",
    Checking: "Answers are not checked during the attempt.",
    "Hand-in": "Final. What is handed in can no longer be changed.",
    "At the desk":
      "No calculator and no reference sheet. A ribbon can be laid at a question, to come back to it. The browser can read questions aloud.",
    Marking: "By rule, as soon as you hand in.",
    Afterwards:
      "Your marks as soon as you hand in. Right answers and worked answers after Wed 25 Nov, 23:59. ",
  });
});

test("absent rules are said too", () => {
  const { timeLimit: _, attempts: __, ...bare } = rules;
  const window = { opens: null, due: null, closes: null };
  expect(said({ rules: bare, window })).toMatchObject({
    Time: "No time limit. What you write is kept until you hand in.",
    Attempts: "As many attempts as you like, none used yet. The best one counts.",
    Window: "No due time and no closing.",
    Leaving: "You may leave and come back; every answer is kept. The record of your attempt says when.",
    Material: "Your instructor has not said what may be used; ask if you are unsure.",
  });
});

test("an allowance is said as what holds for this student", () => {
  const allowance = { ...NO_ALLOWANCE, factor: 1.25, extraMinutes: 5, extraAttempts: 1 };
  expect(said({ allowance, used: 1 })).toMatchObject({
    Time: expect.stringMatching(/^30 minutes for you, from the moment you start; for others 20 minutes\./),
    Attempts: "Three attempts, one of them extra for you, one used. The best one counts.",
    Window: "No due time. Closes Wed 25 Nov, 23:59.",
  });
  const own = { ...allowance, closes: Date.parse("2026-11-26T12:00:00Z") };
  expect(said({ allowance: own, window: { opens: null, due: null, closes: own.closes } }).Window).toEqual(
    "No due time. Closes Thu 26 Nov, 12:00. These times are your own.",
  );
});

test("every rule at the desk is said before it bites", () => {
  const strict: QuizRules = {
    ...rules,
    order: "one-way",
    paging: "section",
    answerBeforeMovingOn: true,
    tellAtOnce: true,
    tries: { most: 3, cost: "1/4" },
    takeBack: true,
    calculator: "scientific",
    waitBetween: 90,
    lateCostPerDay: 10,
    closingCutsClock: false,
    timeWarnings: [1],
    ribbon: false,
    readAloud: false,
    practiseMissed: true,
  };
  const window = {
    opens: null,
    due: Date.parse("2026-11-25T12:00:00Z"),
    closes: Date.parse("2026-11-26T12:00:00Z"),
  };
  const first = { title: "Part one", atLeast: "60" };
  expect(said({ rules: strict, window, first, reference: true, byHand: 2 })).toMatchObject({
    Attempts: "Two attempts, none used yet. The best one counts. Between two of them 1 h 30 min must pass.",
    Window:
      "Due Wed 25 Nov, 12:00. Late work is taken until Thu 26 Nov, 12:00. Each day begun after that costs 10 % of the maximum (3 marks).",
    First: "Before this one: Part one, with at least 60 %.",
    Pages: "A section at a time.",
    Order:
      "One way. A page is closed once you leave it; the desk says so before. A page has to be answered before the next one opens. Once left, a question says whether it was right, and is closed.",
    Checking:
      "3 tries at each part: you may check an answer, and each wrong try costs 1/4 of that part’s marks. What was right is closed as right; after the last try a part is closed and worth nothing.",
    "Hand-in": "Can be taken back before it is due, while your time runs.",
    "At the desk":
      "A scientific calculator and a reference sheet beside the questions. Questions cannot be marked with a ribbon. Questions are not read aloud.",
    Time: expect.stringMatching(/ Whoever starts before closing has all of it\.$/),
    "Time warnings": "You are told once with 1:00 left.",
    Marking:
      "Two of the questions by your instructor, the others by rule. Until then your mark is known only in part.",
    Afterwards: expect.stringMatching(/What you missed may then be practised, outside the gradebook\.$/),
  });
  expect(said({ byHand: 10 }).Marking).toEqual("By your instructor. Until then your mark is not known.");
  expect(said({ rules: { ...rules, timeWarnings: [] } })["Time warnings"]).toEqual(
    "The time left is shown, and not said.",
  );
  expect(
    said({ rules: { ...rules, paging: "all" }, first: { title: "Part one", atLeast: null } }),
  ).toMatchObject({
    First: "Before this one: Part one handed in.",
    Pages: "All questions on one page.",
  });
});

test("what is other than in the last quiz is named, and only that", () => {
  const last = (change: Partial<QuizRules>) => differingRules(terms, { rules: { ...rules, ...change } });
  expect(last({})).toEqual([]);
  expect(last({ timeLimit: 30 })).toEqual(["Time"]);
  expect(last({ order: "one-way", takeBack: true })).toEqual(["Order", "Hand-in"]);
  expect(last({ attempts: 1, calculator: "plain" })).toEqual(["Attempts"]);
  // How many attempts are used, and when it closes, is not a rule of the quiz.
  expect(
    differingRules({ ...terms, used: 1, window: { opens: null, due: null, closes: null } }, { rules }),
  ).toEqual([]);
});
