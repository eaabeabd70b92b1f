import { atLeast, type Exact, exact, ONE, ZERO } from "../../numbers/exact";

/**
 * The credit of a picked set: all or nothing, or (right picked - wrong picked) / number right, never below zero.
 * With as many wrong as right it is nothing; the whole key with one wrong one more is one right one less.
 * @example setCredit("by-option", 2, 1, 3) → exact("1/3")
 */
export function setCredit(
  rule: "all-or-nothing" | "by-option",
  rightPicked: number,
  wrongPicked: number,
  right: number,
): Exact {
  if (rule === "all-or-nothing") return rightPicked === right && wrongPicked === 0 ? ONE : ZERO;
  return atLeast(exact(`${rightPicked - wrongPicked}/${right}`), ZERO);
}
