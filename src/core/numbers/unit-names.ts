/** The names of common units, for saying how an answer is read. The desk has no more than these words of units. */
const NAMES: Readonly<Record<string, readonly [one: string, many: string]>> = {
  m: ["metre", "metres"],
  cm: ["centimetre", "centimetres"],
  mm: ["millimetre", "millimetres"],
  km: ["kilometre", "kilometres"],
  NM: ["nautical mile", "nautical miles"],
  nmi: ["nautical mile", "nautical miles"],
  kn: ["knot", "knots"],
  kt: ["knot", "knots"],
  "km/h": ["kilometre per hour", "kilometres per hour"],
  "m/s": ["metre per second", "metres per second"],
  s: ["second", "seconds"],
  min: ["minute", "minutes"],
  h: ["hour", "hours"],
  g: ["gram", "grams"],
  kg: ["kilogram", "kilograms"],
  mg: ["milligram", "milligrams"],
  l: ["litre", "litres"],
  L: ["litre", "litres"],
  ml: ["millilitre", "millilitres"],
  mL: ["millilitre", "millilitres"],
  "°C": ["degree Celsius", "degrees Celsius"],
  "°": ["degree", "degrees"],
  "%": ["per cent", "per cent"],
  ha: ["hectare", "hectares"],
  "m²": ["square metre", "square metres"],
  "m^2": ["square metre", "square metres"],
};

/** A unit in words, or as it was written when it has no name here. */
export function unitInWords(symbol: string, isOne: boolean): string {
  const names = Object.hasOwn(NAMES, symbol) ? NAMES[symbol] : undefined;
  return names ? names[isOne ? 0 : 1] : symbol;
}
