import { type Said, said } from "../said";
import { readCompound } from "./compound-quantity";
import { type Exact, exact, ONE, written } from "./exact";

/** A number as a person wrote it, understood. */
export interface ReadNumber {
  readonly value: Exact;
  /** Significant figures written; trailing zeros of a whole number count; Infinity for a sum or a fraction, which is exact. */
  readonly figures: number;
  /** What stood behind the number ("m", "km/h"), or null. Not judged here. */
  readonly unit: string | null;
  /** The number in plain writing, for "read as ...". */
  readonly plain: string;
}

/** What a comma between digits means: a decimal sign, thousands, or either (null), which then has to be asked. */
export type CommaMeans = "decimals" | "thousands" | null;

export type NumberReading =
  | ({ readonly ok: true } & ReadNumber)
  | {
      readonly ok: false;
      readonly problem: Said;
      /** The writings to choose from, where it can be read in two ways. */
      readonly either?: readonly [string, string];
    };

const SUPERSCRIPTS = "⁰¹²³⁴⁵⁶⁷⁸⁹";
const LONGEST = 80;
const unreadable = (problem: Said): NumberReading => ({ ok: false, problem });

/** A power of ten behind a number: `e3`, `* 10^3`, `*10-3`. */
const POWER = String.raw`(?:[eE][+-]?\d+|\s*\*\s*10\s*(?:\^\s*[+-]?\d+|[+-]\d+))`;

/**
 * Reads a number the way people write it: `1.5`, `1,5`, `1 500`, `1.5e3`, `1.5 × 10³`, `10^3`, `3/4`, `1 3/4`, `½`, `2*3.1`,
 * `- 4`, `4.2 m`, `3 h 6 min`, and the same in full-width signs. A comma with no other separator is a decimal sign; before three digits
 * it may as well part thousands, and then it is asked which, unless `comma` says. What it cannot read is refused with a
 * sentence, never guessed.
 * @example readNumber("3.8 m").ok → true
 */
export function readNumber(text: string, options: { readonly comma?: CommaMeans } = {}): NumberReading {
  if (text.length > LONGEST)
    return unreadable(said("numbers.read-number.this-is-longer-than-a-number", { most: LONGEST }));
  const tidy = tidied(text);
  if (tidy === "") return unreadable(said("numbers.read-number.write-a-number"));
  const comma = options.comma ?? null;
  const [, sign = "", unsigned = ""] = /^([+-]?)(.*)$/.exec(tidy) ?? [];
  const compound = readCompound(unsigned);
  if (compound) {
    const value = sign === "-" ? compound.value.neg() : compound.value;
    const { unit, plain } = compound;
    return { ok: true, value, figures: figuresOf(plain), unit, plain: plainWriting(value) };
  }
  if (comma === null) {
    const doubtful = /^([+-]?[1-9]\d{0,2}),(\d{3})(?![\d.,])(.*)$/.exec(tidy);
    if (doubtful) {
      const [, before = "", after = "", rest = ""] = doubtful;
      const either = [`${before}.${after}${rest}`, `${before}${after}${rest}`] as const;
      return {
        ok: false,
        problem: said("numbers.read-number.can-be-read-as-or-as", { either: either[0], either2: either[1] }),
        either,
      };
    }
  }

  const factor = String.raw`[+-]?(?:\d[\d., ]*|[.,]\d[\d ]*)${POWER}?`;
  const product = new RegExp(`^(${factor}(?:\\s*[*/]\\s*${factor}){0,5})\\s*(.*)$`).exec(tidy);
  if (!product) return unreadable(said("numbers.read-number.start-with-a-number-such-as"));
  const [, numberText = "", tail = ""] = product;
  const unit = tail.trim();
  if (unit !== "" && !/^[A-Za-z°µΩ%'"′″][\wµΩ°²³⁴¹⁻·⋅./^*() -]*$/.test(unit)) {
    return unreadable(
      said("numbers.read-number.cannot-be-read-after-the-number", { text: unit.slice(0, 20) }),
    );
  }

  const pieces = numberText.split(new RegExp(`(${factor})`)).filter((piece) => piece.trim() !== "");
  let value = ONE;
  let operator = "*";
  let figures = Number.POSITIVE_INFINITY;
  let count = 0;
  for (const piece of pieces) {
    const bare = piece.trim();
    if (bare === "*" || bare === "/") {
      operator = bare;
      continue;
    }
    const single = readSingle(bare, comma === "thousands");
    if (!single.ok) return single;
    if (operator === "/" && single.value.n === 0n)
      return unreadable(said("numbers.read-number.a-number-cannot-be-divided-by"));
    value = operator === "*" ? value.mul(single.value) : value.div(single.value);
    figures = single.figures;
    count += 1;
  }
  return {
    ok: true,
    value,
    figures: count === 1 ? figures : Number.POSITIVE_INFINITY,
    unit: unit === "" ? null : unit,
    plain: plainWriting(value),
  };
}

/** Fractions that are one sign. */
const FRACTIONS: Readonly<Record<string, string>> = {
  "½": "1/2",
  "⅓": "1/3",
  "⅔": "2/3",
  "¼": "1/4",
  "¾": "3/4",
  "⅕": "1/5",
  "⅖": "2/5",
  "⅗": "3/5",
  "⅘": "4/5",
  "⅙": "1/6",
  "⅚": "5/6",
  "⅛": "1/8",
  "⅜": "3/8",
  "⅝": "5/8",
  "⅞": "7/8",
};

/** `1 3/4` is one and three quarters: written as one fraction. `1 500/3` is not, as no one means 1 and 500/3 by it. */
function asOneFraction(text: string): string {
  const mixed = /^([+-]?)(\d{1,9}) (\d{1,9})\s*\/\s*(\d{1,9})(?!\d)(.*)$/.exec(text);
  if (!mixed) return text;
  const [, sign = "", whole = "", above = "", below = "", rest = ""] = mixed;
  if (Number(above) >= Number(below)) return text;
  return `${sign}${Number(whole) * Number(below) + Number(above)}/${below}${rest}`;
}

/** Minus signs, multiplication signs, superscripts and odd spaces brought to one writing. */
function tidied(text: string): string {
  const plain = text
    .normalize("NFC")
    // Full-width signs and the wide space, as some input methods write them.
    .replace(/[\uff01-\uff5e]/g, (sign) => String.fromCharCode(sign.charCodeAt(0) - 0xfee0))
    .replace(/\u3000/g, " ")
    .replace(
      /\s*([½⅓⅔¼¾⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞])/g,
      (_, sign: string, at: number) => `${at > 0 ? " " : ""}${FRACTIONS[sign]}`,
    )
    .replace(/[\u2212\u2012\u2013]/g, "-")
    .replace(/[\u00a0\u202f\u2009'’](?=\d)/g, " ")
    .replace(/[\u00a0\u202f\u2009]/g, " ")
    .replace(/10\s*([⁺⁻]?[⁰¹²³⁴⁵⁶⁷⁸⁹]+)/g, (_, power: string) => `10^${plainPower(power)}`)
    .replace(/(\d)\s*[x×·]\s*(?=[\d.,+-])/g, "$1*")
    .trim()
    .replace(/^([+-])\s+(?=[\d.,])/, "$1")
    // A power of ten by itself is one of them.
    .replace(/^([+-]?)10\s*\^\s*/, "$11*10^");
  return asOneFraction(plain);
}

function plainPower(power: string): string {
  return [...power]
    .map((sign) => (sign === "⁻" ? "-" : sign === "⁺" ? "" : String(SUPERSCRIPTS.indexOf(sign))))
    .join("");
}

function readSingle(text: string, commaIsThousands: boolean): NumberReading {
  const power = /^(.*?)(?:[eE]([+-]?\d+)|\s*\*\s*10\s*(?:\^\s*([+-]?\d+)|([+-]\d+)))?$/.exec(text);
  const mantissa = (power?.[1] ?? text).trim();
  const exponent = Number(power?.[2] ?? power?.[3] ?? power?.[4] ?? "0");
  if (Math.abs(exponent) > 300) return unreadable(said("numbers.read-number.the-power-of-ten-is-larger"));
  const decimal = decimalWriting(mantissa, commaIsThousands);
  if (decimal === null) return unreadable(said("numbers.read-number.can-be-read-in-more-than", { mantissa }));
  const value = exact(`${decimal}e${exponent}`.replace(/^([+-]?)\./, "$10."));
  return {
    ok: true,
    value,
    figures: figuresOf(decimal),
    unit: null,
    plain: plainWriting(value),
  };
}

/**
 * The significant figures of a decimal as it is written; trailing zeros count.
 * @example figuresOf("0.0250") → 3
 */
export function figuresOf(decimal: string): number {
  const written = decimal.replace(/[+\-.]/g, "");
  // Of a zero every digit tells how exactly it is nothing; else those in front tell only where the point is.
  const digits = /^0+$/.test(written) ? written : written.replace(/^0+/, "");
  return Math.max(digits.length, 1);
}

/** The mantissa with a point for decimals and nothing between thousands, or null when that is ambiguous. */
function decimalWriting(mantissa: string, commaIsThousands: boolean): string | null {
  const points = mantissa.split(".").length - 1;
  const commas = mantissa.split(",").length - 1;
  const spaces = mantissa.split(" ").length - 1;
  let text = mantissa;
  if (spaces > 0) {
    if (!/^[+-]?\d{1,3}( \d{3})+([.,]\d+)?$/.test(text)) return null;
    text = text.replaceAll(" ", "");
  }
  if (points + commas === 0) return text;
  if (points === 1 && commas === 0) return text;
  if (commas === 1 && points === 0) {
    if (!commaIsThousands) return text.replace(",", ".");
    return /^[+-]?\d{1,3},\d{3}$/.test(text) ? text.replace(",", "") : null;
  }
  if (/^[+-]?\d{1,3}(,\d{3})+(\.\d+)?$/.test(text)) return text.replaceAll(",", "");
  if (/^[+-]?\d{1,3}(\.\d{3})+(,\d+)?$/.test(text)) return text.replaceAll(".", "").replace(",", ".");
  return null;
}

/**
 * A number in plain writing that `readNumber` reads back to the same value: a decimal where it ends
 * within 15 places, else a fraction.
 * @example plainWriting(exact("0.05")) → "0.05"
 */
export function plainWriting(value: Exact): string {
  let rest = value.d;
  let twos = 0;
  let fives = 0;
  while (rest % 2n === 0n) {
    rest /= 2n;
    twos += 1;
  }
  while (rest % 5n === 0n) {
    rest /= 5n;
    fives += 1;
  }
  const decimals = Math.max(twos, fives);
  if (rest !== 1n || decimals > 15) return written(value);
  const digits = (value.n * 10n ** BigInt(decimals)) / value.d;
  const text = digits.toString().padStart(decimals + 1, "0");
  const sign = value.s < 0n ? "-" : "";
  return decimals === 0
    ? `${sign}${text}`
    : `${sign}${text.slice(0, text.length - decimals)}.${text.slice(-decimals)}`;
}
