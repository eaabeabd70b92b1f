import { type Said, said } from "../said";

/** How a typed text is compared with an accepted answer. */
export interface TextRules {
  /** Case is ignored unless this is set. */
  readonly caseMatters?: boolean | undefined;
  /** Accents are kept unless this is set. */
  readonly ignoreAccents?: boolean | undefined;
  /** One insertion, deletion, change or swap of neighbours is forgiven in words of 5 or more letters. */
  readonly typingMistake?: boolean | undefined;
}

const LONG_WORD = 5;

/**
 * What counts in a typed text, for the line beside it.
 * @example textRuleWords({}) → "Capitals do not count; accents do; spelling counts."
 */
export function textRuleWords({ caseMatters, ignoreAccents, typingMistake }: TextRules): Said {
  return said("text.matching.rules", {
    capitals: caseMatters
      ? said("text.matching.capitals-count")
      : said("text.matching.capitals-do-not-count"),
    accents: ignoreAccents ? said("text.matching.accents-do-not") : said("text.matching.accents-do"),
    spelling: typingMistake
      ? said("text.matching.one-typing-mistake-in-a-longer")
      : said("text.matching.spelling-counts"),
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

/** Word by word: equal, or in a word of 5 or more letters one typing mistake. */
function matchesWithSlip(text: string, accepted: string): boolean {
  const [written, right] = [text.split(" "), accepted.split(" ")];
  if (written.length !== right.length) return false;
  return written.every((word, i) => {
    const wanted = right[i] ?? "";
    return word === wanted || ([...wanted].length >= LONG_WORD && oneTypoApart(word, wanted));
  });
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
  return matchesWithSlip(normalised(written, rules), normalised(accepted, rules))
    ? said("text.matching.only-a-letter-or-two-differ")
    : null;
}

/**
 * Whether a text is taken although a word of it is not written rightly.
 * @example isForgiven("dautm", "datum", { typingMistake: true }) → true
 */
export const isForgiven = (written: string, accepted: string, rules: TextRules): boolean =>
  !accepted.includes("*") && normalised(written, rules) !== normalised(accepted, rules);

/**
 * Whether a typed text matches an accepted answer. A pattern with `*` forgives no slip.
 * @example matchesText("Chart Datum", "chart datum", {}) → true
 */
export function matchesText(written: string, accepted: string, rules: TextRules): boolean {
  const [text, wanted] = [normalised(written, rules), normalised(accepted, rules)];
  if (wanted.includes("*")) return matchesPattern(text, wanted);
  return text === wanted || (rules.typingMistake === true && matchesWithSlip(text, wanted));
}
