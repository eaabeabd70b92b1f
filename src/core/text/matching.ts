import { type Said, said } from "../said";

/** How a typed text is compared with an accepted answer. */
export interface TextRules {
  /** Case is ignored unless this is set. */
  readonly caseMatters?: boolean | undefined;
  /** Accents are kept unless this is set. */
  readonly ignoreAccents?: boolean | undefined;
  /** One insertion, deletion, change or swap of neighbours is forgiven in words of 5 or more letters. */
  readonly typingMistake?: boolean | undefined;
  /** Hyphens and spaces are ignored unless this is set: "buff tailed", "buff-tailed" and "bufftailed" are one. */
  readonly hyphensMatter?: boolean | undefined;
  /** An article in front ("a bee", "the bee") is ignored unless this is set. */
  readonly articlesMatter?: boolean | undefined;
}

const LONG_WORD = 5;

/**
 * What counts in a typed text, for the line beside it.
 * @example textRuleWords({ hyphensMatter: true, articlesMatter: true }) → "Capitals do not count; accents do; spelling counts; hyphens, spaces and articles count."
 */
export function textRuleWords(rules: TextRules): Said {
  const { caseMatters, ignoreAccents, typingMistake, hyphensMatter, articlesMatter } = rules;
  return said("text.matching.rules", {
    capitals: caseMatters
      ? said("text.matching.capitals-count")
      : said("text.matching.capitals-do-not-count"),
    accents: ignoreAccents ? said("text.matching.accents-do-not") : said("text.matching.accents-do"),
    spelling: typingMistake
      ? said("text.matching.one-typing-mistake-in-a-longer")
      : said("text.matching.spelling-counts"),
    joints: hyphensMatter
      ? articlesMatter
        ? said("text.matching.hyphens-spaces-and-articles-count")
        : said("text.matching.hyphens-and-spaces-count")
      : articlesMatter
        ? said("text.matching.hyphens-and-spaces-do-not-count-articles-do")
        : said("text.matching.hyphens-spaces-and-articles-do-not-count"),
  });
}

/**
 * A text as it is compared: Unicode NFKC, trimmed, inner spaces to one, without a full stop at its end; case and accents as
 * the rules say.
 * @example normalised("  Chart   Datum ", {}) → "chart datum"
 */
export function normalised(text: string, rules: TextRules): string {
  const whole = text.normalize("NFKC").trim().replace(/\s+/g, " ");
  let result = whole.replace(/(?<=[^.\s])\s*[.。]$/, "");
  if (rules.ignoreAccents)
    result = result
      .normalize("NFD")
      .replace(/\p{M}+/gu, "")
      .normalize("NFC");
  return rules.caseMatters ? result : result.toLowerCase();
}

/** Hyphens and dashes as people write them, and the spaces around them. */
const JOINTS = /[\s\p{Pd}\u2212\u00ad]+/gu;

/** A text as it is compared, its article taken off where that does not decide; hyphens to spaces where they do not. */
function spaced(text: string, rules: TextRules): string {
  const plain = normalised(text, rules);
  const apart = rules.hyphensMatter ? plain : plain.replace(JOINTS, " ").trim();
  // An article alone is an answer of its own ("A").
  return rules.articlesMatter ? apart : apart.replace(/^(?:an?|the) (?=.)/i, "");
}

/**
 * The same for all texts between which the rules see no difference.
 * @example folded("The buff-tailed Bumblebee.", {}) → "bufftailedbumblebee"
 */
export const folded = (text: string, rules: TextRules): string =>
  rules.hyphensMatter ? spaced(text, rules) : spaced(text, rules).replaceAll(" ", "");

/**
 * Whether a text matches a pattern in which `*` stands for any run of characters. Greedy with one point of return:
 * at most (length of text) x (length of pattern) steps, whatever the pattern.
 * @example matchesPattern("leafcutter bees", "leafcutter bee*") → true
 */
export function matchesPattern(text: string, pattern: string): boolean {
  let [t, p, starAt, resumeAt] = [0, 0, -1, 0];
  while (t < text.length) {
    if (pattern[p] === "*") {
      starAt = p;
      resumeAt = t;
      p += 1;
    } else if (p < pattern.length && pattern[p] === text[t]) {
      t += 1;
      p += 1;
    } else if (starAt >= 0) {
      p = starAt + 1;
      resumeAt += 1;
      t = resumeAt;
    } else return false;
  }
  while (pattern[p] === "*") p += 1;
  return p === pattern.length;
}

/**
 * Whether two words differ by at most one insertion, deletion, change, or swap of neighbours.
 * @example oneTypoApart("datum", "dautm") → true
 */
export function oneTypoApart(a: string, b: string): boolean {
  const [x, y] = [[...a], [...b]];
  if (Math.abs(x.length - y.length) > 1) return false;
  let start = 0;
  while (start < x.length && start < y.length && x[start] === y[start]) start += 1;
  let [endX, endY] = [x.length, y.length];
  while (endX > start && endY > start && x[endX - 1] === y[endY - 1]) {
    endX -= 1;
    endY -= 1;
  }
  const [restX, restY] = [endX - start, endY - start];
  if (restX + restY <= 1 || (restX === 1 && restY === 1)) return true;
  return restX === 2 && restY === 2 && x[start] === y[start + 1] && x[start + 1] === y[start];
}

/**
 * Whether a word matches a pattern with `*` by at most one insertion, deletion, change or swap of neighbours; by the
 * fewest edits for each pair of beginnings.
 */
function patternWithinOne(word: string, pattern: string): boolean {
  const [x, y] = [[...word], [...pattern.replace(/\*+/g, "*")]];
  let before: number[] = [];
  let last = [0];
  for (const [j, sign] of y.entries()) last.push(sign === "*" ? (last[j] ?? 0) : (last[j] ?? 0) + 1);
  for (let i = 1; i <= x.length; i += 1) {
    const row = [i];
    for (let j = 1; j <= y.length; j += 1) {
      const [above, left, corner] = [last[j] ?? 0, row[j - 1] ?? 0, last[j - 1] ?? 0];
      if (y[j - 1] === "*") {
        row.push(Math.min(above, left));
        continue;
      }
      // Two neighbours of the word that stand the other way round in the pattern, perhaps about a `*` for nothing.
      const other = y[j - 2] === "*" ? j - 3 : j - 2;
      const isSwap = i > 1 && other >= 0 && x[i - 1] === y[other] && x[i - 2] === y[j - 1];
      row.push(
        Math.min(
          above + 1,
          left + 1,
          corner + (x[i - 1] === y[j - 1] ? 0 : 1),
          isSwap ? (before[other] ?? 0) + 1 : Number.POSITIVE_INFINITY,
        ),
      );
    }
    before = last;
    last = row;
  }
  return (last[y.length] ?? 2) <= 1;
}

/** Whether one word is another, or has one typing mistake where it is long enough for one to be forgiven. */
function isWord(word: string, wanted: string): boolean {
  const isLong = [...wanted.replaceAll("*", "")].length >= LONG_WORD;
  if (wanted.includes("*")) return matchesPattern(word, wanted) || (isLong && patternWithinOne(word, wanted));
  // Where capitals count, one that is wrong is no typing mistake.
  const isCase = word.toLowerCase() === wanted.toLowerCase();
  return word === wanted || (isLong && !isCase && oneTypoApart(word, wanted));
}

/** Word by word, a word with one typing mistake for the right one; a `*` by itself stands for any words, or none. */
function matchesWithSlip(text: string, accepted: string): boolean {
  const [written, right] = [text.split(" "), accepted.split(" ")];
  // What the rest of the words can be matched with, from each place on, from the end.
  let reached = written.map(() => false).concat(true);
  for (const wanted of right.reverse()) {
    const next: boolean[] = written.map(() => false).concat(false);
    for (let i = written.length; i >= 0; i -= 1) {
      next[i] =
        wanted === "*"
          ? (reached[i] ?? false) || (next[i + 1] ?? false)
          : i < written.length && (reached[i + 1] ?? false) && isWord(written[i] ?? "", wanted);
    }
    reached = next;
  }
  if (reached[0] === true) return true;
  // Parted or joined in another way, and a mistake in it.
  const [joined, wanted] = [text.replaceAll(" ", ""), accepted.replaceAll(" ", "")];
  return written.length !== right.length && !wanted.includes("*") && isWord(joined, wanted);
}

/**
 * In what a text that is not taken differs from one that would be, where it is only its writing; null: in more.
 * @example writingDifference("dautm", "datum", { typingMistake: true }) → "only a letter or two differ"
 */
export function writingDifference(written: string, accepted: string, rules: TextRules): Said | null {
  const same = (change: TextRules) => normalised(written, change) === normalised(accepted, change);
  if (accepted.includes("*")) return null;
  if (same({ ...rules, caseMatters: false })) return said("text.matching.only-the-capitals-differ");
  if (same({ ...rules, ignoreAccents: true })) return said("text.matching.only-the-accents-differ");
  const bare = (text: string) =>
    normalised(text, { caseMatters: false, ignoreAccents: true }).replace(/[\s\p{P}]+/gu, "");
  if (bare(written) === bare(accepted)) return said("text.matching.only-signs-or-spaces-differ");
  return matchesWithSlip(spaced(written, rules), spaced(accepted, rules))
    ? said("text.matching.only-a-letter-or-two-differ")
    : null;
}

/**
 * Whether a text is taken although a word of it is not written rightly.
 * @example isForgiven("dautm", "datum", { typingMistake: true }) → true
 */
export const isForgiven = (written: string, accepted: string, rules: TextRules): boolean =>
  !matchesText(written, accepted, { ...rules, typingMistake: false });

/**
 * Whether a typed text matches an accepted answer.
 * @example matchesText("Chart Datum", "chart datum", {}) → true
 */
export function matchesText(written: string, accepted: string, rules: TextRules): boolean {
  const [text, wanted] = [folded(written, rules), folded(accepted, rules)];
  if (wanted.includes("*") ? matchesPattern(text, wanted) : text === wanted) return true;
  return rules.typingMistake === true && matchesWithSlip(spaced(written, rules), spaced(accepted, rules));
}
