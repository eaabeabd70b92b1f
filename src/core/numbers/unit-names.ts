import { type Said, said, saidTogether } from "../said";

/** What symbols mean in a question beyond the usual, such as nm for nautical miles. */
export type UnitMeanings = Readonly<Record<string, string>>;

/** One unit as it is written and said. A prefixed one may have k, m, M ... before it. */
type Named = readonly [one: string, many: string];

const BARE: Readonly<Record<string, Named>> = {
  min: ["minute", "minutes"],
  h: ["hour", "hours"],
  d: ["day", "days"],
  week: ["week", "weeks"],
  "°": ["degree", "degrees"],
  deg: ["degree", "degrees"],
  rad: ["radian", "radians"],
  "′": ["minute of arc", "minutes of arc"],
  "'": ["minute of arc", "minutes of arc"],
  "″": ["second of arc", "seconds of arc"],
  '"': ["second of arc", "seconds of arc"],
  arcmin: ["minute of arc", "minutes of arc"],
  arcsec: ["second of arc", "seconds of arc"],
  "°C": ["degree Celsius", "degrees Celsius"],
  degC: ["degree Celsius", "degrees Celsius"],
  "°F": ["degree Fahrenheit", "degrees Fahrenheit"],
  degF: ["degree Fahrenheit", "degrees Fahrenheit"],
  K: ["kelvin", "kelvins"],
  "%": ["per cent", "per cent"],
  ha: ["hectare", "hectares"],
  kn: ["knot", "knots"],
  kt: ["knot", "knots"],
  knot: ["knot", "knots"],
  NM: ["nautical mile", "nautical miles"],
  nmi: ["nautical mile", "nautical miles"],
  M: ["nautical mile", "nautical miles"],
  nauticalmile: ["nautical mile", "nautical miles"],
  in: ["inch", "inches"],
  ft: ["foot", "feet"],
  yd: ["yard", "yards"],
  mi: ["mile", "miles"],
  lb: ["pound", "pounds"],
  oz: ["ounce", "ounces"],
  ohm: ["ohm", "ohms"],
  Ω: ["ohm", "ohms"],
};

const PREFIXED: Readonly<Record<string, Named>> = {
  m: ["metre", "metres"],
  g: ["gram", "grams"],
  s: ["second", "seconds"],
  l: ["litre", "litres"],
  L: ["litre", "litres"],
  Pa: ["pascal", "pascals"],
  N: ["newton", "newtons"],
  J: ["joule", "joules"],
  W: ["watt", "watts"],
  V: ["volt", "volts"],
  A: ["ampere", "amperes"],
  Hz: ["hertz", "hertz"],
  mol: ["mole", "moles"],
  bar: ["bar", "bars"],
};

const PREFIXES: Readonly<Record<string, string>> = {
  G: "giga",
  M: "mega",
  k: "kilo",
  h: "hecto",
  d: "deci",
  c: "centi",
  m: "milli",
  u: "micro",
  n: "nano",
  p: "pico",
};

/** The same by their words, each with the symbol that it stands for. */
const SPELLED: Readonly<Record<string, string>> = Object.fromEntries([
  ...[...Object.entries(BARE), ...Object.entries(PREFIXED)].flatMap(([symbol, words]) =>
    words.filter((word) => !word.includes(" ")).map((word) => [word, symbol] as const),
  ),
  ...Object.entries(PREFIXES).flatMap(([prefix, name]) =>
    Object.entries(PREFIXED).flatMap(([symbol, words]) =>
      words.map((word) => [`${name}${word}`, `${prefix}${symbol}`] as const),
    ),
  ),
  ["meter", "m"],
  ["meters", "m"],
  ["kilometer", "km"],
  ["kilometers", "km"],
  ["centimeter", "cm"],
  ["centimeters", "cm"],
  ["liter", "l"],
  ["liters", "l"],
  ["mins", "min"],
  ["hr", "h"],
  ["hrs", "h"],
  ["sec", "s"],
  ["secs", "s"],
  ["kg", "kg"],
  ["kts", "kn"],
  ["hectare", "ha"],
  ["hectares", "ha"],
  ["nauticalmiles", "NM"],
  ["percent", "%"],
  ["per cent", "%"],
  ["celsius", "°C"],
]);

const POWERS: Readonly<Record<string, number>> = {
  "²": 2,
  "³": 3,
  "⁻¹": -1,
  "⁻²": -2,
  "⁻³": -3,
};

/** A unit as it is looked up among meanings: without spaces, points and parentheses. */
const squeezed = (unit: string): string => unit.replace(/[\s().]+/g, "");

/** What a question means by a unit, however that is spaced, and in any case where it is a word. */
function meantBy(written: string, meanings: UnitMeanings): string {
  if (Object.hasOwn(meanings, written)) return meanings[written] ?? written;
  const wanted = squeezed(written);
  const same = Object.entries(meanings).find(([each]) => {
    const unit = squeezed(each);
    return unit === wanted || (unit.length > 3 && unit.toLowerCase() === wanted.toLowerCase());
  });
  return same?.[1] ?? written;
}

/** A symbol as the table has it: its own, by its words, or as this question means it. Null: not known. */
function symbolOf(written: string, meanings: UnitMeanings): string | null {
  const meant = meantBy(written, meanings);
  const symbol = meant.replace(/[µμ]/g, "u");
  if (Object.hasOwn(BARE, symbol) || Object.hasOwn(PREFIXED, symbol)) return symbol;
  const lower = symbol.toLowerCase();
  if (Object.hasOwn(SPELLED, lower)) return SPELLED[lower] ?? null;
  const [prefix = "", base = ""] = [symbol.slice(0, 1), symbol.slice(1)];
  return Object.hasOwn(PREFIXES, prefix) && Object.hasOwn(PREFIXED, base) ? symbol : null;
}

/**
 * The symbol of a single unit, by its symbol or its words; null: not known.
 * @example unitSymbol("hours") → "h"
 */
export const unitSymbol = (written: string): string | null => symbolOf(written, {});

/** Units that one subject reads otherwise than another: nanometres or nautical miles, minutes of arc or feet. */
const AMBIGUOUS: ReadonlySet<string> = new Set(["nm", "M", "mi", "mile", "miles", "'", '"', "oz"]);

/**
 * Whether a unit is read in a way that another subject would read otherwise, where the question does not say what it means.
 * @example isAmbiguousUnit("nm", {}) → true
 */
export const isAmbiguousUnit = (unit: string, meanings: UnitMeanings): boolean =>
  AMBIGUOUS.has(unit) && !Object.hasOwn(meanings, unit);

/** One unit of a product with its power: "km", "m²", "s⁻¹". */
interface Factor {
  readonly symbol: string;
  readonly power: number;
}

/** A unit taken apart, or null where any of it is not known. */
function factorsOf(text: string, meanings: UnitMeanings): Factor[] | null {
  const tidy = text
    .trim()
    .replace(/\b(nautical|sea)\s+mile(s?)\b/gi, "nauticalmile$2")
    .replace(
      /(?:\bdegrees?|\bdeg\.?|°)\s*(?:(C)(?:elsius)?|(F)(?:ahrenheit)?)(?![A-Za-z])/gi,
      (_, celsius: string | undefined) => (celsius ? "°C" : "°F"),
    )
    .replace(/\s+per\s+/gi, "/");
  // A unit that the question means in its own way may be written with spaces.
  const whole = symbolOf(tidy, meanings);
  if (whole !== null) return [{ symbol: whole, power: 1 }];
  const sides = tidy.split("/");
  if (sides.length > 2) return null;
  const factors: Factor[] = [];
  for (const [i, side] of sides.entries()) {
    for (const piece of side.trim().split(/[\s·⋅*]+/)) {
      const found = /^([A-Za-z°Ω%′″'"µμ]+)(\^?-?[123]|[²³]|⁻[¹²³])?$/.exec(piece);
      const symbol = found ? symbolOf(found[1] ?? "", meanings) : null;
      if (!found || symbol === null) return null;
      const written = found[2] ?? "";
      const power = POWERS[written] ?? (written === "" ? 1 : Number(written.replace("^", "")));
      factors.push({ symbol, power: i === 0 ? power : -power });
    }
  }
  return factors;
}

const POWER_CODES: Readonly<Record<number, string>> = { 2: "units.square", 3: "units.cubic" };

/** A unit by its English name, which is also the name of its words: "units.minute-of-arc". */
const codeOf = (one: string): string => `units.${one.toLowerCase().replaceAll(" ", "-")}`;

/** One unit with its prefix and its power, as many as there are. */
function factorInWords({ symbol, power }: Factor, count: number): Said {
  const whole = BARE[symbol] ?? PREFIXED[symbol];
  const [one] = whole ?? PREFIXED[symbol.slice(1)] ?? [""];
  const prefix = whole ? undefined : PREFIXES[symbol.slice(0, 1)];
  const unit = said(codeOf(one), { count });
  const named = prefix === undefined ? unit : said(`units.${prefix}`, { unit });
  const code = POWER_CODES[Math.abs(power)];
  return code === undefined ? named : said(code, { unit: named });
}

/**
 * A unit in words, or null where it is not known: "km/h" is "kilometres per hour", "m²" "square metres".
 * @param isOne whether there is exactly one of it
 * @param meanings what symbols mean in this question beyond the usual
 * @example unitInWords("km/h", false) → "kilometres per hour"
 */
export function unitInWords(text: string, isOne: boolean, meanings: UnitMeanings = {}): Said | null {
  const factors = factorsOf(text, meanings);
  if (!factors) return null;
  const above = factors.filter(({ power }) => power > 0);
  const below = factors.filter(({ power }) => power < 0);
  const last = above.length - 1;
  const top = saidTogether(
    above.map((factor, i) => factorInWords(factor, i === last && !isOne ? 2 : 1)),
    "spaces",
  );
  return below.reduce(
    (words: Said, factor) => said("units.per", { unit: words, each: factorInWords(factor, 1) }),
    top,
  );
}

/**
 * A known unit in the symbols that the table has, for working it out: "kilometres per hour" is "km / h". Null: not known.
 * @example unitSymbols("km/h") → "km h^-1"
 */
export function unitSymbols(text: string, meanings: UnitMeanings = {}): string | null {
  const factors = factorsOf(text, meanings);
  if (!factors) return null;
  return factors.map(({ symbol, power }) => (power === 1 ? symbol : `${symbol}^${power}`)).join(" ");
}
