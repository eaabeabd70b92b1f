import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { exact, shown, written } from "../numbers/exact";
import { itemMark } from "./item-mark";
import { needIn } from "./needed-marks";
import { onScale, rangeOnScale, type Scale } from "./scales";
import { type Category, courseStanding } from "./standing";

const counted = { low: exact(12), high: exact(16), attempt: 0 };
const maximum = exact(20);

describe("an item's mark", () => {
  test("nothing handed in is not a mark, not zero", () =>
    expect(itemMark({ maximum, counted: null })).toBeNull());
  test("what counts, with what awaits", () => {
    const mark = itemMark({ maximum, counted });
    expect(mark).toMatchObject({ source: "counted", reason: null });
    expect(mark && mark !== "excused" && [written(mark.earned), written(mark.awaited)]).toEqual(["12", "4"]);
  });
  test("an adjusted mark replaces the computed one; both stay, with the reason", () => {
    expect(
      itemMark({ maximum, counted, adjustment: { marks: 20, reason: "question 4 was faulty" } }),
    ).toMatchObject({
      source: "adjusted",
      reason: "question 4 was faulty",
      computed: counted,
    });
  });
  test("excused leaves the calculation", () => {
    expect(itemMark({ maximum, counted, adjustment: { marks: null, reason: "ill" } })).toEqual("excused");
  });
  test("full marks for taking part, for who took part", () => {
    expect(itemMark({ maximum, counted: null, fullForTakingPart: true })).toBeNull();
    const mark = itemMark({ maximum, counted, fullForTakingPart: true });
    expect(mark && mark !== "excused" && written(mark.earned)).toEqual("20");
  });
  test("another item stands in, in proportion; both marks stay", () => {
    const exam = itemMark({ maximum: exact(50), counted: { low: exact(40), high: exact(45), attempt: 0 } });
    if (!exam || exam === "excused") throw new Error("no mark");
    const mark = itemMark({ maximum, counted, standsIn: { title: "Exam", mark: exam, maximum: exact(50) } });
    expect(mark).toMatchObject({ source: "stands-in", computed: counted });
    expect(mark && mark !== "excused" && [written(mark.earned), written(mark.awaited)]).toEqual(["16", "2"]);
  });
});

test("scales compare unrounded and round only for showing", () => {
  const letters: Scale = {
    kind: "letters",
    thresholds: [
      { name: "A", from: 80 },
      { name: "B", from: "200/3" },
      { name: "C", from: 50 },
    ],
  };
  expect(onScale(exact("79.999").div(100), letters)).toEqual("B");
  expect(onScale(exact("2/3"), letters)).toEqual("B");
  expect(onScale(exact("1/3"), letters)).toEqual("below the scale");
  expect(onScale(exact("0.7999"), { kind: "reached", from: 80 })).toEqual("not reached");
  expect(onScale(exact("33/40"), { kind: "marks", maximum: 20 })).toEqual("16.5");
  expect(rangeOnScale(exact("0.81"), exact("0.9"), letters)).toEqual("A");
  expect(rangeOnScale(exact("0.5"), exact("0.9"), letters)).toEqual("C to A");
});

describe("what do I need here?", () => {
  const item = (id: string, most: number, earned: number | null) => ({
    id,
    maximum: exact(most),
    mark: earned === null ? null : { earned: exact(earned), awaited: exact(0) },
  });
  const course = (quiz: number, plan: number | null): Category[] => [
    { id: "q", weight: exact(40), mean: "by-points", dropLowest: 0, items: [item("quiz", 20, quiz)] },
    { id: "w", weight: exact(60), mean: "by-points", dropLowest: 0, items: [item("plan", 50, plan)] },
  ];
  test("the least mark that brings the course to the target", () => {
    const need = needIn(course(16, null), "plan", exact("0.8"));
    expect(need.answer === "mark" && shown(need.marks)).toEqual("40");
    const odd = needIn(course(16, null), "plan", exact("0.801"));
    expect(odd.answer === "mark" && shown(odd.marks)).toEqual("40.09");
  });
  test("out of reach, or already there", () => {
    expect(needIn(course(4, null), "plan", exact("0.8")).answer).toEqual("out-of-reach");
    expect(needIn(course(20, null), "plan", exact("0.4")).answer).toEqual("already-there");
  });
});

test("the range of a course always holds what it comes to in the end", () => {
  const items = fc.array(
    fc.record({
      most: fc.integer({ min: 1, max: 30 }),
      earned: fc.nat(30),
      awaited: fc.nat(30),
      final: fc.nat(100),
    }),
    { minLength: 1, maxLength: 6 },
  );
  fc.assert(
    fc.property(
      fc.array(items, { minLength: 1, maxLength: 3 }),
      fc.nat(2),
      fc.boolean(),
      (groups, dropLowest, equal) => {
        const build = (ended: boolean): Category[] =>
          groups.map((group, i) => ({
            id: String(i),
            weight: exact(i + 1),
            mean: equal ? "equal" : "by-points",
            dropLowest,
            items: group.map((each, j) => {
              const earned = exact(Math.min(each.earned, each.most));
              const awaited = exact(Math.min(each.awaited, each.most)).mul("1/2");
              const rest = exact(each.most).sub(earned);
              const open = awaited.compare(rest) > 0 ? rest : awaited;
              return {
                id: `${i} ${j}`,
                maximum: exact(each.most),
                mark: ended
                  ? { earned: earned.add(open.mul(`${each.final}/100`)), awaited: exact(0) }
                  : { earned, awaited: open },
              };
            }),
          }));
        const now = courseStanding(build(false));
        const end = courseStanding(build(true)).markedSoFar ?? exact(0);
        return (now.low ?? exact(0)).compare(end) <= 0 && (now.high ?? exact(0)).compare(end) >= 0;
      },
    ),
    { numRuns: 400 },
  );
});
