import { describe, expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { progressOf } from "../attempt/attempt-progress";
import type { Question } from "../kinds/marking";
import { markQuestion, rightAnswerTo } from "../kinds/marking";
import { rubricMaximum, scoreRubric } from "../kinds/rubric";
import { written } from "../numbers/exact";
import { openSeed } from "../numbers/seeded";
import type { QuizFile } from "../quiz/quiz-file";
import { markByHand } from "./hand-mark";
import { markAttempt } from "./mark-attempt";
import { planReMarking, reMarkingSummary } from "./re-mark";

const number = (id: string, key: string): Question => ({
  id,
  kind: "numeric",
  text: "?",
  marks: 2,
  parts: [{ id: "a", marks: 2, key, tolerance: { rule: "absolute", within: 0 } }],
});
const quiz = (...questions: Question[]): QuizFile => ({
  format: "shizuka-quiz",
  version: 1,
  title: "t",
  rules: {
    counts: "best",
    order: "free",
    reveal: {
      total: "at-hand-in",
      marks: "at-hand-in",
      written: "at-hand-in",
      right: "at-hand-in",
      worked: "at-hand-in",
    },
  },
  sections: [{ questions }],
});
const essay: Question = { id: "e", kind: "essay", text: "?", marks: 4 };

const handedIn = (id: string, of: QuizFile, answers: Record<number, unknown>) => {
  const work = new Map(Object.entries(answers).map(([slot, answer]) => [Number(slot), { answer }]));
  const seed = openSeed(id);
  const marked = new Map(markAttempt(of, seed, work).slots.map((each) => [each.slot, each.marked]));
  return { id, seed, work, marked, byHand: new Map() };
};
const says = (a: string) => ({ parts: { a } });

describe("re-marking", () => {
  const old = quiz(number("one", "7"), number("two", "5"), essay);
  const attempts = [
    handedIn("right", old, { 1: says("7"), 2: says("5") }),
    handedIn("wrong", old, { 1: says("8"), 2: says("5") }),
    handedIn("none", old, {}),
  ];
  const changes = (plan: ReturnType<typeof planReMarking>) =>
    plan.map(
      ({ id, before, after }) =>
        `${id}: ${written(before.earned)}/${written(before.maximum)} -> ${written(after.earned)}/${written(after.maximum)}`,
    );

  test("a corrected key is shown beforehand: whose mark changes, and by how much", () => {
    const plan = planReMarking(attempts, {
      writtenOn: old,
      quiz: quiz(number("one", "8"), number("two", "5"), essay),
      dropped: new Map(),
    });
    expect(changes(plan)).toEqual(["right: 4/8 -> 2/8", "wrong: 2/8 -> 4/8", "none: 0/8 -> 0/8"]);
    expect(plan.map((each) => each.changed)).toEqual([true, true, false]);
    expect(reMarkingSummary(plan)).toEqual({ changed: 2, up: "2", down: "-2" });
  });

  test("a dropped question gives its marks to all, or leaves the maximum", () => {
    const toAll = planReMarking(attempts, {
      writtenOn: old,
      quiz: old,
      dropped: new Map([["one", "marks-to-all"]]),
    });
    expect(changes(toAll)).toEqual(["right: 4/8 -> 4/8", "wrong: 2/8 -> 4/8", "none: 0/8 -> 2/8"]);
    const out = planReMarking(attempts, {
      writtenOn: old,
      quiz: old,
      dropped: new Map([["one", "out-of-the-maximum"]]),
    });
    expect(changes(out)).toEqual(["right: 4/8 -> 2/6", "wrong: 2/8 -> 2/6", "none: 0/8 -> 0/6"]);
  });

  test("a gain and a loss of the same size within one attempt are two changes, not none", () => {
    const both = handedIn("both", old, { 1: says("7"), 2: says("6") });
    const [plan] = planReMarking([both], {
      writtenOn: old,
      quiz: quiz(number("one", "9"), number("two", "6"), essay),
      dropped: new Map(),
    });
    expect(plan?.after.earned.equals(plan.before.earned)).toBe(true);
    expect(plan?.changed).toBe(true);
    expect(plan?.changes).toEqual([
      { slot: 1, before: "2", after: "0" },
      { slot: 2, before: "0", after: "2" },
    ]);
  });

  test("an attempt keeps its draw, whatever else the new version changed", () => {
    const drawn = {
      ...old,
      sections: [{ draw: 1, questions: [number("one", "7"), number("two", "7"), number("three", "7")] }],
    };
    const more = {
      ...drawn,
      sections: [
        { draw: 1, questions: [number("nought", "1"), ...(drawn.sections[0]?.questions ?? [])].reverse() },
      ],
    };
    const all = Array.from({ length: 30 }, (_, i) => handedIn(`draw ${i}`, drawn, { 1: says("7") }));
    const plan = planReMarking(all, { writtenOn: drawn, quiz: more, dropped: new Map() });
    expect(plan.every(({ changed }) => !changed)).toBe(true);
    // A second run changes nothing either.
    const again = plan.map((each, i) => ({ ...(all[i] as (typeof all)[number]), marked: each.slots }));
    expect(
      planReMarking(again, { writtenOn: drawn, quiz: more, dropped: new Map() }).some((each) => each.changed),
    ).toBe(false);
  });

  test("marks by hand stay", () => {
    const base = handedIn("hand", old, { 3: { rich: "<p>Because.</p>" } });
    const marked = markAttempt(old, openSeed("hand"), base.work).slots[2]?.marked;
    const hand = marked && markByHand(marked, { marks: 3, reason: "good method" });
    if (!hand?.ok) throw new Error("not marked");
    const attempt = {
      ...base,
      marked: new Map([...base.marked, [3, hand.marked]]),
      byHand: new Map([[3, hand.marked]]),
    };
    const [plan] = planReMarking([attempt], { writtenOn: old, quiz: old, dropped: new Map() });
    expect(plan?.changed).toBe(false);
    expect(plan?.slots.get(3)?.parts[0]?.why).toEqual("by hand: good method");
  });
});

describe("by hand", () => {
  const awaiting = markAttempt(quiz(essay), openSeed("s"), new Map([[1, { answer: { rich: "<p>x</p>" } }]]))
    .slots[0]?.marked;
  if (!awaiting) throw new Error("nothing marked");

  test("until a hand mark is there the question awaits; then it is marked, with its reason", () => {
    expect(awaiting).toMatchObject({ state: "awaits", marks: "0", awaiting: "4" });
    expect(markByHand(awaiting, { marks: "5/2", reason: "half of the causes" })).toMatchObject({
      ok: true,
      marked: { state: "part", marks: "5/2", awaiting: "0" },
    });
  });

  test.each([
    [{ marks: 5, reason: "x" }, "The marks must be from 0 to 4."],
    [{ marks: -1, reason: "x" }, "The marks must be from 0 to 4."],
    [{ marks: "many", reason: "x" }, "The marks must be a number such as 2, 1.5 or 1/3."],
    [{ marks: 2, reason: " " }, "Say why, in a few words; the student reads it."],
  ])("%j is refused", (hand, problem) => {
    expect(markByHand(awaiting, hand)).toEqual({ ok: false, problem });
  });

  test("a rubric gives the points of the levels reached", () => {
    const level = (id: string, points: number | string) => ({ id, title: id, points });
    const rubric = {
      criteria: [
        { id: "cause", title: "Cause", levels: [level("no", 0), level("yes", "5/2")] },
        { id: "words", title: "Words", levels: [level("no", 0), level("yes", "3/2")] },
      ],
    };
    expect(written(rubricMaximum(rubric))).toEqual("4");
    expect(scoreRubric(rubric, { cause: "yes" })).toMatchObject({ ok: true, complete: false });
    const whole = scoreRubric(rubric, { cause: "yes", words: "no" });
    expect(whole.ok && written(whole.marks)).toEqual("5/2");
    expect(whole.ok && whole.complete).toBe(true);
    expect(scoreRubric(rubric, { style: "yes" })).toEqual({
      ok: false,
      problem: "There is no criterion style.",
    });
    expect(scoreRubric(rubric, { cause: "perhaps" })).toEqual({
      ok: false,
      problem: "The criterion “Cause” has no level perhaps.",
    });
  });
});

/** Answers that were checked whole. */
const whole = (answers: readonly unknown[]) => answers.map((answer) => ({ answer, part: null }));

describe("tries", () => {
  const rules = { ...quiz().rules, tries: { most: 3, cost: "1/4" } };
  const tried = { ...quiz(number("one", "7")), rules };
  const marked = (answer: unknown, ...checks: unknown[]) =>
    markAttempt(tried, openSeed("s"), new Map([[1, { answer, checks: whole(checks) }]])).slots[0]?.marked;

  test("a part that was right at a check is closed as right, whatever is written after", () => {
    expect(marked(says("100"), says("7"))).toMatchObject({
      marks: "2",
      parts: [{ written: "7", why: "right, first try" }],
    });
    expect(marked(null, says("1"), says("7"))).toMatchObject({ marks: "3/2", state: "part" });
  });

  test("a part whose tries are used up is closed and worth nothing", () => {
    const used = [says("1"), says("2"), says("3")];
    expect(marked(says("7"), ...used)).toMatchObject({ marks: "0", state: "none" });
    expect(marked(says("7"), ...used, says("7"))).toMatchObject({ marks: "0" });
  });

  test("what was never checked is marked at the end like any other", () => {
    expect(marked(says("7"))).toMatchObject({ marks: "2", parts: [{ why: "right" }] });
    expect(marked(says("7"), says("1"))).toMatchObject({ marks: "3/2" });
    expect(marked(null, says("1"))).toMatchObject({ state: "empty", parts: [{ why: "empty: no marks" }] });
  });

  test("a part that is checked counts with those that it builds on, from which errors are carried forward, and with no other", () => {
    const parts: Question = {
      id: "two",
      kind: "numeric",
      text: "?",
      marks: 2,
      parts: [
        { id: "a", marks: 1, key: 4, tolerance: { rule: "absolute", within: 0 } },
        { id: "b", marks: 1, key: "2*a", tolerance: { rule: "absolute", within: 0 } },
      ],
    };
    const answer = { parts: { a: "5", b: "10" } };
    const checked = (part: number | null) =>
      markAttempt(
        { ...quiz(parts), rules },
        openSeed("s"),
        new Map([[1, { answer, checks: [{ answer, part }] }]]),
      ).slots[0]?.marked.parts.map(({ marks, why }) => `${marks}: ${english(why)}`);
    // A made-up start would make the rest easy: it is a try of its own.
    expect(checked(1)).toEqual([
      "0: not the right value; 1 wrong try, 1/4 of the part lost",
      "1: carried forward: right for the 5 you found in a, first try",
    ]);
    expect(checked(0)).toEqual([
      "0: not the right value; 1 wrong try, 1/4 of the part lost",
      "1: carried forward: right for the 5 you found in a",
    ]);
  });

  test("what is not complete is not a try", () => {
    const grams: Question = {
      id: "g",
      kind: "numeric",
      text: "?",
      marks: 2,
      parts: [
        {
          id: "a",
          marks: 2,
          key: 250,
          unit: "g",
          unitRule: "needed",
          tolerance: { rule: "figures", figures: 3 },
        },
      ],
    };
    const weighed = { ...quiz(grams), rules };
    const marksAfter = (...checks: unknown[]) =>
      markAttempt(weighed, openSeed("s"), new Map([[1, { answer: says("250 g"), checks: whole(checks) }]]))
        .slots[0]?.marked.marks;
    expect(marksAfter(says("abc"), says("250"), says("25e1 g"), says("250 ml"), says("250 blorg"))).toEqual(
      "2",
    );
    expect(marksAfter(says("260 g"))).toEqual("3/2");
  });
});

test("what was checked before costs its wrong tries in the attempt's marks", () => {
  const withTries = {
    ...quiz(number("one", "7")),
    rules: { ...quiz().rules, tries: { most: 3, cost: "1/4" } },
  };
  const work = new Map([
    [1, { answer: says("7"), checks: whole([says("1"), says("1"), "nonsense", says("7")]) }],
  ]);
  expect(written(markAttempt(withTries, openSeed("s"), work).earned)).toEqual("3/2");
  expect(rightAnswerTo(number("one", "7"), openSeed("s"))).toEqual({ parts: { a: "7" } });
});

describe("points on regions that overlap", () => {
  const circle = (id: string, x: number, radius: number) =>
    ({ id, name: id, shape: "circle", x, y: 0.5, radius }) as const;
  const chart = (...regions: readonly ReturnType<typeof circle>[]): Question => ({
    id: "p",
    kind: "point-on-picture",
    text: "?",
    marks: 2,
    picture: "chart",
    aspect: 1,
    credit: "by-region",
    regions,
  });
  const wide = circle("wide", 0.5, 0.3);
  const narrow = circle("narrow", 0.3, 0.05);
  const inBoth = { x: 0.3, y: 0.5 };
  const inWide = { x: 0.7, y: 0.5 };

  test("hit as many as they can, in whatever order regions and points come", () => {
    for (const regions of [
      [wide, narrow],
      [narrow, wide],
    ]) {
      for (const points of [
        [inBoth, inWide],
        [inWide, inBoth],
      ]) {
        expect(markQuestion(chart(...regions), openSeed("x"), { points }).marks).toEqual("2");
      }
    }
  });

  test("two points in one region hit it once", () => {
    expect(markQuestion(chart(wide, narrow), openSeed("x"), { points: [inWide, inWide] }).marks).toEqual("0");
  });
});

test("what is told at once says what the tries cost, as the paper will", () => {
  const tried = { most: 3, cost: "1/4" };
  const of = quiz(number("one", "7"));
  const told = { ...of, rules: { ...of.rules, tellAtOnce: true, tries: tried } };
  const work = { answers: new Map([[1, says("7")]]), checks: new Map([[1, whole([says("8")])]]) };
  const reached = { page: 1, told: new Set([1]), checkedOff: new Set<number>() };
  const [slot] = progressOf(told, openSeed("x"), reached, work).slots;
  expect(slot?.told?.marks).toEqual("1.5");
  const paper = markAttempt(
    told,
    openSeed("x"),
    new Map([[1, { answer: says("7"), checks: whole([says("8")]) }]]),
  );
  expect(written(paper.earned)).toEqual("3/2");
});
