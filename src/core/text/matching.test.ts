import fc from "fast-check";
import { expect, test } from "vitest";
import { folded, matchesPattern, matchesText, oneTypoApart } from "./matching";
import { countWords, rangeInWords } from "./word-count";

test.each([
  ["Chart Datum", "chart datum", {}, true],
  ["  chart   datum ", "chart datum", {}, true],
  ["Chart Datum", "chart datum", { caseMatters: true }, false],
  ["ﬁx", "fix", {}, true],
  ["cafe", "café", {}, false],
  ["cafe", "café", { ignoreAccents: true }, true],
  ["the lowest astronomical tide of all", "*lowest astronomical tide*", {}, true],
  ["lowest tide", "*lowest astronomical tide*", {}, false],
  ["chart dautm", "chart datum", { typingMistake: true }, true],
  ["chart datm", "chart datum", { typingMistake: true }, true],
  ["chart dattum", "chart datum", { typingMistake: true }, true],
  ["chart dxtxm", "chart datum", { typingMistake: true }, false],
  ["chart datm", "chart datum", {}, false],
  ["port", "part", { typingMistake: true }, false],
  ["charts datums", "chart datum", { typingMistake: true }, true],
  ["a leafcutter bee", "leafcutter bee", {}, true],
  ["The pollen basket", "pollen-basket", {}, true],
  ["leaf cutter bee", "leafcutter bee", {}, true],
  ["buff tailed bumblebee", "buff-tailed bumblebee", {}, true],
  ["cocked‑hat", "cocked hat", {}, true],
  ["cocked–hat", "cocked hat", { hyphensMatter: true }, false],
  ["cocked hat", "cocked-hat", { hyphensMatter: true }, false],
  ["a bee", "bee", { articlesMatter: true }, false],
  ["bee", "a bee", {}, true],
  ["A", "a", {}, true],
  ["vitamin a", "vitamin", {}, false],
  ["another bee", "other bee", {}, false],
  ["buff tailed bumble bee", "buff-tailed bumblebee", { typingMistake: true }, true],
  ["buff taild bumblebee", "buff-tailed bumblebee", { typingMistake: true }, true],
  ["bumbel bee", "bumblebee", { typingMistake: true }, true],
  ["lo tide", "low tide", { typingMistake: true }, false],
  ["leafcuter bees", "leafcutter bee*", { typingMistake: true }, true],
  ["leafcutter beeees", "leafcutter b*", { typingMistake: true }, true],
  ["a stamne", "stamen*", { typingMistake: true }, true],
  ["stigma", "stamen*", { typingMistake: true }, false],
  ["the lowest astronomcal tide of all", "* lowest astronomical tide *", { typingMistake: true }, true],
  ["", "*", { typingMistake: true }, true],
  ["bombus terrestris", "Bombus terrestris", { typingMistake: true, caseMatters: true }, false],
  ["Bombus terestris", "Bombus terrestris", { typingMistake: true, caseMatters: true }, true],
] as const)("%j against %j with %j", (written, accepted, rules, right) => {
  expect(matchesText(written, accepted, rules)).toEqual(right);
});

/** Damerau's distance with the swap of neighbours, the slow way. */
function distance(a: string, b: string): number {
  const [x, y] = [[...a], [...b]];
  const d = Array.from({ length: x.length + 1 }, (_, i) =>
    Array.from({ length: y.length + 1 }, (_, j) => (i === 0 ? j : j === 0 ? i : 0)),
  );
  const at = (i: number, j: number) => d[i]?.[j] ?? Number.POSITIVE_INFINITY;
  for (let i = 1; i <= x.length; i += 1) {
    for (let j = 1; j <= y.length; j += 1) {
      const change = at(i - 1, j - 1) + (x[i - 1] === y[j - 1] ? 0 : 1);
      const swap =
        i > 1 && j > 1 && x[i - 1] === y[j - 2] && x[i - 2] === y[j - 1]
          ? at(i - 2, j - 2) + 1
          : Number.POSITIVE_INFINITY;
      (d[i] as number[])[j] = Math.min(at(i - 1, j) + 1, at(i, j - 1) + 1, change, swap);
    }
  }
  return at(x.length, y.length);
}

test("one typing mistake is one insertion, deletion, change or swap, as the slow way counts", () => {
  const word = fc.string({ unit: fc.constantFrom("a", "b", "c"), maxLength: 7 });
  fc.assert(
    fc.property(word, word, (a, b) => oneTypoApart(a, b) === distance(a, b) <= 1),
    { numRuns: 5_000 },
  );
});

test("between texts that are folded alike the rules see no difference, and between others they do", () => {
  const text = fc.string({ unit: fc.constantFrom("a", "the", "b", " ", "-", "B"), maxLength: 6 });
  fc.assert(
    fc.property(text, text, fc.boolean(), fc.boolean(), (a, b, hyphensMatter, articlesMatter) => {
      const rules = { hyphensMatter, articlesMatter };
      return matchesText(a, b, rules) === (folded(a, rules) === folded(b, rules));
    }),
  );
});

/** Whether a pattern takes a word after one change, the slow way: every word that is one change away is tried. */
function takesChanged(word: string, pattern: string): boolean {
  const letters = ["a", "b", "c"];
  const places = Array.from({ length: word.length + 1 }, (_, i) => i);
  const changed = places.flatMap((i) => {
    const [before, after] = [word.slice(0, i), word.slice(i)];
    return [
      ...letters.flatMap((letter) => [before + letter + after, before + letter + after.slice(1)]),
      before + after.slice(1),
      before + (after[1] ?? "") + (after[0] ?? "") + after.slice(2),
    ];
  });
  return [word, ...changed].some((each) => matchesPattern(each, pattern));
}

test("a typing mistake is forgiven in a word with * as in any other", () => {
  const word = fc.string({ unit: fc.constantFrom("a", "b", "c"), minLength: 4, maxLength: 7 });
  fc.assert(
    fc.property(word, word, fc.nat(7), (written, wanted, at) => {
      const pattern = `${wanted.slice(0, at)}*${wanted.slice(at)}`;
      const isTaken = wanted.length >= 5 ? takesChanged(written, pattern) : matchesPattern(written, pattern);
      return matchesText(written, pattern, { typingMistake: true }) === isTaken;
    }),
    { numRuns: 10_000 },
  );
});

test("a pattern matches what an expression would, and cannot hang", () => {
  const letters = fc.string({ unit: fc.constantFrom("a", "b", "*"), maxLength: 8 });
  fc.assert(
    fc.property(letters, fc.string({ unit: fc.constantFrom("a", "b"), maxLength: 10 }), (pattern, text) => {
      const expression = new RegExp(`^${pattern.split("*").join(".*")}$`);
      return matchesPattern(text, pattern) === expression.test(text);
    }),
    { numRuns: 3_000 },
  );
  const started = performance.now();
  expect(matchesPattern("a".repeat(500), `${"*a".repeat(240)}*b`)).toBe(false);
  expect(performance.now() - started).toBeLessThan(1_000);
});

test("words are counted as people count them", () => {
  expect(countWords("<p>High water at 11:20, and the ship's boat is well-found.</p>")).toBe(11);
  expect(countWords("<p>One</p><p>two</p>")).toBe(2);
  expect(countWords("")).toBe(0);
  expect(rangeInWords({ least: 200, most: 300 })).toEqual("200 to 300 words");
});
