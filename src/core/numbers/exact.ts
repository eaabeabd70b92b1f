import Fraction from "fraction.js";
import { memo } from "../memo";

/**
 * Exact numbers for marks, costs and answers: a third is 1/3, never 0.33.
 * Everything that adds up to a mark goes through these functions; rounding happens only
 * when a figure is stored (4 decimals) or shown (2 decimals).
 */
export type Exact = Fraction;

/**
 * An exact number from a whole number, a decimal or fraction text ("0.25", "1/3", "1.5e3"), or an exact number.
 * A JavaScript number is taken by its shortest decimal writing, so 0.1 is one tenth.
 * @throws Error when the text is not a number.
 * @example exact("1/3").add(exact("2/3")).equals(1) → true
 */
export function exact(value: number | string | Exact): Exact {
  if (typeof value === "object") return value;
  // Marks and costs are few and come again and again.
  return memo(read, value, () => new Fraction(plainDecimal(String(value))));
}

const read = new Map<number | string, Exact>();

/** Scientific writing ("1.5e-7") as a fraction text, because the library reads plain decimals only. */
function plainDecimal(text: string): string {
  const match = /^([+-]?)(\d+)(?:\.(\d*))?[eE]([+-]?\d+)$/.exec(text);
  if (!match) return text;
  const [, sign = "", whole = "0", decimals = "", power = "0"] = match;
  const shift = Number(power) - decimals.length;
  if (Math.abs(shift) > 400) throw new Error("The power of ten is out of reach.");
  const digits = `${whole}${decimals}`;
  return shift >= 0 ? `${sign}${digits}${"0".repeat(shift)}` : `${sign}${digits}/1${"0".repeat(-shift)}`;
}

export const ZERO: Exact = new Fraction(0);
export const ONE: Exact = new Fraction(1);

/**
 * The sum, unrounded.
 * @example sum([exact("0.1"), exact("0.2")]) → exact("3/10")
 */
export function sum(values: Iterable<Exact>): Exact {
  // Over one denominator, and reduced once: most marks of a course share a few.
  let [n, d] = [0n, 1n];
  for (const value of values) {
    const signed = value.s * value.n;
    if (d % value.d === 0n) n += signed * (d / value.d);
    else [n, d] = [n * value.d + signed * d, d * value.d];
  }
  return new Fraction(n, d);
}

/** @example atLeast(exact(-1), exact(0)) → exact("0") */
export const atLeast = (value: Exact, floor: Exact): Exact => (value.compare(floor) < 0 ? floor : value);

/**
 * Rounded to a number of decimals, halves away from zero: "0.5556".
 * @example rounded(exact("2.345"), 2) → "2.35"
 */
export function rounded(value: Exact, decimals: number): string {
  const scale = 10n ** BigInt(decimals);
  const numerator = value.n * scale * 2n + value.d;
  const units = numerator / (value.d * 2n);
  const digits = units.toString().padStart(decimals + 1, "0");
  const text =
    decimals === 0 ? digits : `${digits.slice(0, digits.length - decimals)}.${digits.slice(-decimals)}`;
  return value.s < 0n && units !== 0n ? `-${text}` : text;
}

/**
 * A mark as the database keeps it: 4 decimals.
 * @example stored(exact("1/3")) → "0.3333"
 */
export const stored = (value: Exact): string => rounded(value, 4);

/**
 * A mark as people see it: 2 decimals, trailing zeros dropped: "3.89", "12".
 * @example shown("1/3") → "0.33"
 */
export function shown(value: Exact | number | string): string {
  const text = rounded(exact(value), 2);
  return text.includes(".") ? text.replace(/\.?0+$/, "") : text;
}

/**
 * An exact number as text that `exact` reads back to the same number: "5/9", "3".
 * @example written(exact("1/3")) → "1/3"
 */
export const written = (value: Exact): string => value.toFraction();

/**
 * A decimal figure without the zeros at its end that say nothing.
 * @example withoutZeros("12.5000") → "12.5"
 */
export const withoutZeros = (figure: string): string =>
  figure.includes(".") ? figure.replace(/\.?0+$/, "") : figure;
