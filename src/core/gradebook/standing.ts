import { type Exact, exact, ONE, sum, ZERO } from "../numbers/exact";
import type { Instant } from "../time/instants";
import { type CategoryMean, droppedOf, type Marked, meanOf, rangeWithDrops } from "./drops";

/** One piece of work in a course, as it stands for one student. */
export interface Item {
  readonly id: string;
  readonly maximum: Exact;
  /** Null: nothing handed in yet. */
  readonly mark: { readonly earned: Exact; readonly awaited: Exact } | null;
  /** Leaves the calculation. */
  readonly excused?: boolean;
  /** Nothing can be handed in any more: counts as 0 if `missingCountsZero`, else leaves the calculation. */
  readonly over?: boolean;
}

export interface Category {
  readonly id: string;
  /** Share of the course; the shares are taken relative to their sum. */
  readonly weight: Exact;
  readonly mean: CategoryMean;
  /** How many of the lowest are dropped. */
  readonly dropLowest: number;
  readonly items: readonly Item[];
}

/** Shares of 1; null when there is nothing to say yet. */
export interface Standing {
  readonly markedSoFar: Exact | null;
  readonly low: Exact | null;
  readonly high: Exact | null;
}

export interface CategoryStanding extends Standing {
  readonly id: string;
  /** The items that are dropped now. */
  readonly dropped: ReadonlySet<string>;
  /** The share of the category that each item is now, by its id; those that are out of the calculation have none. */
  readonly weights: ReadonlyMap<string, Exact>;
  /** The share of the category's weight that is not handed in yet. */
  readonly toCome: Exact;
}

export interface CourseStanding extends Standing {
  /** The share of the course that is not handed in yet. */
  readonly stillToCome: Exact;
  readonly categories: readonly CategoryStanding[];
}

/** The items that take part, with a missed one as zero where the course says so. */
function takingPart(category: Category, missingCountsZero: boolean): Marked[] {
  return category.items.flatMap((item) => {
    if (item.excused) return [];
    const { id, maximum } = item;
    if (item.mark) return [{ id, maximum, ...item.mark }];
    return item.over && missingCountsZero ? [{ id, maximum, earned: ZERO, awaited: ZERO }] : [];
  });
}

/** What is dropped now, and the mean of the rest as far as it is marked. */
function keptOf(category: Category, marked: readonly Marked[]) {
  const dropped = droppedOf(marked, category.dropLowest);
  const counting = marked.filter((item) => !dropped.has(item.id));
  // What awaits marking leaves "marked so far" with the part that awaits: earned over the maximum of what is marked.
  const settled = counting.map((item) =>
    item.awaited.n === 0n ? item : { ...item, maximum: item.maximum.sub(item.awaited) },
  );
  return { dropped, markedSoFar: meanOf(category.mean, settled, (item) => item.earned) };
}

/** What each item is of its category, the dropped ones and those of which nothing can come being out of it. */
function weightsOf(
  category: Category,
  dropped: ReadonlySet<string>,
  missingCountsZero: boolean,
): Map<string, Exact> {
  const items = category.items.filter(
    ({ id, excused, over, mark }) => !excused && !dropped.has(id) && (mark || !over || missingCountsZero),
  );
  const part = ({ maximum }: Item) => (category.mean === "equal" && maximum.n !== 0n ? ONE : maximum);
  const whole = sum(items.map(part));
  return new Map(items.map((item) => [item.id, whole.n === 0n ? ZERO : part(item).div(whole)]));
}

function categoryStanding(category: Category, missingCountsZero: boolean): CategoryStanding {
  const marked = takingPart(category, missingCountsZero);
  const { dropped, markedSoFar } = keptOf(category, marked);
  const range = rangeWithDrops(category.mean, marked, category.dropLowest);
  const weights = weightsOf(category, dropped, missingCountsZero);
  const waiting = category.items.filter((item) => !item.mark && !item.over);
  return {
    id: category.id,
    dropped,
    weights,
    markedSoFar,
    low: range?.low ?? null,
    high: range?.high ?? null,
    toCome: sum(waiting.map((item) => weights.get(item.id) ?? ZERO)),
  };
}

/** Categories with nothing yet leave the weights. */
function weighted(categories: readonly Category[], values: readonly (Exact | null)[]): Exact | null {
  const present = values.flatMap((value, i) => {
    const weight = categories[i]?.weight;
    return value && weight ? [{ value, weight }] : [];
  });
  const weights = sum(present.map(({ weight }) => weight));
  return weights.n === 0n ? null : sum(present.map(({ value, weight }) => value.mul(weight))).div(weights);
}

export interface StandingOptions {
  /** Whether work that was not handed in before its closing counts as 0. */
  readonly missingCountsZero?: boolean;
}

/**
 * The course marked so far at each of some moments, as shares of 1; null while nothing was marked.
 * @param shownAt when the mark of each item was shown; before that, and without such a moment, it was nothing yet
 */
export function markedOverTime(
  categories: readonly Category[],
  moments: readonly Instant[],
  shownAt: ReadonlyMap<string, Instant>,
  { missingCountsZero = false }: StandingOptions = {},
): (Exact | null)[] {
  const parts = categories.map((category) => ({ category, marked: takingPart(category, missingCountsZero) }));
  const shownBy = (at: Instant) => (item: Marked) => (shownAt.get(item.id) ?? Number.POSITIVE_INFINITY) <= at;
  return moments.map((at) =>
    weighted(
      categories,
      parts.map(({ category, marked }) => keptOf(category, marked.filter(shownBy(at))).markedSoFar),
    ),
  );
}

/**
 * How a student stands in a course.
 * @example courseStanding([]).markedSoFar → null
 */
export function courseStanding(
  categories: readonly Category[],
  options: StandingOptions = {},
): CourseStanding {
  const each = categories.map((category) => categoryStanding(category, options.missingCountsZero ?? false));
  const weights = sum(categories.map((category) => category.weight));
  const toCome = sum(each.map((category, i) => category.toCome.mul(categories[i]?.weight ?? ZERO)));
  return {
    categories: each,
    markedSoFar: weighted(
      categories,
      each.map((category) => category.markedSoFar),
    ),
    low: weighted(
      categories,
      each.map((category) => category.low),
    ),
    high: weighted(
      categories,
      each.map((category) => category.high),
    ),
    stillToCome: weights.n === 0n ? ZERO : toCome.div(weights),
  };
}

/**
 * A share as a figure in per cent: 0.8277 -> 82.77.
 * @example percent(exact("0.835")) → exact("167/2")
 */
export const percent = (value: Exact): Exact => value.mul(exact(100));
