import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { english } from "../../../tests/support/english";
import { progressOf } from "../attempt/attempt-progress";
import type { Question } from "../kinds/marking";
import { markQuestion, rightAnswerTo } from "../kinds/marking";
import { rubricMaximum, scoreRubric } from "../kinds/rubric";
import { written } from "../numbers/exact";
import { openSeed } from "../numbers/seeded";
import type { QuizContent, QuizFile } from "../quiz/quiz-file";
import type { Said } from "../said";
import { markByHand } from "./hand-mark";
import { markAttempt } from "./mark-attempt";
import { type AttemptToReMark, type ReMarked, reMarkAttempt, summaryOfReMarking } from "./re-mark";

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
  return { id, writtenOn: of, seed, work, marked, byHand: new Set<number>() };
};
const says = (a: string) => ({ parts: { a } });

describe("re-marking", () => {
  const old = quiz(number("one", "7"), number("two", "5"), essay);
  const attempts = [
    handedIn("right", old, { 1: says("7"), 2: says("5") }),
    handedIn("wrong", old, { 1: says("8"), 2: says("5") }),
    handedIn("none", old, {}),
  ];
  const changes = (plan: readonly ReMarked[]) =>
    plan.map(
      ({ id, before, after }) =>
        `${id}: ${written(before.earned)}/${written(before.maximum)} -> ${written(after.earned)}/${written(after.maximum)}`,
    );
  const again = (all: readonly AttemptToReMark[], questionId: string, of: QuizContent) =>
    all.map((attempt) => reMarkAttempt(attempt, { questionId, quiz: of }));

  test("a corrected key is shown beforehand: whose mark changes, and by how much", () => {
    const plan = again(attempts, "one", quiz(number("one", "8"), number("two", "6"), essay));
    // Only the question that it is about: the other key is left for another time.
    expect(changes(plan)).toEqual(["right: 4/8 -> 2/8", "wrong: 2/8 -> 4/8", "none: 0/8 -> 0/8"]);
    expect(plan.map((each) => each.changes.length)).toEqual([1, 1, 0]);
    expect(summaryOfReMarking(plan)).toMatchObject({ changed: 2, gain: 1, lose: 1 });
  });

  test("a dropped question gives its marks to all, or leaves the maximum", () => {
    const toAll = again(attempts, "one", { ...old, corrections: { one: { dropped: "marks-to-all" } } });
    expect(changes(toAll)).toEqual(["right: 4/8 -> 4/8", "wrong: 2/8 -> 4/8", "none: 0/8 -> 2/8"]);
    const out = again(attempts, "one", { ...old, corrections: { one: { dropped: "out-of-the-maximum" } } });
    expect(changes(out)).toEqual(["right: 4/8 -> 2/6", "wrong: 2/8 -> 2/6", "none: 0/8 -> 0/6"]);
    expect(out[0]?.changes[0]?.after.state).toBe("dropped");
  });

  test("an answer that is given credit gains it wherever it was written, and none loses by it", () => {
    const grant = (credit: string) => ({
      ...old,
      corrections: { one: { grants: [{ part: 0, identity: "8", credit, reason: "the chart said 8" }] } },
    });
    expect(changes(again(attempts, "one", grant("1/2")))).toEqual([
      "right: 4/8 -> 4/8",
      "wrong: 2/8 -> 3/8",
      "none: 0/8 -> 0/8",
    ]);
    const better = [handedIn("right", old, { 1: says("7") })];
    const lower = {
      ...old,
      corrections: { one: { grants: [{ part: 0, identity: "7", credit: "1/2", reason: "x" }] } },
    };
    expect(again(better, "one", lower)[0]?.changes).toEqual([]);
    const [, wrong] = again(attempts, "one", grant("1"));
    expect(wrong?.changes[0]?.after).toMatchObject({ state: "full", parts: [{ state: "full" }] });
    expect(english(wrong?.changes[0]?.after.parts[0]?.why ?? "")).toBe("given credit: the chart said 8");
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
    for (const id of ["one", "two", "three"])
      expect(again(all, id, more).every((each) => each.changes.length === 0)).toBe(true);
  });

  test("whatever is corrected, in any order: a second run changes nothing, and other questions keep their marks", () => {
    const ids = ["one", "two", "e"];
    const correction = fc.record({
      id: fc.constantFrom(...ids),
      key: fc.constantFrom("5", "7", "8"),
      dropped: fc.constantFrom(undefined, "marks-to-all" as const, "out-of-the-maximum" as const),
      grants: fc.array(
        fc.record({
          part: fc.constant(0),
          identity: fc.constantFrom("5", "7", "8", "9"),
          credit: fc.constantFrom("0", "1/3", "1"),
          reason: fc.constant("so"),
        }),
        { maxLength: 3 },
      ),
    });
    const answers = fc.constantFrom("5", "7", "8", "9", "");
    fc.assert(
      fc.property(fc.array(correction, { maxLength: 6 }), answers, answers, (all, a, b) => {
        let attempt: AttemptToReMark = handedIn("some", old, {
          1: says(a),
          2: says(b),
          3: { rich: "<p>x</p>" },
        });
        for (const { id, key, dropped, grants } of all) {
          const of = {
            ...quiz(number("one", key), number("two", key), essay),
            corrections: { [id]: { dropped, grants } },
          };
          const [once] = again([attempt], id, of);
          expect(once?.changes.every(({ slot }) => slot === ids.indexOf(id) + 1)).toBe(true);
          attempt = {
            ...attempt,
            marked: new Map([
              ...attempt.marked,
              ...(once?.changes ?? []).map((each) => [each.slot, each.after] as const),
            ]),
          };
          expect(again([attempt], id, of)[0]?.changes).toEqual([]);
        }
      }),
    );
  });

  test("marks by hand stay", () => {
    const base = handedIn("hand", old, { 3: { rich: "<p>Because.</p>" } });
    const marked = markAttempt(old, openSeed("hand"), base.work).slots[2]?.marked;
    const hand = marked && markByHand(marked, { marks: 3, reason: "good method" });
    if (!hand?.ok) throw new Error("not marked");
    const attempt = {
      ...base,
      marked: new Map([...base.marked, [3, hand.marked]]),
      byHand: new Set([3]),
    };
    expect(again([attempt], "e", old)[0]?.changes).toEqual([]);
    const dropped = again([attempt], "e", { ...old, corrections: { e: { dropped: "marks-to-all" } } });
    expect(changes(dropped)).toEqual(["hand: 3/8 -> 4/8"]);
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
    expect(scoreRubric(rubric, { cause: { level: "yes" } })).toMatchObject({
      ok: true,
      left: [{ id: "words" }],
    });
    const whole = scoreRubric(rubric, {
      cause: { level: "yes", remark: "well seen" },
      words: { level: "no" },
    });
    expect(whole.ok && written(whole.marks)).toEqual("5/2");
    expect(whole.ok && whole.left).toEqual([]);
    expect(scoreRubric(rubric, { style: { level: "yes" } })).toMatchObject({ ok: false });
    expect(english((scoreRubric(rubric, { style: {} }) as { problem: Said }).problem)).toBe(
      "There is no criterion style.",
    );
    expect(english((scoreRubric(rubric, { cause: { level: "perhaps" } }) as { problem: Said }).problem)).toBe(
      "The criterion “Cause” has no level perhaps.",
    );
  });

  test("points between the levels take the place of a level's, from 0 to the most", () => {
    const rubric = { criteria: [{ id: "a", title: "A", levels: [{ id: "all", title: "All", points: 3 }] }] };
    const between = scoreRubric(rubric, { a: { level: "all", points: "3/2" } });
    expect(between.ok && written(between.marks)).toBe("3/2");
    for (const points of ["4", "-1", "much", ""]) {
      const refused = scoreRubric(rubric, { a: { points } });
      expect(!refused.ok && english(refused.problem)).toBe("The points of “A” must be from 0 to 3.");
    }
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
