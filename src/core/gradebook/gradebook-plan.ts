import { type Exact, exact, sum } from "../numbers/exact";
import type { CategoryMean } from "./drops";
import type { Scale } from "./scales";

/** A piece of work as it counts. */
export interface PlannedItem {
  readonly id: string;
  readonly title: string;
  /** Exact, as text. */
  readonly maximum: string;
  /** Null: it is marked outside Shizuka. */
  readonly quizId: string | null;
  readonly fullForTakingPart: boolean;
  /** The work for which it may stand in, where its student chooses so; null: for none. */
  readonly standsInFor: string | null;
}

export interface PlannedCategory {
  readonly id: string;
  readonly title: string;
  /** Exact, as text; the weights are taken relative to their sum. */
  readonly weight: string;
  readonly mean: CategoryMean;
  readonly dropLowest: number;
  readonly items: readonly PlannedItem[];
}

/** What counts in a course, and how much. */
export interface GradebookPlan {
  readonly categories: readonly PlannedCategory[];
  /** Whether work that was not handed in before its closing counts as 0. */
  readonly missingCountsZero: boolean;
  /** How the course's standing is shown; null: in per cent. */
  readonly scale: Scale | null;
}

/**
 * What each category is of the course, in per cent, by its id.
 * @example sharesOfCourse([{ id: "a", weight: "1" }, { id: "b", weight: "3" }]).get("b") → exact("75")
 */
export function sharesOfCourse(
  categories: readonly Pick<PlannedCategory, "id" | "weight">[],
): Map<string, Exact> {
  const whole = sum(categories.map(({ weight }) => exact(weight)));
  return new Map(
    categories.map(({ id, weight }) => [id, whole.n === 0n ? exact(0) : exact(weight).mul(100).div(whole)]),
  );
}
