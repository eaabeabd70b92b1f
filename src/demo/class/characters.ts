import { chance } from "@/core/numbers/seeded";
import { NOOR, STUDENTS } from "../people";

/** What a student of the demo is like, as far as it shows in answers. */
export interface Character {
  readonly name: string;
  /** What is known, on the scale of the questions' difficulty: 0 is the middle of the class. */
  readonly knows: number;
  /** How often something known is spoilt by a slip, 0 to 1. */
  readonly slips: number;
  /** The share of the time limit that is used, 0 to 1. */
  readonly pace: number;
  /** How often what is not known is left empty, 0 to 1; the rest is guessed. */
  readonly leavesEmpty: number;
  /** How good what is written in whole sentences is, 0 to 1. */
  readonly writes: number;
  /** How often a quiz is not taken at all, 0 to 1. */
  readonly away: number;
  /** How often work comes late where it may, 0 to 1. */
  readonly late: number;
  /** Whose words are taken over. */
  readonly copiesFrom?: string;
}

type Sort = Omit<Character, "name" | "copiesFrom">;

const SORTS = {
  strong: { knows: 2.1, slips: 0.04, pace: 0.7, leavesEmpty: 0.3, writes: 0.92, away: 0.02, late: 0.02 },
  careful: { knows: 1.1, slips: 0.02, pace: 0.97, leavesEmpty: 0.5, writes: 0.8, away: 0.03, late: 0.05 },
  middling: { knows: 0.3, slips: 0.08, pace: 0.8, leavesEmpty: 0.3, writes: 0.6, away: 0.06, late: 0.12 },
  hurried: { knows: 0.7, slips: 0.22, pace: 0.4, leavesEmpty: 0.25, writes: 0.45, away: 0.05, late: 0.2 },
  weak: { knows: -1.3, slips: 0.12, pace: 0.9, leavesEmpty: 0.35, writes: 0.25, away: 0.1, late: 0.5 },
  guessing: { knows: -2.2, slips: 0.1, pace: 0.3, leavesEmpty: 0, writes: 0.1, away: 0.05, late: 0.3 },
  copying: { knows: -1.5, slips: 0.1, pace: 0.6, leavesEmpty: 0.1, writes: 0.3, away: 0, late: 0.1 },
} as const satisfies Record<string, Sort>;

/** Who is not middling. */
const KNOWN_AS: Readonly<Record<string, keyof typeof SORTS>> = {
  "Amara Delorne-Whitfield": "strong",
  "Bao Lindqvist": "strong",
  "Isolde Fairweather": "strong",
  "Mei-Lin Strand": "strong",
  "Valentin Aghedo": "strong",
  "Elin Karimi": "strong",
  "Fionnuala Rao": "strong",
  [NOOR]: "careful",
  "Greta Nwosu": "careful",
  "Keziah Rowden": "careful",
  "Yusuf Penhallow": "careful",
  "Lucia Harrowgate": "careful",
  "Dmitri Aske": "hurried",
  "Priya Sandoval": "hurried",
  "Tadhg Villanueva": "hurried",
  "Gideon Salcano": "hurried",
  "Farid Kjeldsen": "weak",
  "Hamid Castellane": "weak",
  "Nikolai Pellworth": "weak",
  "Ottoline Diaz": "weak",
  "Ximena Bratt": "weak",
  "Daoud Wetherby": "weak",
  "Hana Drummond": "weak",
  "Jun Abernathy": "guessing",
  "Zofia Marchetti": "copying",
};

/** Whose essays are taken over by the one who copies. */
const COPIED: Readonly<Record<string, string>> = { "Zofia Marchetti": "Mei-Lin Strand" };

const around = (value: number, spread: number, next: () => number, least = 0, most = 1): number =>
  Math.min(most, Math.max(least, value + (next() + next() - 1) * spread));

/** One of a sort, and a little different from the others of it; always the same. */
function characterOf(name: string, sort: Sort): Character {
  const next = chance("character", name);
  return {
    ...sort,
    name,
    knows: around(sort.knows, 0.7, next, -4, 4),
    pace: around(sort.pace, 0.15, next, 0.15, 0.99),
    writes: around(sort.writes, 0.12, next),
  };
}

/** The forty students as characters. */
export const characters = (): readonly Character[] =>
  STUDENTS.map(([name]) => {
    const copiesFrom = COPIED[name];
    return {
      ...characterOf(name, SORTS[KNOWN_AS[name] ?? "middling"]),
      ...(copiesFrom ? { copiesFrom } : {}),
    };
  });

/** How a large class is made up, in the order of its list: nobody copies. */
const MIX: readonly (keyof typeof SORTS)[] = [
  "middling",
  "careful",
  "strong",
  "middling",
  "hurried",
  "weak",
  "careful",
  "middling",
  "guessing",
  "strong",
];

/** Students of a large class as characters. */
export const charactersOf = (names: readonly string[]): readonly Character[] =>
  names.map((name, i) => characterOf(name, SORTS[MIX[i % MIX.length] ?? "middling"]));
