import { type NumbersDrawn, numbersDrawn } from "../kinds/numeric/draws";
import type { UnitMeanings } from "../numbers/unit-names";
import { type DraftPiece, questionOf } from "./pieces";
import { type Step, toPutRight } from "./to-put-right";

/** What a page of a draft sends to be looked through: what has changed since it sent last. */
export interface CheckAsked {
  readonly nth: number;
  readonly changed: readonly (readonly [number, DraftPiece])[];
  readonly meanings: UnitMeanings;
  /** The question of which the drawn numbers are looked at, by its number; null: of none. */
  readonly numbersOf: number | null;
}

export interface CheckFound {
  readonly nth: number;
  readonly steps: readonly Step[];
  /** What the drawn numbers of that question come to. */
  readonly numbers: NumbersDrawn | null;
}

/** Looks a draft through again and again, as it is written; what did not change is not looked at again. */
export class DraftChecker {
  readonly #pieces = new Map<number, DraftPiece>();

  find({ nth, changed, meanings, numbersOf }: CheckAsked): CheckFound {
    for (const [slot, piece] of changed) this.#pieces.set(slot, piece);
    const question = numbersOf === null ? null : questionOf(this.#pieces, numbersOf);
    const numbers = question?.kind === "numeric" ? numbersDrawn(question) : null;
    return { nth, steps: toPutRight(this.#pieces, meanings), numbers };
  }
}
