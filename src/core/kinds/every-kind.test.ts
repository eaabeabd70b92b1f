import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { planAttempt } from "../attempt/plan";
import { markAttempt } from "../marking/mark-attempt";
import { exact, sum } from "../numbers/exact";
import { openSeed } from "../numbers/seeded";
import { type QuizFile, readQuizFile } from "../quiz/quiz-file";
import { type Answer, fillOf, KIND_NAMES, readAnswer, summaryOf } from "./answering";
import { filledIn, markQuestion, present, type Question, rightAnswerTo } from "./marking";

const reading = readQuizFile(JSON.parse(readFileSync("docs/examples/every-kind.json", "utf8")));
if (!reading.ok) throw new Error(JSON.stringify(reading.mistakes));
const quiz: QuizFile = reading.quiz;
const questions = quiz.sections.flatMap((section) => section.questions);
const cases = questions.map((question) => [question.kind, question] as const);
const seeds = fc.string({ maxLength: 12 });
const BY_HAND = new Set(["essay", "upload"]);

test("the example holds every kind", () => {
  expect(new Set(questions.map((question) => question.kind))).toEqual(new Set(KIND_NAMES));
});

const inBounds = (marks: string, maximum: string) =>
  exact(marks).compare(0) >= 0 && exact(marks).compare(exact(maximum)) <= 0;

/** Answers near to right ones: a right one with something changed, dropped, doubled or put in from elsewhere. */
function near(question: Question): fc.Arbitrary<unknown> {
  const right = rightAnswerTo(question, openSeed("fuzz")) ?? { rich: "<p>x</p>", files: [], text: "x" };
  const leaf = fc.oneof(
    fc.jsonValue({ maxDepth: 1 }),
    fc.constantFrom("4.2", "x", "1e9", "-0", "0/0", "NaN", "__proto__", true, [], {}, null),
  );
  const mutate = (value: unknown): fc.Arbitrary<unknown> => {
    if (Array.isArray(value)) {
      return fc.oneof(
        leaf,
        fc.subarray(value),
        fc.shuffledSubarray(value),
        fc.constant([...value, ...value]),
        fc.tuple(...value.map(mutate)),
      );
    }
    if (typeof value === "object" && value !== null) {
      return fc.record(Object.fromEntries(Object.entries(value).map(([key, each]) => [key, mutate(each)])), {
        requiredKeys: [],
      });
    }
    return fc.oneof({ weight: 3, arbitrary: fc.constant(value) }, { weight: 1, arbitrary: leaf });
  };
  return mutate(right);
}

describe.each(cases)("%s", (kind, question) => {
  test("a right answer gets full marks, whatever the seed", () => {
    if (BY_HAND.has(kind)) return expect(rightAnswerTo(question, openSeed("x"))).toBeNull();
    fc.assert(
      fc.property(seeds, (seed) => {
        const presented = present(question, openSeed(seed));
        // As it comes back from a browser: through JSON, read again.
        const sent = JSON.parse(JSON.stringify(rightAnswerTo(question, openSeed(seed))));
        const read = readAnswer(presented, sent);
        if (!read.ok) throw new Error(english(read.problem));
        const marked = markQuestion(question, openSeed(seed), read.answer);
        expect(marked.marks).toBe(marked.maximum);
        expect(marked.state).toEqual("full");
        expect(fillOf(presented, read.answer).state).toEqual("full");
        expect(summaryOf(presented, read.answer)).not.toEqual("");
      }),
      { numRuns: 60 },
    );
  });

  test("what a student gets is the same for the same seed, and holds nothing of the key", () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const presented = JSON.stringify(present(question, openSeed(seed)));
        expect(JSON.stringify(present(question, openSeed(seed)))).toBe(presented);
        const fields = [
          "right",
          "credit",
          "key",
          "tolerance",
          "accepted",
          "target",
          "regions",
          "worked",
          "feedback",
          "model",
          "rubric",
        ];
        for (const field of fields) expect(presented.includes(`"${field}":`)).toBe(false);
      }),
      { numRuns: 30 },
    );
  });

  test("10,000 fuzzed answers are refused with a sentence or marked within bounds, and never throw", () => {
    const presented = present(question, openSeed("fuzz"));
    const check = (raw: unknown) => {
      const read = readAnswer(presented, raw);
      if (!read.ok) return /^[A-Z“].*\.$/.test(english(read.problem));
      const marked = markQuestion(question, openSeed("fuzz"), read.answer);
      fillOf(presented, read.answer);
      summaryOf(presented, read.answer);
      const parts = sum(
        marked.parts.filter((part) => part.state !== "awaits").map((part) => exact(part.marks)),
      );
      return (
        inBounds(marked.marks, marked.maximum) &&
        parts.equals(exact(marked.marks)) &&
        marked.parts.every((part) => inBounds(part.marks, part.maximum))
      );
    };
    fc.assert(fc.property(fc.jsonValue({ maxDepth: 4 }), check), { numRuns: 5_000 });
    fc.assert(fc.property(near(question), check), { numRuns: 5_000 });
  }, 60_000);

  test("an empty answer is told apart from a wrong one", () => {
    const marked = markQuestion(question, openSeed("x"), null);
    expect(marked).toMatchObject({ state: "empty", awaiting: "0", marks: "0" });
    expect(readAnswer(present(question, openSeed("x")), null)).toEqual({ ok: true, answer: null });
  });
});

test("an attempt earns what the file says of each question that is right, and no more until a person has marked the rest", () => {
  const marksInFile = new Map(questions.map(({ id, marks }) => [id, exact(marks)]));
  const inFile = (ids: readonly string[]) => sum(ids.map((id) => marksInFile.get(id) ?? exact(0)));
  fc.assert(
    fc.property(seeds, fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }), (seed, rights) => {
      const plan = planAttempt(quiz, openSeed(seed));
      const right: string[] = [];
      const byHand: string[] = [];
      const work = new Map<number, { answer: Answer }>();
      for (const { slot, question } of plan) {
        if (!rights[slot - 1]) continue;
        const answer: Answer | null =
          question.kind === "essay"
            ? { rich: "<p>Because of friction.</p>" }
            : rightAnswerTo(question, openSeed(seed));
        if (!answer) continue;
        work.set(slot, { answer });
        (question.kind === "essay" ? byHand : right).push(question.id);
      }
      const { earned, awaited, maximum } = markAttempt(quiz, openSeed(seed), work);
      expect(earned.equals(inFile(right))).toBe(true);
      expect(awaited.equals(inFile(byHand))).toBe(true);
      expect(maximum.equals(inFile(plan.map(({ question }) => question.id)))).toBe(true);
    }),
    { numRuns: 60 },
  );
});

test("the answer to an essay awaits, and is in no total", () => {
  const slot = planAttempt(quiz, openSeed("x")).findIndex(({ question }) => question.kind === "essay") + 1;
  const marked = markAttempt(
    quiz,
    openSeed("x"),
    new Map([[slot, { answer: { rich: "<p>Friction.</p>" } }]]),
  );
  expect(marked.earned.equals(0)).toBe(true);
  expect(marked.awaited.equals(6)).toBe(true);
  expect(marked.slots[slot - 1]?.marked.state).toEqual("awaits");
});

test("an answer that does not fit is refused and counts as empty; it is never marked wrong silently", () => {
  const marked = markAttempt(quiz, openSeed("x"), new Map([[1, { answer: { pick: "elsewhere" } }]]));
  expect(marked.slots[0]).toMatchObject({
    refused: "The answer must name one of the options of this question.",
    answer: null,
  });
  expect(marked.slots[0]?.marked.state).toEqual("empty");
});

test("texts of the author hold this attempt's own values", () => {
  const twelfths = questions.find((question) => question.id === "twelfths") as Question;
  const worked = filledIn(twelfths, openSeed("3"), twelfths.worked ?? "");
  expect(present(twelfths, openSeed("3")).text).toEqual(
    "High water is 4.2\u00a0m and the following low water 0.3\u00a0m. Use the rule of twelfths.",
  );
  expect(worked).toEqual(
    "<p>The range is 4.2 − 0.3 = 3.9 m. After two hours 3/12 of it are gone: 3.225 m. Under the keel: 2.725 m.</p>",
  );
});

describe("ordering", () => {
  const items = ["a", "b", "c", "d"].map((id) => ({ id, text: id }));
  const credit = (order: string, rule: "exact" | "neighbours") => {
    const question: Question = { id: "o", kind: "ordering", text: "?", marks: 1, credit: rule, items };
    const right = rightAnswerTo(question, openSeed("s")) as { order: string[] };
    const names = [...order].map((letter) => right.order["abcd".indexOf(letter)] ?? "");
    return markQuestion(question, openSeed("s"), { order: names }).marks;
  };
  test.each([
    ["abcd", "1", "1"],
    ["bcda", "2/3", "0"],
    ["abdc", "1/3", "0"],
    ["dcba", "0", "0"],
  ])("key abcd, written %s: %s by neighbours, %s exact", (order, neighbours, all) => {
    expect(credit(order, "neighbours")).toBe(neighbours);
    expect(credit(order, "exact")).toBe(all);
  });
  test("the items never lie in the right order at first", () => {
    const question: Question = {
      id: "o",
      kind: "ordering",
      text: "?",
      marks: 1,
      credit: "exact",
      items: items.slice(0, 2),
    };
    for (let i = 0; i < 40; i += 1) {
      const presented = present(question, openSeed(String(i))) as Extract<
        ReturnType<typeof present>,
        { kind: "ordering" }
      >;
      expect(presented.items.map((item) => item.text)).toEqual(["b", "a"]);
    }
  });
});

describe("point on a picture", () => {
  const buoys = questions.find((question) => question.id === "buoys") as Question;
  const state = (...points: [number, number][]) =>
    markQuestion(buoys, openSeed("s"), { points: points.map(([x, y]) => ({ x, y })) }).marks;
  test("right regions hit, wrong points taken off, a second point in one region is wrong", () => {
    expect(state([0.25, 0.5], [0.75, 0.4])).toEqual("2");
    expect(state([0.25, 0.5])).toEqual("1");
    expect(state([0.25, 0.5], [0.5, 0.9])).toEqual("0");
    expect(state([0.25, 0.5], [0.26, 0.5])).toEqual("0");
  });
  test("a circle is round on the picture, not in its shares", () => {
    expect(state([0.25 + 0.039, 0.5])).toEqual("1");
    expect(state([0.25 + 0.041, 0.5])).toEqual("0");
    expect(state([0.25, 0.5 + 0.079])).toEqual("1");
  });
});

describe("matching and gaps", () => {
  test("right pairs through prompts; a target used twice is refused where it may be used once", () => {
    const question = questions.find((each) => each.kind === "matching") as Question;
    const right = rightAnswerTo(question, openSeed("s")) as { pairs: Record<string, string> };
    const [first = "", second = "", third = ""] = Object.keys(right.pairs);
    const two = { pairs: { [first]: right.pairs[first] ?? "", [second]: right.pairs[second] ?? "" } };
    expect(markQuestion(question, openSeed("s"), two).marks).toEqual("2");
    const swapped = {
      pairs: { ...right.pairs, [first]: right.pairs[second] ?? "", [second]: right.pairs[first] ?? "" },
    };
    expect(markQuestion(question, openSeed("s"), swapped).marks).toEqual("1");
    const twice = readAnswer(present(question, openSeed("s")), {
      pairs: { [first]: right.pairs[third], [third]: right.pairs[third] },
    });
    expect(twice).toEqual({ ok: false, problem: "A target can be used once only here." });
    expect(fillOf(present(question, openSeed("s")), two).words).toEqual("2 of 3 matched");
  });
  test("gaps count by weight", () => {
    const question: Question = {
      id: "g",
      kind: "gaps",
      text: "[[a]] and [[b]]",
      marks: 4,
      gaps: [
        { id: "a", weight: 3, accepted: [{ text: "one" }] },
        { id: "b", accepted: [{ text: "two" }, { text: "zwei", credit: "1/2" }] },
      ],
    };
    expect(markQuestion(question, openSeed("s"), { gaps: { a: "One" } }).marks).toEqual("3");
    expect(markQuestion(question, openSeed("s"), { gaps: { a: "x", b: "zwei" } }).marks).toEqual("1/2");
  });
});

test("a declaration is neither right nor wrong, and worth nothing", () => {
  const question = questions.find((each) => each.kind === "declaration") as Question;
  expect(markQuestion(question, openSeed("s"), { choice: "helped" })).toMatchObject({
    marks: "0",
    maximum: "0",
    state: "full",
  });
});

test("the documentation has the answer to every kind as it is", () => {
  const documented = [
    ...(readFileSync("docs/quiz-file.md", "utf8").split("### Answers")[1] ?? "").matchAll(
      /^\| `([a-z-]+)` +\| `(\{ "\w+": .*\})`.* \|$/gm,
    ),
  ].map(([, kind, answer]) => [kind, JSON.parse(answer ?? "")]);
  expect(documented.map(([kind]) => kind).sort()).toEqual([...KIND_NAMES].sort());
  const inKind = (value: unknown): unknown =>
    Array.isArray(value) ? "list" : value === null ? "null" : typeof value;
  for (const [kind, answer] of documented) {
    const question = questions.find((each) => each.kind === kind);
    if (!question || BY_HAND.has(kind)) continue;
    const right = rightAnswerTo(question, openSeed("documented")) as unknown as Record<string, unknown>;
    const shape = (of: Record<string, unknown>) =>
      Object.entries(of).map(([name, value]) => [name, inKind(value)]);
    expect(shape(answer), kind).toEqual(shape(right));
  }
});
