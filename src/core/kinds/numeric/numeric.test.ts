import { describe, expect, test } from "vitest";
import { english } from "../../../../tests/support/english";
import { triesOf, withTries } from "../../attempt/tries";
import { exact } from "../../numbers/exact";
import { openSeed } from "../../numbers/seeded";
import type { Said } from "../../said";
import { askedOf, type NumberTerms, numericAnswering } from "./answer";
import { numericMarking } from "./mark";
import type { Numeric, NumericPart } from "./question";
import { numericShape } from "./question";

const part = (change: Partial<NumericPart> = {}): NumericPart => ({
  id: "a",
  marks: 1,
  key: "4.2",
  tolerance: { rule: "figures", figures: 3 },
  ...change,
});
const question = (...parts: NumericPart[]): Numeric => ({
  id: "q",
  kind: "numeric",
  text: "?",
  marks: parts.length,
  parts,
});
const line = (of: NumericPart, text: string) =>
  numericMarking.mark(question(of), openSeed("s"), { parts: { a: text } }).parts[0];

describe("units", () => {
  const needed = part({ unit: "m", unitRule: "needed" });
  test.each([
    ["420 cm", "full", "right"],
    ["4.20 m", "full", "right"],
    ["0.00420 km", "full", "right"],
    ["4.20", "none", "unit missing: m, which loses the marks"],
    ["4.20 s", "none", "wrong quantity: s does not measure what m does"],
    ["4.20 blorps", "awaits", "the unit “blorps” could not be read; your instructor decides"],
  ])("4.2 m needed, written %s: %s", (text, state, why) => {
    expect(line(needed, text)).toMatchObject({ state, why });
  });

  test("a missing unit loses what the quiz says", () => {
    const mild = part({ unit: "m", unitRule: "needed", unitMissingLoses: "1/4" });
    expect(line(mild, "4.20")).toMatchObject({
      state: "part",
      marks: "3/4",
      why: "unit missing: m, which loses 25 % of the marks",
    });
    expect(line({ ...mild, unitMissingLoses: 0 }, "4.20")).toMatchObject({ state: "full", marks: "1" });
  });

  test("per cent and degrees Celsius may be written out", () => {
    const share = part({ unit: "%", key: "68", tolerance: { rule: "absolute", within: "0.5" } });
    for (const text of ["68", "68 %", "68%", "68 percent", "68 per cent"])
      expect([text, line(share, text)?.state]).toEqual([text, "full"]);
    expect(line(share, "68 m")?.state).toEqual("none");
    const warm = part({ unit: "°C", key: "28", tolerance: { rule: "absolute", within: "0.5" } });
    for (const text of [
      "28 °C",
      "28 degrees C",
      "28 deg C",
      "28 ° C",
      "28 Celsius",
      "82.4 °F",
      "82.4 degrees F",
    ])
      expect([text, line(warm, text)?.state]).toEqual([text, "full"]);
    expect(line(warm, "28 degrees")?.state).toEqual("none");
  });

  test("where the unit is printed it may be written all the same", () => {
    const printed = part({ unit: "kn", key: "6", tolerance: { rule: "absolute", within: "0.01" } });
    expect(line(printed, "6")?.state).toEqual("full");
    expect(line(printed, "6 kn")?.state).toEqual("full");
    expect(line(printed, "11.112 km/h")?.state).toEqual("full");
  });

  test.each([
    ["77 °F", "25", "°C"],
    ["1 NM", "1.852", "km"],
    ["90 min", "1.5", "h"],
    ["36 km/h", "10", "m/s"],
    ["2 m s⁻¹", "2", "m/s"],
    ["1500 ml", "1.5", "L"],
    ["15000 m²", "1.5", "ha"],
    ["30′", "0.5", "°"],
  ])("%s is %s %s", (text, key, unit) => {
    expect(line(part({ key, unit, tolerance: { rule: "relative", within: "1e-9" } }), text)?.state).toEqual(
      "full",
    );
  });

  test("a question may say what a symbol means to it", () => {
    const q: Numeric = {
      ...question(part({ key: "1.852", unit: "km", tolerance: { rule: "absolute", within: "0" } })),
      unitMeanings: { nm: "nauticalmile" },
    };
    expect(numericMarking.mark(q, openSeed("s"), { parts: { a: "1 nm" } }).state).toEqual("full");
  });

  const terms: NumberTerms = {
    unit: "",
    unitNeeded: true,
    ownUnit: "",
    figures: 3,
    comma: null,
    unitMeanings: {},
  };
  const asked = (text: string, change: Partial<NumberTerms> = {}) =>
    askedOf(text, { ...terms, ...change }).map(({ met, words }) => `${met ? "" : "NOT "}${english(words)}`);

  test.each([
    ["4.20 m", {}, ["read as 4.2", "metres", "3 significant figures"]],
    ["50 m", {}, ["read as 50", "metres", "NOT 2 of the 3 significant figures asked for"]],
    ["4.5 nm", { figures: 0 }, ["read as 4.5", "nanometres"]],
    ["4.5 nm", { figures: 0, unitMeanings: { nm: "nauticalmile" } }, ["read as 4.5", "nautical miles"]],
    ["1 nautical mile", { figures: 0 }, ["read as 1", "nautical mile"]],
    ["15 km/h", { figures: 0 }, ["read as 15", "kilometres per hour"]],
    ["9.81 m s⁻²", {}, ["read as 9.81", "metres per square second", "3 significant figures"]],
    ["4.2 blorg", { figures: 0 }, ["read as 4.2", "NOT “blorg” is not a unit known here"]],
    ["2000 gramm", { figures: 0 }, ["read as 2000", "NOT “gramm” is not a unit known here"]],
    ["4.20", {}, ["read as 4.2", "NOT the unit is missing", "3 significant figures"]],
    ["0.00 m", {}, ["read as 0", "metres", "3 significant figures"]],
    ["1/3", { unitNeeded: false }, ["read as 1/3"]],
    ["1,500", { unitNeeded: false }, ["NOT Can be read as 1.500 or as 1500. Choose which you mean."]],
    ["1,500 m", { comma: "thousands", figures: 0 }, ["read as 1500", "metres"]],
    ["1,500 m", { comma: "decimals", figures: 0 }, ["read as 1.5", "metres"]],
    ["abc", {}, ["NOT Start with a number, such as 4.2 or 1.5e3."]],
  ] as const)("what is asked of %s, and what of it is there", (text, change, words) => {
    expect(asked(text, change)).toEqual(words);
  });

  test("of two readings each can be taken as it is written", () => {
    const [first] = askedOf("1,500 m", terms);
    expect(first?.either).toEqual(["1.500 m", "1500 m"]);
    expect(asked("1500 m")).toEqual(["read as 1500", "metres", "4 significant figures"]);
  });

  test("what is not complete is not counted as answered", () => {
    const of = question({ ...part({ key: "4.2", unit: "m" }), unitRule: "needed" });
    const presented = numericMarking.present(of, openSeed("s"));
    const fill = (text: string) => numericAnswering.fill(presented, { parts: { a: text } }).state;
    expect(["abc", "4.2", "4.2 blorg", "1,500 m"].map(fill)).toEqual(["part", "part", "part", "part"]);
    expect(fill("4.20 m")).toEqual("full");
  });

  test("a unit that is not known never becomes part of a wrong value: a person decides", () => {
    const of = part({ key: "4.2", unit: "m", tolerance: { rule: "relative", within: "0.01" } });
    expect(line(of, "4.2 blorg")).toMatchObject({ state: "awaits" });
    expect(line(of, "4.2 metres")).toMatchObject({ state: "full" });
    expect(line(of, "0.0042 kilometres")).toMatchObject({ state: "full" });
  });
});

describe("error carried forward", () => {
  const tide: Numeric = {
    id: "tide",
    kind: "numeric",
    text: "?",
    marks: 6,
    parts: [
      { id: "a", marks: 2, key: "4.2", tolerance: { rule: "absolute", within: "0.005" } },
      { id: "b", marks: 2, key: "4.8 - 3/12*a", tolerance: { rule: "absolute", within: "0.005" } },
      { id: "c", marks: 2, key: "b + 0.9 - 1.4", tolerance: { rule: "absolute", within: "0.005" } },
    ],
  };
  const mark = (parts: Record<string, string>, q = tide) => numericMarking.mark(q, openSeed("s"), { parts });

  test("written 4.2, 3.57, 3.07: a right, b wrong, c carried forward", () => {
    const marked = mark({ a: "4.2", b: "3.57", c: "3.07" });
    expect(marked.parts.map((each) => each.state)).toEqual(["full", "none", "full"]);
    expect(marked.parts[2]?.why).toEqual("carried forward: right for the 3.57 you found in b");
    expect(marked.marks).toEqual("4");
  });

  test("the true key is compared first, and the earlier loss stands once", () => {
    expect(mark({ a: "4", b: "3.75", c: "3.25" }).parts.map((each) => each.why)).toEqual([
      "not the right value",
      "right",
      "right",
    ]);
    expect(mark({ a: "4", b: "3.8", c: "3.3" }).marks).toEqual("4");
  });

  test("an earlier part left empty or unreadable counts as the true value", () => {
    expect(mark({ b: "3.75" }).parts[1]?.state).toEqual("full");
    expect(mark({ a: "much", b: "3.75" }).parts[1]?.state).toEqual("full");
    expect(mark({ c: "3.07" }).parts[2]?.state).toEqual("none");
  });

  test("a part may say that nothing is carried into it; a division by zero carries nothing", () => {
    const strict = { ...tide, parts: tide.parts.map((each) => ({ ...each, carriesForward: false })) };
    expect(mark({ a: "4.2", b: "3.57", c: "3.07" }, strict).parts[2]?.state).toEqual("none");
    const quotient: Numeric = {
      ...tide,
      marks: 4,
      parts: [
        { id: "a", marks: 2, key: "4", tolerance: { rule: "absolute", within: "0" } },
        { id: "b", marks: 2, key: "8 / a", tolerance: { rule: "absolute", within: "0" } },
      ],
    };
    expect(mark({ a: "0", b: "7" }, quotient).parts.map((each) => each.state)).toEqual(["none", "none"]);
  });

  test("in other units too", () => {
    const metric = { ...tide, parts: tide.parts.map((each) => ({ ...each, unit: "m" })) };
    expect(mark({ a: "420 cm", b: "357 cm", c: "3.07 m" }, metric).parts[2]?.state).toEqual("full");
  });
});

describe("usual mistakes", () => {
  const within = { rule: "absolute", within: "0.05" } as const;
  const trip: Numeric = {
    id: "trip",
    kind: "numeric",
    text: "{d} km at {v} km/h",
    marks: 4,
    variables: [
      { name: "d", list: ["30"] },
      { name: "v", list: ["12"] },
    ],
    parts: [
      {
        id: "a",
        marks: 2,
        key: "d / v",
        tolerance: within,
        unit: "h",
        mistakes: [
          { value: "v / d", feedback: "<p>{v} / {d} turns it round; {d} / {v} = {a}.</p>" },
          { value: "d * v", feedback: "<p>Divide.</p>", credit: "1/4" },
          { value: "10 * a", feedback: "<p>The point.</p>" },
        ],
      },
      {
        id: "b",
        marks: 2,
        key: "2 * a + 2",
        tolerance: within,
        unit: "h",
        mistakes: [{ value: "2 * a", feedback: "<p>Add the hour in port.</p>", credit: "1/2" }],
      },
    ],
  };
  const mark = (parts: Record<string, string>) => numericMarking.mark(trip, openSeed("s"), { parts });

  test("a wrong value that many write is told in its own words, with this attempt's values", () => {
    expect(mark({ a: "0.4" }).parts[0]).toMatchObject({
      state: "none",
      marks: "0",
      why: "not the right value; a usual mistake",
      feedback: "<p>12 / 30 turns it round; 30 / 12 = 2.5.</p>",
    });
    expect(mark({ a: "25" }).parts[0]?.feedback).toEqual("<p>The point.</p>");
    expect(mark({ a: "7" }).parts[0]).toMatchObject({ why: "not the right value" });
    expect(mark({ a: "7" }).parts[0]).not.toHaveProperty("feedback");
    expect(mark({ a: "2.5" }).parts[0]).not.toHaveProperty("feedback");
  });

  test("it keeps what the author says, in any unit, and the right value comes first", () => {
    expect(mark({ a: "360 h" }).parts[0]).toMatchObject({
      state: "part",
      marks: "1/2",
      why: "a usual mistake, worth 25 % of the marks",
    });
    expect(mark({ a: "21600 min" }).parts[0]).toMatchObject({ marks: "1/2" });
    expect(mark({ a: "2 h 30 min" }).parts[0]).toMatchObject({ state: "full" });
  });

  test("the same mistake with one's own earlier answer is known too, and nothing is carried from it twice", () => {
    expect(mark({ a: "3", b: "6" }).parts[1]).toMatchObject({
      marks: "1",
      why: "a usual mistake, worth 50 % of the marks",
    });
    expect(mark({ a: "3", b: "8" }).parts[1]).toMatchObject({ marks: "2" });
    expect(mark({ a: "3", b: "7" }).parts[1]).toMatchObject({ marks: "2" });
    expect(mark({ a: "3", b: "5" }).parts[1]).toMatchObject({ marks: "1" });
  });

  test("one that cannot be worked out is refused in the file", () => {
    const faulty = {
      ...trip,
      parts: trip.parts.map((each) => ({ ...each, mistakes: [{ value: "z", feedback: "?" }] })),
    };
    expect(() => numericShape.validateSync(faulty, { strict: true })).toThrow();
    expect(() => numericShape.validateSync(trip, { strict: true })).not.toThrow();
  });
});

test("a right answer is never shown as a fraction where a decimal would be right", () => {
  const shown = (key: string, within: string) =>
    numericMarking.mark(question(part({ key, tolerance: { rule: "absolute", within } })), openSeed("s"), null)
      .parts[0]?.right;
  expect(shown("640/3", "1")).toEqual("213");
  expect(shown("640/3", "0.05")).toEqual("213.3");
  expect(shown("2/3", "0.00001")).toEqual("0.66667");
  expect(shown("15/4", "0.05")).toEqual("3.75");
  expect(shown("1/3", "0")).toEqual("1/3");
});

describe("tries", () => {
  const thirds: Numeric = {
    id: "q",
    kind: "numeric",
    text: "?",
    marks: 5,
    parts: ["a", "b", "c"].map((id) => ({
      id,
      marks: "5/3",
      key: "7",
      tolerance: { rule: "absolute", within: 0 },
    })),
  };
  const mark = (a: string, b = "7", c = "7") =>
    numericMarking.mark(thirds, openSeed("s"), { parts: { a, b, c } });
  const rules = { most: 5, cost: "1/3" };

  test("part a right at the third try, b and c at once: 3.8889", () => {
    const checks = [mark("1"), mark("2"), mark("7")];
    const after = withTries(mark("7"), triesOf(checks, rules));
    expect(after.parts[0]).toMatchObject({ marks: "5/9", why: "right; 2 wrong tries, 2/3 of the part lost" });
    expect(exact(after.marks).equals(exact("35/9"))).toBe(true);
  });

  test("the same wrong answer again is not a new try, however it is written; an unreadable or empty one is none", () => {
    const [tries] = triesOf([mark("1,5"), mark("1.5"), mark("3/2"), mark("about one"), mark("")], rules);
    expect(tries).toMatchObject({ wrong: 1, left: 4, right: false });
  });

  test("after three wrong tries at a third each the part is worth nothing, and says so", () => {
    const tries = triesOf([mark("1"), mark("2"), mark("3")], rules);
    expect(tries[0]).toMatchObject({ wrong: 3, words: "wrong; this part is worth nothing any more; 2 left" });
    expect(withTries(mark("7"), tries).parts[0]).toMatchObject({ marks: "0", state: "none" });
  });

  test("after a right try nothing counts any more, and tries run out", () => {
    expect(triesOf([mark("7"), mark("1")], rules)[0]).toMatchObject({ wrong: 0, right: true, left: 0 });
    const used = triesOf([mark("1"), mark("2"), mark("3")], { most: 2, cost: "1/10" })[0];
    expect(used).toMatchObject({
      wrong: 2,
      left: 0,
      words: "wrong, no tries left; this part is closed and worth nothing",
    });
  });
});

test("a question whose keys cannot work is refused with what is wrong", () => {
  const problem = (q: Numeric) => {
    try {
      numericShape.validateSync(q, { strict: true });
      return "";
    } catch (error) {
      return english((error as { errors: Said[] }).errors[0] ?? "");
    }
  };
  expect(problem(question(part({ key: "4.2" })))).toEqual("");
  expect(problem(question(part({ key: "z + 1" })))).toContain(
    "uses z, which is neither a variable nor an earlier part",
  );
  expect(problem(question(part({ key: "import(1)" })))).toContain("not a function");
  expect(problem(question(part({ key: "1/0" })))).toContain("divides by zero");
  expect(problem(question(part({ id: "sin" })))).toContain("constant or a function");
  expect(
    problem({ ...question(part({ key: "v" })), variables: [{ name: "v", from: 1, to: 0, step: 1 }] }),
  ).toContain("must have a list, or from");
});
