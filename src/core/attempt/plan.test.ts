import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { summaryOf } from "../kinds/answering";
import { rightAnswerTo } from "../kinds/marking";
import { markAttempt } from "../marking/mark-attempt";
import { type AttemptSeed, openSeed } from "../numbers/seeded";
import { type QuizContent, type QuizFile, readQuizFile } from "../quiz/quiz-file";
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

describe("no question twice within some attempts", () => {
  const pool = (count: number) =>
    Array.from({ length: count }, (_, i) => ({
      id: `q${i}`,
      kind: "true-or-false" as const,
      text: `Statement ${i}`,
      marks: 1,
      right: true,
    }));
  const series = (person: string, turn: number): AttemptSeed => {
    const all = openSeed(`series of ${person}`);
    return { ...openSeed(`${person} ${turn}`), series: { turn, chance: all.chance } };
  };
  const asked = (count: number, draw: number, seed: AttemptSeed) =>
    planAttempt(
      {
        format: "shizuka-quiz",
        version: 1,
        title: "Pool",
        rules: { order: "free" },
        sections: [{ draw, apart: 3, questions: pool(count) }],
      } as unknown as QuizContent,
      seed,
    ).map(({ question }) => question.id);

  test("holds for as many attempts in a row as there are enough, wherever they begin; and everyone is asked everything", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 12 }),
        fc.integer({ min: 1, max: 40 }),
        fc.string(),
        (draw, more, person) => {
          const count = draw + more - 1;
          const turns = Array.from({ length: 30 }, (_, turn) => asked(count, draw, series(person, turn)));
          const most = Math.floor(count / draw);
          for (let from = 0; from + most <= turns.length; from += 1) {
            const seen = turns.slice(from, from + most).flat();
            expect(new Set(seen).size).toBe(seen.length);
          }
          expect(turns.every((each) => each.length === draw)).toBe(true);
          if (draw * 30 >= count) expect(new Set(turns.flat()).size).toBe(count);
        },
      ),
      { numRuns: 60 },
    );
  });

  test("is of each person’s own, and the same at every look", () => {
    const people = ["noor", "bao", "josefa", "teodor", "yara"];
    const first = people.map((person) => asked(12, 3, series(person, 0)).join());
    expect(new Set(first).size).toBeGreaterThan(3);
    expect(asked(12, 3, series("noor", 2))).toEqual(asked(12, 3, series("noor", 2)));
  });

  test("without a series each attempt is drawn by itself, as before", () => {
    expect(asked(12, 3, openSeed("plain"))).toHaveLength(3);
  });
});
