import { readFileSync } from "node:fs";
import { expect, test } from "vitest";
import { summaryOf } from "../kinds/answering";
import { rightAnswerTo } from "../kinds/marking";
import { markAttempt } from "../marking/mark-attempt";
import { openSeed } from "../numbers/seeded";
import type { QuizFile } from "../quiz/quiz-file";
import { planAttempt, presentAttempt } from "./plan";

const bees = JSON.parse(readFileSync("src/demo/quizzes/bees-on-one-page.json", "utf8")) as QuizFile;

test("what was picked among pictures is summed up by what the picture shows, never by its id", () => {
  const slot = planAttempt(bees, openSeed("s")).find(({ question }) => question.id === "which");
  if (!slot) throw new Error("no question with pictures");
  const presented = presentAttempt(bees, openSeed("s"))[slot.slot - 1];
  if (!presented) throw new Error("not presented");
  const right = rightAnswerTo(slot.question, openSeed("s"));
  expect(summaryOf(presented, right)).toEqual(
    "An insect from above: four wings, feelers that are long and bent like an elbow, small eyes at the sides of the head, short hairs on the chest",
  );
  const marked = markAttempt(bees, openSeed("s"), new Map([[slot.slot, { answer: right }]]));
  expect(marked.slots[slot.slot - 1]?.marked.parts).toMatchObject([
    {
      written:
        "An insect from above: four wings, feelers that are long and bent like an elbow, small eyes at the sides of the head, short hairs on the chest",
    },
  ]);
});

test("planning leaves the quiz as it is", () => {
  const before = structuredClone(bees);
  planAttempt(bees, openSeed("s"));
  expect(bees).toEqual(before);
});
