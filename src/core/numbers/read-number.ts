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

export type NumberReading =
  | ({ readonly ok: true } & ReadNumber)
  | { readonly ok: false; readonly problem: string };

const SUPERSCRIPTS = "⁰¹²³⁴⁵⁶⁷⁸⁹";
const LONGEST = 80;
const unreadable = (problem: string): NumberReading => ({ ok: false, problem });

/**
 * Reads a number the way people write it: `1.5`, `1,5`, `1 500`, `1.5e3`, `1.5 × 10³`, `3/4`, `2*3.1`, `-4`, `4.2 m`.
 * A comma with no other separator is a decimal sign unless `commaIsThousands` is set.
 * What it cannot read is refused with a sentence, never guessed.
 */
export function readNumber(text: string, options: { commaIsThousands?: boolean } = {}): NumberReading {
  if (text.length > LONGEST) return unreadable(`Write the number in ${LONGEST} characters or fewer.`);
  const tidy = tidied(text);
  if (tidy === "") return unreadable("Write a number.");

  const factor = String.raw`[+-]?(?:\d[\d., ]*|[.,]\d[\d ]*)(?:[eE][+-]?\d+|\s*\*\s*10\s*\^\s*[+-]?\d+)?`;
  const product = new RegExp(`^(${factor}(?:\\s*[*/]\\s*${factor}){0,5})\\s*(.*)$`).exec(tidy);
  if (!product) return unreadable("Start with a number, such as 4.2 or 1.5e3.");
  const [, numberText = "", tail = ""] = product;
  const unit = tail.trim();
  if (unit !== "" && !/^[A-Za-z°µΩ%'"′″][\wµΩ°²³⁴¹⁻·⋅./^* -]*$/.test(unit)) {
    return unreadable(`“${unit.slice(0, 20)}” cannot be read after the number.`);
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
    const single = readSingle(bare, options.commaIsThousands ?? false);
    if (!single.ok) return single;
    if (operator === "/" && single.value.n === 0n) return unreadable("A number cannot be divided by zero.");
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

/** Minus signs, multiplication signs, superscripts and odd spaces brought to one writing. */
function tidied(text: string): string {
  return text
    .normalize("NFC")
    .replace(/[\u2212\u2012\u2013]/g, "-")
    .replace(/[\u00a0\u202f\u2009'’](?=\d)/g, " ")
    .replace(/[\u00a0\u202f\u2009]/g, " ")
    .replace(/10\s*([⁺⁻]?[⁰¹²³⁴⁵⁶⁷⁸⁹]+)/g, (_, power: string) => `10^${plainPower(power)}`)
    .replace(/(\d)\s*[x×·]\s*(?=[\d.,+-])/g, "$1*")
    .trim();
}

function plainPower(power: string): string {
  return [...power]
    .map((sign) => (sign === "⁻" ? "-" : sign === "⁺" ? "" : String(SUPERSCRIPTS.indexOf(sign))))
    .join("");
}

function readSingle(text: string, commaIsThousands: boolean): NumberReading {
  const power = /^(.*?)(?:[eE]([+-]?\d+)|\s*\*\s*10\s*\^\s*([+-]?\d+))?$/.exec(text);
  const mantissa = (power?.[1] ?? text).trim();
  const exponent = Number(power?.[2] ?? power?.[3] ?? "0");
  if (Math.abs(exponent) > 300) return unreadable("The power of ten is larger than can be read here.");
  const decimal = decimalWriting(mantissa, commaIsThousands);
  if (decimal === null)
    return unreadable(
      `“${mantissa}” can be read in more than one way. Write it with a point for decimals and no separators.`,
    );
  const value = exact(`${decimal}e${exponent}`.replace(/^([+-]?)\./, "$10."));
  const digits = decimal.replace(/[+\-.]/g, "").replace(/^0+/, "");
  return {
    ok: true,
    value,
    figures: Math.max(digits.length, 1),
    unit: null,
    plain: plainWriting(value),
  };
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
