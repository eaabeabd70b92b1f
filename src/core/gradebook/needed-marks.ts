import { type Exact, exact, ZERO } from "../numbers/exact";
import {
  type Category,
  type CourseStanding,
  courseStanding,
  type Item,
  type StandingOptions,
} from "./standing";

export type Need =
  | { readonly answer: "already-there" }
  | { readonly answer: "out-of-reach"; readonly best: Exact }
  /** The least mark in the item, to 2 decimals rounded up, from which on the course comes to the target. */
  | { readonly answer: "mark"; readonly marks: Exact };

/** The course's low end with other marks in some items, the rest as it stands. */
function courseWith(
  categories: readonly Category[],
  marksIn: (item: Item) => Exact | null,
  options: StandingOptions,
): Exact {
  const changed = categories.map((category) => ({
    ...category,
    items: category.items.map((item) => {
      const marks = marksIn(item);
      return marks ? { ...item, over: false, excused: false, mark: { earned: marks, awaited: ZERO } } : item;
    }),
  }));
  return courseStanding(changed, options).low ?? ZERO;
}

/**
 * The steps at which the order of an item among the others may change, and the step after each: the others' shares, at
 * nothing and at full of what awaits. Between two of them the course never falls when the item's mark rises, since what is
 * dropped stays the same.
 */
function startsOf(others: readonly Item[], steps: bigint): bigint[] {
  const starts = new Set([0n]);
  for (const { mark, maximum } of others) {
    if (!mark || maximum.n === 0n) continue;
    for (const marks of [mark.earned, mark.earned.add(mark.awaited)]) {
      const at = marks
        .div(maximum)
        .mul(exact(`${steps}`))
        .floor().n;
      for (const start of [at, at + 1n]) if (start <= steps) starts.add(start);
    }
  }
  return [...starts].sort((a, b) => (a < b ? -1 : 1));
}

/** The least step from which on every step reaches; null: not even the last one does. */
function leastFrom(
  reaches: (step: bigint) => boolean,
  steps: bigint,
  starts: readonly bigint[],
): bigint | null {
  let end = steps;
  for (const start of [...starts].reverse()) {
    if (!reaches(end)) return end === steps ? null : end + 1n;
    if (!reaches(start)) {
      let [low, high] = [start, end];
      while (high - low > 1n) {
        const middle = (low + high) / 2n;
        if (reaches(middle)) high = middle;
        else low = middle;
      }
      return high;
    }
    end = start - 1n;
    if (end < 0n) break;
  }
  return 0n;
}

/**
 * "What do I need here?": the least mark in one item from which on every higher mark too brings the course to the target (a
 * share, 0 to 1), the rest as it stands, awaited marks at nothing. With drops the course can fall while a mark rises, so a
 * lower mark that happens to do is not an answer. @throws Error for an item that is not there.
 */
export function needIn(
  categories: readonly Category[],
  itemId: string,
  target: Exact,
  options: StandingOptions = {},
): Need {
  const own = categories.find((category) => category.items.some(({ id }) => id === itemId));
  const item = own?.items.find(({ id }) => id === itemId);
  if (!own || !item) throw new Error(`There is no item ${itemId}.`);
  const steps = item.maximum.mul(100).ceil().n;
  const marksAt = (step: bigint) => {
    const marks = exact(`${step}/100`);
    return marks.compare(item.maximum) > 0 ? item.maximum : marks;
  };
  const courseAt = (step: bigint) =>
    courseWith(categories, ({ id }) => (id === itemId ? marksAt(step) : null), options);
  const others = own.dropLowest > 0 ? own.items.filter(({ id }) => id !== itemId) : [];
  const least = leastFrom((step) => courseAt(step).compare(target) >= 0, steps, startsOf(others, steps));
  if (least === null) return { answer: "out-of-reach", best: courseAt(steps) };
  return least === 0n ? { answer: "already-there" } : { answer: "mark", marks: marksAt(least) };
}

/** Whether an item can still bring marks: it is to come, or some of it awaits. */
const remains = ({ mark, excused, over }: Item): boolean =>
  !excused && (mark === null ? !over : mark.awaited.n !== 0n);

/**
 * What is needed on average in all that remains: the least whole per cent of what is still to come and of what awaits, from
 * which on the course comes to the target; null: not even all of it does.
 */
export function neededOnAverage(
  categories: readonly Category[],
  target: Exact,
  options: StandingOptions = {},
): number | null {
  const courseAt = (percent: number) =>
    courseWith(
      categories,
      (item) => {
        if (!remains(item)) return null;
        const open = item.mark ? item.mark.awaited : item.maximum;
        return (item.mark?.earned ?? ZERO).add(open.mul(percent).div(100));
      },
      options,
    );
  let least: number | null = null;
  for (let percent = 100; percent >= 0; percent -= 1) {
    if (courseAt(percent).compare(target) < 0) break;
    least = percent;
  }
  return least;
}

/** The worst and the best that the course can still become, with everything that is still to come. */
export function possibleStanding(
  categories: readonly Category[],
  options: StandingOptions = {},
): Pick<CourseStanding, "low" | "high"> {
  const open = categories.map((category) => ({
    ...category,
    items: category.items.map((item) =>
      item.mark === null && remains(item) ? { ...item, mark: { earned: ZERO, awaited: item.maximum } } : item,
    ),
  }));
  const { low, high } = courseStanding(open, options);
  return { low, high };
}
