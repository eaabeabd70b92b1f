import { type Said, said } from "../said";
import { type Exact, ZERO } from "./exact";
import { FormulaProblem, readFormula } from "./formula";

/** Plain: the four operations and parentheses. Scientific: also powers and the functions that formulas know. */
export type CalculatorLevel = "plain" | "scientific";

export type Calculation =
  | { readonly ok: true; readonly value: Exact; readonly words: Said }
  | { readonly ok: false; readonly problem: Said };

/** What a desk asks of its calculator's worker, and what that answers. */
export interface CalculatorQuestion {
  readonly text: string;
  readonly level: CalculatorLevel;
}
export type CalculatorAnswer =
  | { readonly ok: true; readonly words: Said }
  | { readonly ok: false; readonly problem: Said };

const FIGURES = 10;

/**
 * What people type, as a formula reads it: 4,2 × 3 ÷ 2 − √9 + 2² + sin 30. Angles are in degrees, however a function of
 * them is written.
 */
const asFormula = (text: string): string =>
  text
    .replace(/[×·]/g, "*")
    .replace(/[÷:]/g, "/")
    .replace(/[−–]/g, "-")
    .replace(/√\s*(\d+(?:[.,]\d+)?|ans|π)/gi, "sqrt($1)")
    .replace(/√/g, "sqrt")
    .replace(
      /(?<![a-z])(a?(?:sin|cos|tan))(?:d|°)?(?![a-z0-9])/gi,
      (_, name: string) => `${name.toLowerCase()}d`,
    )
    .replace(/(?<![a-z])(a?(?:sin|cos|tan)d|ln|log10|sqrt)\s*(-?\d+(?:[.,]\d+)?|ans)(?![\d(])/gi, "$1($2)")
    .replace(/(\d)\s*°/g, "$1")
    .replace(/π/g, "pi")
    .replace(/²/g, "^2")
    .replace(/³/g, "^3")
    .replace(/(\d),(\d)/g, "$1.$2");

/**
 * A number with at most ten figures, without trailing zeros; very large and small ones with a power of ten.
 * @example numberInWords(exact("1/3")) → "0.3333333333"
 */
export function numberInWords(value: Exact): string {
  const number = value.valueOf();
  if (number === 0) return "0";
  const size = Math.abs(number);
  if (size >= 1e12 || size < 1e-6) {
    const [digits = "", power = ""] = number.toExponential(FIGURES - 1).split("e");
    return `${digits.replace(/\.?0+$/, "")} × 10^${Number(power)}`;
  }
  return String(Number(number.toPrecision(FIGURES))).replace("-", "−");
}

/**
 * Works a calculation out; `ans` stands for the result before. Nothing but numbers can be reached.
 * @example calculate("2 + 3 × 4", "plain") → { ok: true, value: exact("14"), words: "14" }
 */
export function calculate(text: string, level: CalculatorLevel, ans: Exact | null = null): Calculation {
  const formula = asFormula(text);
  if (formula.trim() === "")
    return { ok: false, problem: said("numbers.calculate.write-a-calculation-such-as-4") };
  if (level === "plain" && /\^|[a-z]+\s*\(/i.test(formula)) {
    return { ok: false, problem: said("numbers.calculate.this-calculator-has-and-parentheses") };
  }
  const reading = readFormula(formula);
  if (!reading.ok) return { ok: false, problem: reading.problem };
  const unknown = reading.formula.names.find((name) => name !== "ans");
  if (unknown) return { ok: false, problem: said("numbers.calculate.is-not-known-here", { unknown }) };
  if (reading.formula.names.includes("ans") && ans === null) {
    return { ok: false, problem: said("numbers.calculate.there-is-no-result-before-this") };
  }
  try {
    const value = reading.formula.value(new Map([["ans", ans ?? ZERO]]));
    return { ok: true, value, words: numberInWords(value) };
  } catch (error) {
    if (error instanceof FormulaProblem) return { ok: false, problem: error.problem };
    throw error;
  }
}
