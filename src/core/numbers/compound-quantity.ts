import { type Exact, exact, rounded, ZERO } from "./exact";
import { unitSymbol } from "./unit-names";

/** Units that people write one behind the other, each with how many of the next it holds. */
const FAMILIES: readonly (readonly (readonly [symbol: string, ofNext: number])[])[] = [
  [
    ["d", 24],
    ["h", 60],
    ["min", 60],
    ["s", 1],
  ],
  [
    ["°", 60],
    ["′", 60],
    ["″", 1],
  ],
  [
    ["km", 1000],
    ["m", 100],
    ["cm", 1],
  ],
  [
    ["kg", 1000],
    ["g", 1],
  ],
  [
    ["ft", 12],
    ["in", 1],
  ],
  [
    ["lb", 16],
    ["oz", 1],
  ],
];

/** Other writings of the same, as the families have them. */
const SAME: Readonly<Record<string, string>> = {
  deg: "°",
  "'": "′",
  arcmin: "′",
  '"': "″",
  arcsec: "″",
};

/** What a number without a unit is behind one with it. */
const UNSAID: Readonly<Record<string, string>> = { h: "min", "°": "′" };

const PAIR = /\s*(\d+(?:[.,]\d+)?)\s*([A-Za-z°′'″"]*)/y;

/** A quantity in several units, understood: its value in the smallest of them. */
export interface CompoundQuantity {
  readonly value: Exact;
  readonly unit: string;
  /** The value in plain writing, with as many decimals as were written. */
  readonly plain: string;
}

/** Numbers and the units behind them, in the order in which they stand; null: the text is something else. */
function pairsOf(text: string): { number: string; unit: string }[] | null {
  const pairs: { number: string; unit: string }[] = [];
  PAIR.lastIndex = 0;
  while (PAIR.lastIndex < text.length) {
    const found = PAIR.exec(text);
    if (!found) return null;
    pairs.push({ number: (found[1] ?? "").replace(",", "."), unit: found[2] ?? "" });
  }
  return pairs.length > 1 ? pairs : null;
}

/**
 * Reads what is written in several units of one kind, the larger first: `3 h 6 min`, `3h06`, `52° 30′`, `1 kg 250 g`.
 * Only the last may have decimals; behind hours and degrees its unit may be left out. Null: the text is nothing of the kind.
 * @param text without a sign, odd spaces or odd digits
 * @example readCompound("3 h 6 min")?.plain → "186"
 */
export function readCompound(text: string): CompoundQuantity | null {
  const pairs = pairsOf(text);
  if (!pairs || pairs.slice(0, -1).some(({ number, unit }) => number.includes(".") || unit === ""))
    return null;
  const first = symbolIn(pairs[0]?.unit ?? "", undefined);
  const family = FAMILIES.find((each) => each.some(([symbol]) => symbol === first));
  if (!family) return null;
  let place = family.findIndex(([symbol]) => symbol === first);
  let value = ZERO;
  for (const [i, { number, unit }] of pairs.entries()) {
    if (i > 0) {
      const next = unit === "" ? UNSAID[family[place]?.[0] ?? ""] : symbolIn(unit, family);
      const found = family.findIndex(([symbol]) => symbol === next);
      if (found <= place) return null;
      for (; place < found; place += 1) value = value.mul(family[place]?.[1] ?? 1);
    }
    value = value.add(exact(number));
  }
  const decimals = /\.(\d+)$/.exec(pairs.at(-1)?.number ?? "")?.[1]?.length ?? 0;
  return { value, unit: family[place]?.[0] ?? "", plain: rounded(value, decimals) };
}

/** A unit as the families have it; behind hours an "m" is minutes. */
function symbolIn(written: string, family: (typeof FAMILIES)[number] | undefined): string | undefined {
  const symbol = unitSymbol(written) ?? "";
  if (symbol === "m" && family?.some(([each]) => each === "min")) return "min";
  return SAME[symbol] ?? symbol;
}
