import { type Exact, exact, rounded, ZERO } from "../../numbers/exact";
import { figuresOf, plainWriting } from "../../numbers/read-number";
import { isAmbiguousUnit, unitInWords } from "../../numbers/unit-names";
import { type DrawnVariable, fillIn } from "../../numbers/variables";
import { type Said, said } from "../../said";
import { mistakenValue, type Numeric, type NumericPart, trialDraws, workedOutWith } from "./question";
import { isRight, keyFigure } from "./right-value";

/** What is found in some draws of a part. */
interface Found {
  readonly id: string;
  readonly what: Said;
  /** In how many draws. */
  count: number;
  /** The values of the variables in the first of them. */
  readonly values: string;
}

/** The numbers of a text, as they stand in it; times of day and what is in formulas are none. */
function numbersIn(text: string): string[] {
  const plain = text
    .replace(/\\\(.*?\\\)/g, " ")
    .replace(/<[^>]*>/g, " ")
    .replace(/\d{1,2}:\d{2}/g, " ");
  return [...plain.matchAll(/(?<![\w.,])\d+(?:\.\d+)?(?![\w]*[:\d])/g)].map(([number]) => number);
}

const decimalsOf = (number: string): number => /\.(\d+)$/.exec(number)?.[1]?.length ?? 0;

/** The numbers that a part is worked out from: those of the question and of its own text. */
const dataOf = (question: Numeric, part: NumericPart, texts: ReadonlyMap<string, string>): string[] =>
  [question.text, part.text ?? ""].flatMap((text) => numbersIn(fillIn(text, texts)));

/** Why a key in one draw is one that good students would miss. */
function unfairness(part: NumericPart, key: Exact, data: readonly string[]): Said | null {
  const { tolerance } = part;
  const plain = plainWriting(key);
  if (tolerance.rule === "figures") {
    const { figures } = tolerance;
    const most = Math.max(...data.map(figuresOf));
    if (!plain.includes("/") && key.n !== 0n && figuresOf(plain) < figures)
      return said("quiz-file.kinds.numeric.warnings.fewer-figures", { plain, figures });
    return data.length > 0 && most < figures
      ? said("quiz-file.kinds.numeric.warnings.more-figures-than-the-data", { figures, most })
      : null;
  }
  if (keyFigure(part, key).includes("/"))
    return said("quiz-file.kinds.numeric.warnings.a-fraction", { plain });
  const decimals = Math.max(0, ...data.map(decimalsOf));
  const near = rounded(key, decimals);
  return decimals > 0 && !isRight(exact(near), key, tolerance)
    ? said("quiz-file.kinds.numeric.warnings.narrower-than-the-data", { near })
    : null;
}

/** What is wrong with a usual mistake in one draw: it is right there, or has no value. */
function mistakeTrouble(
  part: NumericPart,
  key: Exact,
  values: ReadonlyMap<string, Exact>,
): { readonly value: string; readonly trouble: Said } | null {
  for (const mistake of part.mistakes ?? []) {
    const value = String(mistake.value);
    const made = mistakenValue(mistake, values);
    if (made === null)
      return { value, trouble: said("quiz-file.kinds.numeric.warnings.mistake-without-value") };
    if (isRight(made, key, part.tolerance))
      return { value, trouble: said("quiz-file.kinds.numeric.warnings.mistake-is-right") };
  }
  return null;
}

const valuesInWords = (values: ReadonlyMap<string, DrawnVariable>): string =>
  [...values].map(([name, { text }]) => `${name} = ${text}`).join(", ");

/**
 * What an author of numbers should look at again: a unit that other subjects read otherwise; keys that have fewer figures
 * than asked for, more than the data, or no end; a tolerance narrower than the data; signs that change; a usual mistake
 * that is right in some draws. Each part's first of a kind, with the values at which it arises.
 */
export function numericWarnings(question: Numeric): Said[] {
  const warnings: Said[] = [];
  for (const part of question.parts) {
    const { unit = "" } = part;
    if (!isAmbiguousUnit(unit, question.unitMeanings ?? {})) continue;
    const words = unitInWords(unit, false) ?? unit;
    warnings.push(said("quiz-file.kinds.numeric.warnings.ambiguous-unit", { id: part.id, unit, words }));
  }
  const found = new Map<string, Found>();
  let draws = 0;
  const note = (id: string, kind: string, what: Said, values: string) => {
    const held = found.get(`${id} ${kind}`);
    if (held) held.count += 1;
    else found.set(`${id} ${kind}`, { id, what, count: 1, values });
  };
  const signs = new Map<string, { negative: boolean; positive: boolean }>();
  for (const values of trialDraws(question.variables ?? [])) {
    draws += 1;
    const work = workedOutWith(question, values);
    const at = valuesInWords(values);
    const texts = new Map([...values].map(([name, { text }]) => [name, text]));
    for (const part of question.parts) {
      const key = work.keys.get(part.id) ?? ZERO;
      const unfair = unfairness(part, key, dataOf(question, part, texts));
      if (unfair) note(part.id, typeof unfair === "string" ? unfair : unfair.code, unfair, at);
      const mistake = mistakeTrouble(part, key, work.values);
      if (mistake)
        note(
          part.id,
          `mistake ${mistake.value}`,
          said("quiz-file.kinds.numeric.warnings.mistake", { ...mistake }),
          at,
        );
      const sign = signs.get(part.id) ?? { negative: false, positive: false };
      signs.set(part.id, {
        negative: sign.negative || key.compare(ZERO) < 0,
        positive: sign.positive || key.compare(ZERO) > 0,
      });
    }
  }
  for (const { id, what, count, values } of found.values()) {
    warnings.push(
      values === ""
        ? said("quiz-file.kinds.numeric.warnings.in-all", { id, what })
        : said("quiz-file.kinds.numeric.warnings.in-draws", { id, what, count, draws, values }),
    );
  }
  for (const [id, { negative, positive }] of signs)
    if (negative && positive) warnings.push(said("quiz-file.kinds.numeric.warnings.sign-changes", { id }));
  return warnings;
}
