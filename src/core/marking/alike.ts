/** Answers shorter than this are not compared, in words. */
export const SHORTEST_COMPARED = 40;
/** So many words that follow each other are one shingle. */
const SHINGLE = 5;
/** A common passage is shown from so many words on. */
const SHORTEST_PASSAGE = 8;

/** A word of a text: folded, and where it stands in it, in characters. */
interface Word {
  readonly folded: string;
  readonly from: number;
  readonly to: number;
}

/**
 * The words of a text, after NFKC and without case; punctuation is left out.
 * @example wordsOf("The ＥＢＢ, then.").map(({ folded }) => folded) → ["the", "ebb", "then"]
 */
export const wordsOf = (text: string): Word[] =>
  [...text.matchAll(/[\p{L}\p{N}\p{M}]+/gu)].map((found) => ({
    folded: found[0].normalize("NFKC").toLowerCase(),
    from: found.index,
    to: found.index + found[0].length,
  }));

const shinglesOf = (words: readonly Word[]): string[] =>
  words.slice(0, Math.max(0, words.length - SHINGLE + 1)).map((_, i) =>
    words
      .slice(i, i + SHINGLE)
      .map(({ folded }) => folded)
      .join(" "),
  );

/** An answer that is compared with the others. */
export interface TypedAnswer {
  readonly id: string;
  /** Plain text. */
  readonly text: string;
}

/** Two answers with what they share. */
export interface AlikePair {
  readonly a: string;
  readonly b: string;
  /** Shingles shared, and those of the shorter. */
  readonly shared: number;
  readonly of: number;
}

/** The share that two have in common, 0 to 1. */
export const alikeness = ({ shared, of }: Pick<AlikePair, "shared" | "of">): number =>
  of === 0 ? 0 : shared / of;

/**
 * How alike typed answers are, most alike first: the shingles that two share, over those of the shorter. Shingles that stand
 * in the question, its model or its material, or in more than a third of the answers, are left out; so are answers below 40
 * words. It is evidence for a person to look at, and nothing else (rules, "alike answers").
 * @param given texts that everyone had: the question, its model, its material
 */
export function alikePairs(answers: readonly TypedAnswer[], given: readonly string[]): AlikePair[] {
  const compared = answers
    .map(({ id, text }) => ({ id, words: wordsOf(text) }))
    .filter(({ words }) => words.length >= SHORTEST_COMPARED)
    .map(({ id, words }) => ({ id, shingles: new Set(shinglesOf(words)) }));
  const had = new Set(given.flatMap((text) => shinglesOf(wordsOf(text))));
  const holders = new Map<string, number[]>();
  compared.forEach(({ shingles }, i) => {
    for (const each of shingles) if (!had.has(each)) holders.set(each, [...(holders.get(each) ?? []), i]);
  });
  const own = compared.map(() => 0);
  const shared = new Map<string, number>();
  for (const those of holders.values()) {
    // What more than a third wrote is how one says it, unless only two wrote at all.
    if (those.length * 3 > compared.length && those.length > 2) continue;
    for (const [at, i] of those.entries()) {
      own[i] = (own[i] ?? 0) + 1;
      for (const j of those.slice(at + 1)) {
        const key = `${i} ${j}`;
        shared.set(key, (shared.get(key) ?? 0) + 1);
      }
    }
  }
  return [...shared]
    .map(([key, count]): AlikePair => {
      const [i = 0, j = 0] = key.split(" ").map(Number);
      const [a = "", b = ""] = [compared[i]?.id, compared[j]?.id];
      return { a, b, shared: count, of: Math.min(own[i] ?? 0, own[j] ?? 0) };
    })
    .sort((x, y) => alikeness(y) - alikeness(x) || y.shared - x.shared || (x.a < y.a ? -1 : 1));
}

/** A passage that two texts have in common: where it stands in each, in characters. */
export interface CommonPassage {
  readonly inA: { readonly from: number; readonly to: number };
  readonly inB: { readonly from: number; readonly to: number };
  /** In words. */
  readonly length: number;
}

/** The passages of 8 words and more that two texts have in common, longest first and none within another, then in their order. */
export function commonPassages(a: string, b: string): CommonPassage[] {
  const [wordsA, wordsB] = [wordsOf(a), wordsOf(b)];
  const found: { i: number; j: number; length: number }[] = [];
  // The run of equal words that ends at each pair of places, a row at a time.
  let above = new Uint32Array(wordsB.length + 1);
  for (let i = 1; i <= wordsA.length; i += 1) {
    const row = new Uint32Array(wordsB.length + 1);
    for (let j = 1; j <= wordsB.length; j += 1) {
      if (wordsA[i - 1]?.folded !== wordsB[j - 1]?.folded) continue;
      const length = (above[j - 1] ?? 0) + 1;
      row[j] = length;
      const goesOn = wordsA[i]?.folded === wordsB[j]?.folded && i < wordsA.length && j < wordsB.length;
      if (!goesOn && length >= SHORTEST_PASSAGE) found.push({ i: i - length, j: j - length, length });
    }
    above = row;
  }
  const taken: typeof found = [];
  for (const each of found.sort((x, y) => y.length - x.length)) {
    const isFree = taken.every(
      (other) =>
        (each.i + each.length <= other.i || other.i + other.length <= each.i) &&
        (each.j + each.length <= other.j || other.j + other.length <= each.j),
    );
    if (isFree) taken.push(each);
  }
  const span = (words: readonly Word[], at: number, length: number) => ({
    from: words[at]?.from ?? 0,
    to: words[at + length - 1]?.to ?? 0,
  });
  return taken
    .sort((x, y) => x.i - y.i)
    .map(({ i, j, length }) => ({ inA: span(wordsA, i, length), inB: span(wordsB, j, length), length }));
}
