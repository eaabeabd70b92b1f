import { readFileSync } from "node:fs";
import { describe, expect, test } from "vitest";
import { summaryOf } from "../kinds/answering";
import { rightAnswerTo } from "../kinds/marking";
import { markAttempt } from "../marking/mark-attempt";
import { openSeed } from "../numbers/seeded";
import { type QuizFile, readQuizFile } from "../quiz/quiz-file";
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

describe("what stands beside the questions", () => {
  const choice = (id: string) => ({
    id,
    kind: "true-or-false" as const,
    text: id,
    marks: 1,
    right: true,
  });
  const quiz = {
    ...bees,
    pictures: [{ id: "map", alt: "A map", data: "data:image/png;base64,AAAA" }],
    recordings: [
      {
        id: "horn",
        kind: "sound",
        title: "Horn",
        transcript: "<p>A horn.</p>",
        data: "data:audio/wav;base64,AAAA",
      },
    ],
    sections: [
      {
        stimulus: { text: "<p>Read this.</p>", figure: "map" },
        draw: 2,
        questions: [choice("a"), choice("b"), choice("c")],
      },
      { questions: [{ ...choice("d"), recording: "horn" }, choice("e")] },
    ],
  } satisfies QuizFile;

  test("what a section is about goes with each of its questions, drawn or not, and with no other", () => {
    const presented = presentAttempt(quiz, openSeed("s"));
    expect(presented.map(({ stimulus }) => stimulus)).toEqual([
      { id: "0", text: "<p>Read this.</p>", figure: "map" },
      { id: "0", text: "<p>Read this.</p>", figure: "map" },
      undefined,
      undefined,
    ]);
  });

  test("a recording goes with its question, without its bytes", () => {
    const [, , heard, other] = presentAttempt(quiz, openSeed("s"));
    expect(heard?.recording).toEqual({
      id: "recording horn",
      kind: "sound",
      title: "Horn",
      transcript: "<p>A horn.</p>",
    });
    expect(other).not.toHaveProperty("recording");
  });

  test("a file that names what is not there is refused, with its place", () => {
    const faulty = {
      ...quiz,
      recordings: [{ ...quiz.recordings[0], kind: "film" }],
      sections: [
        { stimulus: { text: "<p>?</p>", figure: "sea" }, questions: [{ ...choice("a"), recording: "bell" }] },
      ],
    };
    const reading = readQuizFile(faulty);
    expect(reading.ok ? [] : reading.mistakes.map(({ path }) => path)).toEqual([
      "recordings[0]",
      "sections[0].stimulus.figure",
      "sections[0].questions[0].recording",
    ]);
    expect(readQuizFile(quiz)).toMatchObject({ ok: true });
  });
});
