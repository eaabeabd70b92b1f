import { type Exact, exact } from "../../numbers/exact";
import { plainWriting } from "../../numbers/read-number";
import { agreeToFigures, inFigures } from "../../numbers/significant-figures";
import type { NumericPart, Tolerance } from "./question";

/** Whether a number is right, apart from how many figures were written. */
export function isRight(value: Exact, key: Exact, tolerance: Tolerance): boolean {
  if (tolerance.rule === "figures")
    return agreeToFigures(value, key, tolerance.figures, tolerance.units ?? 0);
  const within = exact(tolerance.within);
  return (
    value
      .sub(key)
      .abs()
      .compare(tolerance.rule === "absolute" ? within : within.mul(key.abs())) <= 0
  );
}

/** As many figures as a shown key has at most; one that needs more is a fraction. */
const MOST_FIGURES = 15;

/** A key as people write it: in the figures asked for, else as a decimal, rounded within the tolerance where it has no end. */
export function keyFigure({ tolerance }: NumericPart, key: Exact): string {
  if (tolerance.rule === "figures") return inFigures(key, tolerance.figures);
  const plain = plainWriting(key);
  if (!plain.includes("/")) return plain;
  for (let figures = 3; figures <= MOST_FIGURES; figures += 1) {
    const near = inFigures(key, figures);
    if (isRight(exact(near), key, tolerance)) return near;
  }
  return plain;
}
