import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { exact, shown } from "../numbers/exact";
import { openSeed } from "../numbers/seeded";
import { type Answer, fillOf, type PresentedQuestion, readAnswer, summaryOf } from "./answering";
import { markQuestion, present, type Question } from "./marking";

const one: Question = {
  id: "light",
  kind: "one-of-several",
  text: "Which?",
  marks: 2,
  options: [
    { id: "a", text: "right", right: true },
    { id: "b", text: "near", credit: "1/2", feedback: "<p>Nearly.</p>" },
    { id: "c", text: "wrong" },
    { id: "d", text: "none of these", last: true },
  ],
};

const several = (credit: "by-option" | "all-or-nothing"): Question => ({
  id: "marks",
  kind: "several-of-several",
  text: "Which?",
  marks: 3,
  credit,
  options: ["a", "b", "c"]
    .map((id) => ({ id, text: id, right: true }))
    .concat([{ id: "d", text: "d", right: false }]),
});

type Numeric = Extract<Question, { kind: "numeric" }>;

const numeric: Numeric = {
  id: "tide",
  kind: "numeric",
  text: "How high?",
  marks: 3,
  parts: [
    { id: "a", text: "Range", marks: 1, key: "2.84173", tolerance: { rule: "figures", figures: 3 } },
    {
      id: "b",
      text: "Height",
      marks: 2,
      key: "0.05",
      tolerance: { rule: "relative", within: "0.01" },
      unit: "m",
    },
  ],
};

const seed = "a seed";
const picks = (question: Question, ...ids: string[]): Answer => ({
  picks: ids.map((id) => openSeed(seed).name(question.id, id)),
});
const pick = (question: Question, id: string): Answer => ({ pick: openSeed(seed).name(question.id, id) });

describe("one of several", () => {
  test.each([
    ["a", "2", "full"],
    ["b", "1", "part"],
    ["c", "0", "none"],
  ])("picking %s gives %s", (id, marks, state) => {
    const marked = markQuestion(one, openSeed(seed), pick(one, id));
    expect([shown(marked.marks), marked.state]).toEqual([marks, state]);
  });

  test("empty is told apart from wrong", () => {
    expect(markQuestion(one, openSeed(seed), null)).toMatchObject({ state: "empty", marks: "0" });
    expect(markQuestion(one, openSeed(seed), pick(one, "b")).parts[0]?.feedback).toEqual("<p>Nearly.</p>");
  });
});

describe("several of several", () => {
  test.each([
    [["a", "b"], "2/3"],
    [["a", "b", "d"], "1/3"],
    [["a", "d"], "0"],
    [["a", "b", "c", "d"], "2/3"],
    [["a", "b", "c"], "1"],
  ])("by option, key {a,b,c}: %j", (ids, credit) => {
    const question = several("by-option");
    const marked = markQuestion(question, openSeed(seed), picks(question, ...ids));
    expect(exact(marked.marks).equals(exact(credit).mul(3))).toBe(true);
  });

  test("all or nothing", () => {
    const question = several("all-or-nothing");
    expect(markQuestion(question, openSeed(seed), picks(question, "a", "b", "c")).marks).toEqual("3");
    expect(markQuestion(question, openSeed(seed), picks(question, "a", "b")).marks).toEqual("0");
    expect(markQuestion(question, openSeed(seed), picks(question, "a", "b", "c", "d")).marks).toEqual("0");
  });
});

describe("numeric", () => {
  const state = (a: string, question: Question = numeric) =>
    markQuestion(question, openSeed(seed), { parts: { a } }).parts[0];
  const withTolerance = (key: string, figures: number, units = 0): Numeric => ({
    ...numeric,
    marks: 1,
    parts: [{ id: "a", marks: 1, key, tolerance: { rule: "figures", figures, units } }],
  });

  test.each([
    ["2.84173", 3, 0, "2.84", "full"],
    ["2.84173", 3, 0, "2.84173", "full"],
    ["2.84173", 3, 0, "2.8", "none"],
    ["2.84173", 3, 0, "2.85", "none"],
    ["2.84173", 3, 1, "2.85", "full"],
    ["540.3", 3, 0, "540", "full"],
    ["540.3", 3, 0, "5.4e2", "none"],
  ])("key %s to %d figures (u = %d), written %s", (key, figures, units, text, right) => {
    expect(state(text, withTolerance(key, figures, units))?.state).toEqual(right);
  });

  test("too few figures says so, and loses what the quiz says", () => {
    expect(state("2.8")?.why).toEqual(
      "too few figures: right to 2 figures, but 3 were asked for, which loses the marks",
    );
    const mild = { ...withTolerance("2.84173", 3) };
    const parts = mild.parts.map((part) => ({ ...part, tooFewFiguresLoses: "1/4" }));
    expect(state("2.8", { ...mild, parts })).toMatchObject({ state: "part", marks: "3/4" });
    expect(state("2.9", { ...mild, parts })).toMatchObject({ state: "none", why: "not the right value" });
  });

  test("at the edge of one per cent is right", () => {
    const at = (b: string) => markQuestion(numeric, openSeed(seed), { parts: { b } }).parts[1]?.state;
    expect(at("0.0495")).toEqual("full");
    expect(at("0.0505")).toEqual("full");
    expect(at("0.04949")).toEqual("none");
  });

  test("what cannot be read is never marked wrong silently: it awaits a person", () => {
    const marked = markQuestion(numeric, openSeed(seed), { parts: { a: "a little more", b: "0.05" } });
    expect(marked).toMatchObject({ state: "awaits", marks: "2", awaiting: "1", maximum: "3" });
  });

  test("the right answer is written in the figures asked for", () => {
    expect(markQuestion(numeric, openSeed(seed), null).parts.map((part) => part.right)).toEqual([
      "2.84",
      "0.05 m",
    ]);
  });
});

const questions = [one, several("by-option"), several("all-or-nothing"), numeric];

describe.each(questions.map((question) => [question.kind, question] as const))(
  "every kind: %s",
  (_, question) => {
    test("what a student gets holds no key and depends on the seed alone", () => {
      const presented = JSON.stringify(present(question, openSeed(seed)));
      expect(presented).toBe(JSON.stringify(present(question, openSeed(seed))));
      for (const field of [
        '"right":',
        '"credit":',
        '"key":',
        '"tolerance":',
        '"worked":',
        '"feedback":',
        '"last":',
      ]) {
        expect(presented).not.toContain(field);
      }
    });

    test("any JSON as an answer is read or refused with a sentence, and never throws", () => {
      const presented = present(question, openSeed(seed));
      fc.assert(
        fc.property(fc.jsonValue({ maxDepth: 3 }), (raw) => {
          const reading = readAnswer(presented, raw);
          if (!reading.ok) return english(reading.problem).endsWith(".");
          const marked = markQuestion(question, openSeed(seed), reading.answer);
          const credit = exact(marked.marks).div(exact(marked.maximum));
          return credit.compare(0) >= 0 && credit.compare(1) <= 0;
        }),
        { numRuns: 2_000 },
      );
    });

    test("nothing written is empty", () => {
      const presented = present(question, openSeed(seed));
      expect(readAnswer(presented, null)).toEqual({ ok: true, answer: null });
      expect(fillOf(presented, null)).toEqual({ state: "empty", words: "empty" });
      expect(summaryOf(presented, null)).toEqual("");
      expect(markQuestion(question, openSeed(seed), null)).toMatchObject({ state: "empty", marks: "0" });
    });
  },
);

test("the order of the options makes no difference to the mark", () => {
  fc.assert(
    fc.property(fc.string(), fc.subarray(["a", "b", "c", "d"]), (anySeed, ids) => {
      const question = several("by-option");
      const answer = { picks: ids.map((id) => openSeed(anySeed).name(question.id, id)) };
      const there = exact(markQuestion(question, openSeed(anySeed), answer).marks);
      return there.equals(exact(markQuestion(question, openSeed(seed), picks(question, ...ids)).marks));
    }),
  );
});

test("an option that stays last does, whatever the seed", () => {
  for (let i = 0; i < 50; i += 1) {
    const presented = present(one, openSeed(String(i))) as Extract<
      PresentedQuestion,
      { kind: "one-of-several" }
    >;
    expect(presented.options.at(-1)?.text).toEqual("none of these");
  }
});

test("picking counts along, and parts too", () => {
  const question = { ...several("by-option"), least: 2, most: 3 } as Question;
  const presented = present(question, openSeed(seed));
  expect(fillOf(presented, picks(question, "a"))).toEqual({
    state: "part",
    share: 0.5,
    words: "1 of 2 picked",
  });
  expect(fillOf(presented, picks(question, "a", "b")).state).toEqual("full");
  expect(readAnswer(presented, picks(question, "a", "b", "c", "d"))).toEqual({
    ok: false,
    problem: "Pick 3 options at most.",
  });
  expect(fillOf(present(numeric, openSeed(seed)), { parts: { a: "1.00 m" } })).toEqual({
    state: "part",
    share: 0.5,
    words: "1 of 2 parts answered",
  });
  expect(summaryOf(present(numeric, openSeed(seed)), { parts: { a: "1" } })).toEqual("a: 1 · b: empty");
});
