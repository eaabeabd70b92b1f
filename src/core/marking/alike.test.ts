import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { alikeness, alikePairs, commonPassages, SHORTEST_COMPARED, wordsOf } from "./alike";

/** A text of so many words, each its own. */
const text = (from: number, words: number) =>
  Array.from({ length: words }, (_, i) => `word${from + i}`).join(" ");

describe("alike answers", () => {
  test("shingles of five words, over those of the shorter", () => {
    // 50 words have 46 shingles; 20 that follow each other are shared: 16 shingles.
    const a = text(0, 50);
    const b = `${text(0, 20)} ${text(100, 40)}`;
    const [pair] = alikePairs(
      [
        { id: "a", text: a },
        { id: "b", text: b },
      ],
      [],
    );
    expect(pair).toEqual({ a: "a", b: "b", shared: 16, of: 46 });
  });

  test("case, width and punctuation make no difference", () => {
    const a = text(0, 45);
    const b = text(0, 45).toUpperCase().replace(/ /g, ", ").replace("WORD7", "ＷＯＲＤ７");
    const [pair] = alikePairs(
      [
        { id: "a", text: a },
        { id: "b", text: b },
      ],
      [],
    );
    expect(pair && alikeness(pair)).toBe(1);
  });

  test("answers below 40 words are not compared", () => {
    const short = text(0, SHORTEST_COMPARED - 1);
    expect(
      alikePairs(
        [
          { id: "a", text: short },
          { id: "b", text: short },
        ],
        [],
      ),
    ).toEqual([]);
  });

  test("what stood in the question, and what more than a third wrote, is left out", () => {
    const a = { id: "a", text: text(0, 45) };
    const b = { id: "b", text: text(0, 45) };
    expect(alikePairs([a, b], [`You were told: ${text(0, 45)}.`])).toEqual([]);
    const everyone = Array.from({ length: 6 }, (_, i) => ({
      id: String(i),
      text: `${text(0, 30)} ${text(1_000 * (i + 1), 20)}`,
    }));
    expect(alikePairs(everyone, [])).toEqual([]);
    // Two of six are no more than a third.
    const two = everyone.map((each, i) => (i < 2 ? each : { ...each, text: text(9_000 * (i + 1), 50) }));
    expect(alikePairs(two, [])).toMatchObject([{ a: "0", b: "1", shared: 26 }]);
  });

  test("most alike first", () => {
    const answers = [
      { id: "a", text: text(0, 60) },
      { id: "b", text: `${text(0, 50)} ${text(200, 10)}` },
      { id: "c", text: `${text(50, 10)} ${text(300, 50)}` },
      ...Array.from({ length: 5 }, (_, i) => ({ id: `x${i}`, text: text(1_000 * (i + 1), 50) })),
    ];
    expect(alikePairs(answers, []).map(({ a, b }) => a + b)).toEqual(["ab", "ac"]);
  });
});

describe("common passages", () => {
  test("of eight words and more, where they stand in each", () => {
    const shared = text(0, 8);
    const a = `${text(100, 5)} ${shared} ${text(200, 7)}`;
    const b = `${shared}. ${text(200, 7)}`;
    const [only, ...more] = commonPassages(a, b);
    expect(more).toEqual([]);
    // The seven words after it follow in both, so the passage is fifteen long.
    expect(only?.length).toBe(15);
    expect(b.slice(only?.inB.from, only?.inB.to)).toBe(b);
  });

  test("seven words are none", () => {
    expect(commonPassages(`${text(0, 7)} x`, `${text(0, 7)} y`)).toEqual([]);
  });

  test("whatever the texts: each passage reads alike in both, and none lies within another", () => {
    const words = fc.array(fc.constantFrom("a", "b", "c"), { maxLength: 60 }).map((all) => all.join(" "));
    fc.assert(
      fc.property(words, words, (a, b) => {
        const read = (of: string, { from, to }: { from: number; to: number }) =>
          wordsOf(of.slice(from, to)).map(({ folded }) => folded);
        const passages = commonPassages(a, b);
        for (const { inA, inB, length } of passages) {
          expect(read(a, inA)).toEqual(read(b, inB));
          expect(read(a, inA)).toHaveLength(length);
        }
        const overlap = passages.some((x, i) =>
          passages.slice(i + 1).some((y) => x.inA.from < y.inA.to && y.inA.from < x.inA.to),
        );
        expect(overlap).toBe(false);
      }),
    );
  });
});
