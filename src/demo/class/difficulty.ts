import { chance } from "@/core/numbers/seeded";

/** Questions that are harder or easier than by chance: 0 is the middle of the class, above is harder. */
const SET: Readonly<Record<string, number>> = {
  "p-course": 0.5,
  "t-time": 0.9,
  "t-bar": 0.4,
  "c-double": 0.5,
  proof: 0.7,
  house: 0.6,
  diversity: 0.5,
  std: 0.2,
  "t-press": 1.3,
  variation: -1,
  springs: -0.8,
  "m-nominal": 0.8,
};

/** How far apart questions are by chance. */
const SPREAD = 1.6;

/** How hard a question is, on the scale of what students know; always the same for the same question. */
export const difficultyOf = (id: string): number =>
  SET[id] ?? (chance("difficulty", id)() + chance("difficulty again", id)() - 1) * (SPREAD / 2) - 0.15;

/** A question that misbehaves on purpose: those who know most are misled by it, so the figures should say so. */
export const isMisleading = (id: string): boolean => id === "p-lee";

/** The other that does: a wrong option is taken more often than the right one. */
export const POPULAR_WRONG: Readonly<Record<string, string>> = { "t-press": "b" };
