import { type Exact, exact, ONE, shown, sum, written, ZERO } from "../../numbers/exact";
import { FormulaProblem } from "../../numbers/formula";
import { type CommaMeans, plainWriting, readNumber } from "../../numbers/read-number";
import type { AttemptSeed } from "../../numbers/seeded";
import { unitInWords } from "../../numbers/unit-names";
import { converted, readUnit } from "../../numbers/units";
import { fillIn } from "../../numbers/variables";
import { type Said, said, saidTogether, saysSame } from "../../said";
import { QUESTION_FIELDS } from "../fields";
import type { MarkedPart, MarkedQuestion, MarkingKind, MarkState } from "../kind";
import { wholeOf } from "../whole-mark";
import { askedOf, type NumberTerms, type NumericAnswer, type PresentedNumeric } from "./answer";
import {
  formulaOf,
  mistakenValue,
  type Numeric,
  type NumericPart,
  numericShape,
  variablesOf,
  type WorkedOut,
  worksOut,
} from "./question";
import { isRight, keyFigure } from "./right-value";
import { numericWarnings } from "./warnings";

/** What was written for a part: a value in the part's unit, or why there is none. */
type Reading =
  | { readonly state: "empty" }
  | { readonly state: "unreadable"; readonly why: Said }
  | { readonly state: "other-quantity"; readonly unit: string }
  | {
      readonly state: "number";
      readonly value: Exact;
      readonly figures: number;
      readonly unitWritten: boolean;
    };

/** What a comma before three digits means in a question. */
const commaMeans = ({ commaIsThousands }: Numeric): CommaMeans =>
  commaIsThousands === undefined ? null : commaIsThousands ? "thousands" : "decimals";

/** What of a part decides how its text is read: the same for its box, its checks and its marks. */
const termsOf = (question: Numeric, part: NumericPart): NumberTerms => ({
  unit: part.unitRule === "needed" ? "" : (part.unit ?? ""),
  unitNeeded: part.unitRule === "needed",
  ownUnit:
    part.unit !== undefined && unitInWords(part.unit, false, question.unitMeanings) === null ? part.unit : "",
  figures: part.tolerance.rule === "figures" ? part.tolerance.figures : 0,
  comma: commaMeans(question),
  unitMeanings: question.unitMeanings ?? {},
});

/** The same without what holds for the whole question. */
function partTerms(question: Numeric, part: NumericPart) {
  const { comma: _, unitMeanings: __, ...terms } = termsOf(question, part);
  return terms;
}

function readPart(question: Numeric, part: NumericPart, text: string): Reading {
  if (text === "") return { state: "empty" };
  const reading = readNumber(text, { comma: commaMeans(question) });
  if (!reading.ok) return { state: "unreadable", why: said("kinds.numeric.mark.could-not-be-read-as-a") };
  const { value, figures, unit } = reading;
  if (unit === null || part.unit === undefined || unit === part.unit) {
    return { state: "number", value, figures, unitWritten: unit !== null };
  }
  const meanings = question.unitMeanings ?? {};
  if (unitInWords(unit, false, meanings) === null || (!readUnit(unit, meanings).ok && unit !== "%")) {
    return { state: "unreadable", why: said("kinds.numeric.mark.the-unit-could-not-be-read", { unit }) };
  }
  const inKeysUnit = converted(value, unit, part.unit, meanings);
  return inKeysUnit === null
    ? { state: "other-quantity", unit }
    : { state: "number", value: inKeysUnit, figures, unitWritten: true };
}

interface Verdict {
  readonly credit: Exact;
  readonly why: Said;
}

const WRONG: Verdict = { credit: ZERO, why: said("kinds.numeric.mark.not-the-right-value") };

/** What a written part still lacks that is asked for, as a sentence; null: nothing. */
function incompleteWords(question: Numeric, part: NumericPart, text: string, reading: Reading): Said | null {
  if (reading.state === "empty") return null;
  const lacks = askedOf(text, termsOf(question, part)).filter(({ met }) => !met);
  if (lacks.length > 0)
    return said("kinds.numeric.mark.lacks", {
      what: saidTogether(
        lacks.map(({ words }) => words),
        "semicolons",
      ),
    });
  return reading.state === "other-quantity"
    ? said("kinds.numeric.mark.is-a-unit-of-another-quantity", { unit: reading.unit })
    : null;
}

/** The credit of a number against a key, with what is lost for figures and unit. */
function judge(part: NumericPart, reading: Extract<Reading, { state: "number" }>, key: Exact): Verdict {
  const { tolerance } = part;
  const asked = tolerance.rule === "figures" ? tolerance.figures : 0;
  const tooFew = reading.figures < asked;
  const judgedTo =
    tooFew && tolerance.rule === "figures" ? { ...tolerance, figures: reading.figures } : tolerance;
  if (!isRight(reading.value, key, judgedTo)) return WRONG;
  const losses: { lost: Exact; remark: Said }[] = [];
  if (tooFew) {
    losses.push({
      lost: exact(part.tooFewFiguresLoses ?? 1),
      remark: said("kinds.numeric.mark.too-few-figures-right-to-other", { figures: reading.figures, asked }),
    });
  }
  if (part.unitRule === "needed" && !reading.unitWritten) {
    losses.push({
      lost: exact(part.unitMissingLoses ?? 1),
      remark: said("kinds.numeric.mark.unit-missing", { unit: part.unit ?? "" }),
    });
  }
  if (losses.length === 0) return { credit: ONE, why: said("kinds.common.right") };
  const lost = sum(losses.map((each) => each.lost));
  const words = saidTogether(
    losses.map((each) => each.remark),
    "semicolons",
  );
  if (lost.equals(ZERO))
    return { credit: ONE, why: said("kinds.numeric.mark.right-nothing-lost-for-it", { words }) };
  if (lost.compare(ONE) >= 0)
    return { credit: ZERO, why: said("kinds.numeric.mark.which-loses-the-marks", { words }) };
  return {
    credit: ONE.sub(lost),
    why: said("kinds.numeric.mark.which-loses-of-the-marks", { words, percent: shown(lost.mul(100)) }),
  };
}

const keyWords = (part: NumericPart, key: Exact): string =>
  part.unit ? `${keyFigure(part, key)} ${part.unit}` : keyFigure(part, key);

/**
 * Error carried forward: the key as it would be with the student's own earlier answers; null when the part uses none
 * that differs. An earlier part left empty or unreadable counts as the true value.
 */
function carriedKey(
  part: NumericPart,
  work: WorkedOut,
  own: ReadonlyMap<string, Exact>,
): { key: Exact; from: string[] } | null {
  const formula = work.formulas.get(part.id);
  const from =
    formula?.names.filter((name) => own.has(name) && !own.get(name)?.equals(work.keys.get(name) ?? ZERO)) ??
    [];
  if (!formula || from.length === 0 || part.carriesForward === false) return null;
  try {
    return { key: formula.value(new Map([...work.values, ...own])), from };
  } catch (error) {
    if (error instanceof FormulaProblem) return null;
    throw error;
  }
}

/** What a wrong number gets that many write, and what is said to it: by the true earlier answers, or the student's own. */
function mistakeMade(
  part: NumericPart,
  reading: Extract<Reading, { state: "number" }>,
  work: WorkedOut,
  own: ReadonlyMap<string, Exact>,
): (Verdict & { readonly feedback: string }) | null {
  for (const values of own.size > 0 ? [work.values, new Map([...work.values, ...own])] : [work.values]) {
    for (const mistake of part.mistakes ?? []) {
      const value = mistakenValue(mistake, values);
      const verdict = value === null ? WRONG : judge(part, reading, value);
      if (verdict === WRONG) continue;
      const credit = verdict.credit.mul(exact(mistake.credit ?? ZERO));
      const why = credit.equals(ONE)
        ? said("kinds.common.right")
        : credit.equals(ZERO)
          ? said("kinds.numeric.mark.a-usual-mistake")
          : said("kinds.numeric.mark.a-usual-mistake-worth", { percent: shown(credit.mul(100)) });
      return { credit, why, feedback: mistake.feedback };
    }
  }
  return null;
}

function mark(question: Numeric, seed: AttemptSeed, answer: NumericAnswer | null): MarkedQuestion {
  const work = worksOut(question, seed);
  const own = new Map<string, Exact>();
  const ownText = new Map<string, string>();
  const parts = question.parts.map((part): MarkedPart => {
    const text = answer?.parts[part.id]?.trim() ?? "";
    const key = work.keys.get(part.id);
    const maximum = exact(part.marks);
    const reading = readPart(question, part, text);
    const lacking = incompleteWords(question, part, text, reading);
    const made = (state: MarkState, credit: Exact, why: Said, identity = text): MarkedPart => ({
      label: question.parts.length === 1 ? null : part.id,
      written: text,
      right: key ? keyWords(part, key) : "",
      marks: written(maximum.mul(credit)),
      maximum: written(maximum),
      state,
      why,
      identity,
      ...(lacking === null ? {} : { incomplete: lacking }),
    });
    if (!key) {
      const fault = work.faults.get(part.id) ?? said("kinds.numeric.mark.its-key-has-no-value-here");
      const why = said("kinds.numeric.mark.no-rule-can-mark-it-with");
      return { ...made("awaits", ZERO, why), fault };
    }
    if (reading.state === "empty") return made("empty", ZERO, said("kinds.common.empty-no-marks"));
    if (reading.state === "unreadable") return made("awaits", ZERO, reading.why);
    if (reading.state === "other-quantity") {
      return made(
        "none",
        ZERO,
        said("kinds.numeric.mark.wrong-quantity-does-not-measure-what", {
          unit: reading.unit,
          unit2: part.unit ?? "",
        }),
      );
    }
    let verdict = judge(part, reading, key);
    if (verdict === WRONG) {
      const carried = carriedKey(part, work, own);
      const again = carried ? judge(part, reading, carried.key) : WRONG;
      if (carried && again.credit.compare(ZERO) > 0) {
        const found = saidTogether(
          carried.from.map((name) =>
            said("kinds.numeric.mark.the-you-found-in", { value: ownText.get(name) ?? "", name }),
          ),
          "and",
        );
        verdict = {
          credit: again.credit,
          why: said("kinds.numeric.mark.carried-forward-right-for", {
            found,
            also: saysSame(again.why, said("kinds.common.right"))
              ? ""
              : said("kinds.numeric.mark.and-also", { why: again.why }),
          }),
        };
      }
    }
    const mistake = verdict === WRONG ? mistakeMade(part, reading, work, own) : null;
    own.set(part.id, reading.value);
    ownText.set(part.id, text);
    const { credit, why } = mistake ?? verdict;
    const state = credit.equals(ONE) ? "full" : credit.equals(ZERO) ? "none" : "part";
    const asWritten = verdict === WRONG ? "" : ` ${reading.figures} ${reading.unitWritten}`;
    return {
      ...made(state, credit, why, `${plainWriting(reading.value)}${asWritten}`),
      ...(mistake ? { feedback: filledWith(question, work, mistake.feedback) } : {}),
    };
  });
  return wholeOf(exact(question.marks), parts);
}

/** The earlier parts that a key uses itself. */
function usedBy(question: Numeric, part: NumericPart): NumericPart[] {
  const { names } = formulaOf(part);
  return question.parts.slice(0, question.parts.indexOf(part)).filter(({ id }) => names.includes(id));
}

/** The earlier parts that a part builds on, also by way of others, by their places. */
function buildsOn(question: Numeric, place: number): number[] {
  const found = new Set<number>();
  const follow = (part: NumericPart | undefined) => {
    if (!part || part.carriesForward === false) return;
    for (const used of usedBy(question, part)) {
      found.add(question.parts.indexOf(used));
      follow(used);
    }
  };
  follow(question.parts[place]);
  return [...found].sort((a, b) => a - b);
}

/** How a right answer has to be written, for the line beside its box. */
function ruleWords(part: NumericPart, question: Numeric): Said {
  const used = usedBy(question, part).map(({ id }) => id);
  return used.length > 0 && part.carriesForward !== false
    ? said("kinds.numeric.mark.do-first-it-uses-your-answer", { parts: saidTogether(used, "and") })
    : "";
}

/** A text with the values of variables and of keys in it. */
function filledWith(question: Numeric, { variables, keys }: WorkedOut, text: string): string {
  const values = new Map([...variables].map(([name, drawn]) => [name, drawn.text]));
  for (const part of question.parts) {
    const key = keys.get(part.id);
    if (key) values.set(part.id, keyFigure(part, key));
  }
  return fillIn(text, values);
}

function rightAnswer(question: Numeric, seed: AttemptSeed): NumericAnswer | null {
  const { keys, faults } = worksOut(question, seed);
  if (faults.size > 0) return null;
  return {
    parts: Object.fromEntries(
      question.parts.map((part) => {
        const key = keys.get(part.id) ?? ZERO;
        return [part.id, part.unitRule === "needed" ? keyWords(part, key) : keyFigure(part, key)];
      }),
    ),
  };
}

export const numericMarking: MarkingKind<Numeric, PresentedNumeric, NumericAnswer> = {
  name: "numeric",
  fields: { ...QUESTION_FIELDS, parts: [{ text: "rich", mistakes: [{ feedback: "rich" }] }] },
  shape: numericShape,
  present(question, seed) {
    const texts = new Map([...variablesOf(question, seed)].map(([name, { text }]) => [name, text]));
    return {
      kind: "numeric",
      text: fillIn(question.text, texts),
      marks: shown(question.marks),
      comma: commaMeans(question),
      unitMeanings: question.unitMeanings ?? {},
      parts: question.parts.map((part, i) => ({
        id: part.id,
        buildsOn: buildsOn(question, i).map((place) => question.parts[place]?.id ?? ""),
        text: fillIn(part.text ?? "", texts),
        marks: shown(part.marks),
        ruleWords: ruleWords(part, question),
        ...partTerms(question, part),
      })),
    };
  },
  mark,
  buildsOn,
  rightAnswer,
  fillIn: (question, seed, text) => filledWith(question, worksOut(question, seed), text),
  meaning: (question, meanings) => ({
    ...question,
    unitMeanings: { ...meanings, ...question.unitMeanings },
  }),
  warnings: numericWarnings,
  keyedBy(question, { part: place, identity }) {
    const [value = ""] = identity.split(" ");
    // Of a key that is worked out from drawn values, one value is the right one in some attempts only.
    if ((question.variables ?? []).length > 0 || !/^-?[\d./]+$/.test(value) || !question.parts[place])
      return null;
    return {
      ...question,
      parts: question.parts.map((part, i) => (i === place ? { ...part, key: value } : part)),
    };
  },
};
