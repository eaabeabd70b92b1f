import { type Said, said } from "../said";

/** What a written formula may be, so that drawing it costs little: characters, and how deep its groups lie. */
const LONGEST_FORMULA = 1_000;
const DEEPEST = 30;
/** How many formulas one text may have, and how many characters all of them together. */
const MOST_FORMULAS = 200;
const LONGEST_TOGETHER = 10_000;

/** Of what opens and closes a group in TeX, how much is open at most. */
function depthOf(tex: string): number {
  let depth = 0;
  let deepest = 0;
  for (const [sign] of tex.matchAll(/\\left|\\right|\\begin|\\end|\\[{}]|[{}]/g)) {
    if (sign === "{" || sign === "\\left" || sign === "\\begin") {
      depth += 1;
      deepest = Math.max(deepest, depth);
    } else if (sign === "}" || sign === "\\right" || sign === "\\end") depth = Math.max(0, depth - 1);
  }
  return deepest;
}

/**
 * Why a formula in TeX is not taken, as a sentence; null when it is.
 * @example formulaProblem("a^2") → null
 */
export function formulaProblem(tex: string): Said | null {
  if (tex.length > LONGEST_FORMULA)
    return said("text.formulas.a-formula-is-too-long-characters", { most: LONGEST_FORMULA });
  if (depthOf(tex) > DEEPEST) return said("text.formulas.a-formula-is-nested-too-deep", { most: DEEPEST });
  return null;
}

/**
 * Why the formulas of one text are not taken, as a sentence; null when they are.
 * @example formulasProblem(["a^2", "b"]) → null
 */
export function formulasProblem(formulas: readonly string[]): Said | null {
  if (formulas.length > MOST_FORMULAS)
    return said("text.formulas.there-are-too-many-formulas-at", { most: MOST_FORMULAS });
  const [first] = formulas.flatMap((tex) => formulaProblem(tex) ?? []);
  if (first !== undefined) return first;
  const together = formulas.reduce((sum, tex) => sum + tex.length, 0);
  return together > LONGEST_TOGETHER
    ? said("text.formulas.the-formulas-are-too-long-together", { most: LONGEST_TOGETHER })
    : null;
}
