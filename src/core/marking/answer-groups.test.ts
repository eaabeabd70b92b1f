import { expect, test } from "vitest";
import type { Answer } from "../kinds/answering";
import { markQuestion, type Question } from "../kinds/marking";
import { openSeed } from "../numbers/seeded";
import { answerGroups } from "./answer-groups";

const word: Question = {
  id: "datum",
  kind: "short-text",
  text: "?",
  marks: 2,
  accepted: [{ text: "chart datum" }, { text: "datum", credit: "1/2" }],
};

const answersTo = (question: Question, answers: readonly (Answer | null)[]) =>
  answers.map((answer, i) => ({
    attemptId: `${i}`,
    slot: 1,
    marked: markQuestion(question, openSeed(`${i}`), answer),
  }));

test("answers that the rule takes as the same are together, most frequent first, empty ones last", () => {
  const groups = answerGroups(
    answersTo(word, [
      null,
      { text: "low water" },
      { text: "Chart Datum" },
      { text: "chart  datum" },
      { text: "datum" },
      { text: "chart datum" },
    ]),
  );
  expect(groups.map(({ credit, attempts, state }) => [state, credit, attempts.length])).toEqual([
    ["full", "1", 3],
    ["part", "1/2", 1],
    ["none", "0", 1],
    ["empty", "0", 1],
  ]);
});

test("the parts of a question are apart", () => {
  const tide: Question = {
    id: "tide",
    kind: "numeric",
    text: "?",
    marks: 2,
    parts: [
      { id: "a", marks: 1, key: 4, tolerance: { rule: "absolute", within: 0 } },
      { id: "b", marks: 1, key: "2*a", tolerance: { rule: "absolute", within: 0 } },
    ],
  };
  const groups = answerGroups(
    answersTo(tide, [
      { parts: { a: "4", b: "8" } },
      { parts: { a: "5", b: "10" } },
      { parts: { a: "5", b: "8" } },
    ]),
  );
  expect(
    groups.map(({ part, written, credit, attempts }) => [part, written[0], credit, attempts.length]),
  ).toEqual([
    [0, "5", "0", 2],
    [0, "4", "1", 1],
    [1, "8", "1", 2],
    // The same figure, and yet another group: it was carried forward.
    [1, "10", "1", 1],
  ]);
});
