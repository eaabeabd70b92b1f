import { create, createUnitDependencies, type Unit, unitDependencies } from "mathjs";
import { type Said, said } from "../said";
import { type Exact, exact, ZERO } from "./exact";
import { type UnitMeanings, unitSymbols } from "./unit-names";

const math = create({ ...unitDependencies, ...createUnitDependencies });
math.createUnit("nauticalmile", { definition: "1852 m", aliases: ["nauticalmiles"] });
math.createUnit("knot", { definition: "0.5144444444444444 m/s", aliases: ["knots"] });

const LONGEST = 40;

/** Writings that people use, and what the library calls them. */
const ALIASES: Readonly<Record<string, string>> = {
  "°C": "degC",
  "°F": "degF",
  "°": "deg",
  "′": "arcmin",
  "'": "arcmin",
  "″": "arcsec",
  '"': "arcsec",
  kn: "knot",
  kt: "knot",
  NM: "nauticalmile",
  nmi: "nauticalmile",
  M: "nauticalmile",
  ha: "hectare",
  h: "hour",
  min: "minute",
  d: "day",
  Ω: "ohm",
};

const SUPERSCRIPT: Readonly<Record<string, string>> = { "⁻": "-", "¹": "1", "²": "2", "³": "3", "⁴": "4" };

function tidied(text: string, meanings: UnitMeanings): string {
  const whole = text.trim();
  const renamed = (symbol: string) => {
    const meant = Object.hasOwn(meanings, symbol) ? (meanings[symbol] ?? symbol) : symbol;
    return Object.hasOwn(ALIASES, meant) ? (ALIASES[meant] ?? meant) : meant;
  };
  return whole
    .replace(/[⁻¹²³⁴]+/g, (run) => `^${[...run].map((sign) => SUPERSCRIPT[sign] ?? "").join("")}`)
    .replace(/[µμ]/g, "u")
    .replace(/[·⋅]/g, " ")
    .replace(/°[CF]?|[A-Za-z%Ω′″'"]+/g, renamed);
}

export type UnitReading =
  | { readonly ok: true; readonly unit: Unit }
  | { readonly ok: false; readonly problem: Said };

/**
 * Reads a unit as people write it: `m`, `km/h`, `kn`, `m s⁻¹`, `°C`.
 * @example readUnit("blorg").ok → false
 */
export function readUnit(text: string, meanings: UnitMeanings = {}): UnitReading {
  const problem = said("numbers.units.is-not-a-unit-that-can", { text: text.slice(0, 20) });
  if (text.length > LONGEST || !/^[\w%Ω°′″'"µμ²³¹⁻⁴·⋅^/ *().-]+$/.test(text) || /\^-?\d{2,}/.test(text)) {
    return { ok: false, problem };
  }
  if (isPercent(text)) return { ok: true, unit: PERCENT };
  try {
    // What is known by its words is worked out by its symbols.
    const symbols = unitSymbols(text, meanings);
    return { ok: true, unit: math.unit(1, tidied(symbols ?? text, symbols ? {} : meanings)) };
  } catch {
    return { ok: false, problem };
  }
}

/** Whether a unit is per cent, by its sign or in words. */
const isPercent = (unit: string): boolean => unit.trim() === "%" || unitSymbols(unit) === "%";

/** A percentage measures no quantity of its own: it is only ever compared with another. */
const PERCENT = math.unit(1, "deg");

/** An exact number from a conversion factor that the library gives as a float: its short decimal, or that of its inverse. */
function factorOf(float: number): Exact {
  const text = String(Number(float.toPrecision(14)));
  const inverse = String(Number((1 / float).toPrecision(14)));
  return inverse.length < text.length ? exact(1).div(exact(inverse)) : exact(text);
}

/**
 * A value in one unit as the value in another, or null when they measure different quantities.
 * Linear units by their factor; temperatures with their offset.
 * @example converted(exact(90), "km/h", "m/s") → exact("25")
 */
export function converted(value: Exact, from: string, to: string, meanings: UnitMeanings = {}): Exact | null {
  if (from.trim() === to.trim()) return value;
  if (isPercent(from) || isPercent(to)) return isPercent(from) && isPercent(to) ? value : null;
  const [source, target] = [readUnit(from, meanings), readUnit(to, meanings)];
  if (!source.ok || !target.ok || !source.unit.equalBase(target.unit)) return null;
  try {
    const writing = (unit: string) => {
      const symbols = unitSymbols(unit, meanings);
      return tidied(symbols ?? unit, symbols ? {} : meanings);
    };
    const at = (number: number) => math.unit(number, writing(from)).toNumber(writing(to));
    const zero = at(0);
    const factor = factorOf((at(1_000) - zero) / 1_000);
    // Where the scale of the source has the zero of the target: 32 for Fahrenheit to Celsius, 0 for all but temperatures.
    const origin =
      Math.abs(zero) < 1e-9 ? ZERO : exact(String(Number((-zero / factor.valueOf()).toPrecision(10))));
    return value.sub(origin).mul(factor);
  } catch {
    return null;
  }
}
