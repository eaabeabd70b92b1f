import { type Exact, exact, sum, ZERO } from "../numbers/exact";
import type { Range } from "./counts";

/** A marked piece of work within a category. */
export interface Marked {
  readonly id: string;
  readonly maximum: Exact;
  readonly earned: Exact;
  readonly awaited: Exact;
}

export type CategoryMean = "by-points" | "equal";

/** @example shareOf({ maximum: exact(20) }, exact(5)) → exact("1/4") */
export const shareOf = (item: Marked, marks: Exact): Exact =>
  item.maximum.n === 0n ? ZERO : marks.div(item.maximum);
const lowShare = (item: Marked) => shareOf(item, item.earned);
const highShare = (item: Marked) => shareOf(item, item.earned.add(item.awaited));

/** The mean of some work, with the marks that `marks` gives to each; null without any. */
export function meanOf(
  mean: CategoryMean,
  items: readonly Marked[],
  marks: (item: Marked) => Exact,
): Exact | null {
  const scored = items.filter((item) => item.maximum.n !== 0n);
  if (scored.length === 0) return null;
  if (mean === "by-points") return sum(scored.map(marks)).div(sum(scored.map((item) => item.maximum)));
  return sum(scored.map((item) => shareOf(item, marks(item)))).div(scored.length);
}

/** Work that is worth no marks is neither dropped nor counted. */
const isWorth = (item: Marked): boolean => item.maximum.n !== 0n;

/** How many are dropped: at least one piece of work always stays. */
const dropCount = (items: readonly Marked[], wanted: number) =>
  Math.max(0, Math.min(wanted, items.length - 1));

/** From the first to be dropped: the lowest share, and of equal ones the larger piece of work, to the student's benefit. */
function inDropOrder(items: readonly Marked[], share: (item: Marked) => Exact): Marked[] {
  // Each share is worked out once: sorting looks at it many times.
  return items
    .map((item) => ({ item, share: share(item) }))
    .sort((a, b) => a.share.compare(b.share) || b.item.maximum.compare(a.item.maximum))
    .map(({ item }) => item);
}

/**
 * The work that is dropped now: the lowest by percentage. Work with awaited marks is judged by the most it can reach, so
 * that it is not dropped while another could be lower.
 */
export function droppedOf(items: readonly Marked[], wanted: number): Set<string> {
  if (wanted <= 0) return new Set();
  const order = inDropOrder(items.filter(isWorth), highShare);
  return new Set(order.slice(0, dropCount(order, wanted)).map((item) => item.id));
}

/** Beyond so many pieces that are marked in part, the ends of the range are only bounded. */
const MOST_IN_PART = 12;

/** All subsets with at most so many members. */
function subsets<T>(items: readonly T[], most: number): T[][] {
  const all: T[][] = [[]];
  for (const item of items) {
    for (const each of [...all]) if (each.length < most) all.push([...each, item]);
  }
  return all;
}

/** Whether a piece can come to stay while another one, at its least, is dropped. */
function mayStayBefore(stays: Marked, out: Marked): boolean {
  const by = highShare(stays).compare(lowShare(out));
  return by > 0 || (by === 0 && out.maximum.compare(stays.maximum) >= 0);
}

const wider = (range: Range | null, low: Exact, high: Exact): Range => ({
  low: range && range.low.compare(low) <= 0 ? range.low : low,
  high: range && range.high.compare(high) >= 0 ? range.high : high,
});

/**
 * Between which two figures the mean will end, whatever the awaited marks become, and with them what is dropped. With
 * different maxima a better mark can lower the mean, because another piece is dropped instead; so the ends are sought over
 * all sets that may come to be dropped, each with the marks at which it would be. Of pieces of which nothing is marked yet
 * only the number that is dropped matters: of any number the smallest ones make both ends.
 */
export function rangeWithDrops(mean: CategoryMean, all: readonly Marked[], wanted: number): Range | null {
  const items = all.filter(isWorth);
  const count = dropCount(items, wanted);
  const awaiting = items.filter((item) => item.awaited.n !== 0n);
  const low = (item: Marked) => item.earned;
  const high = (item: Marked) => item.earned.add(item.awaited);
  if (count === 0 || awaiting.length === 0) {
    const dropped = droppedOf(items, wanted);
    const counting = items.filter((item) => !dropped.has(item.id));
    const [from, to] = [meanOf(mean, counting, low), meanOf(mean, counting, high)];
    return from && to ? { low: from, high: to } : null;
  }
  const isWhole = (item: Marked) => item.earned.n === 0n && item.awaited.equals(item.maximum);
  const inPart = awaiting.filter((item) => !isWhole(item));
  if (inPart.length > MOST_IN_PART) {
    const least = items.map(lowShare).reduce((a, b) => (a.compare(b) <= 0 ? a : b));
    const most = items.map(highShare).reduce((a, b) => (a.compare(b) >= 0 ? a : b));
    return { low: least, high: most };
  }
  const whole = awaiting.filter(isWhole).sort((a, b) => a.maximum.compare(b.maximum));
  const settled = inDropOrder(
    items.filter((item) => item.awaited.n === 0n),
    lowShare,
  );
  let range: Range | null = null;
  for (const also of subsets(inPart, count)) {
    for (let unmarked = 0; unmarked <= Math.min(whole.length, count - also.length); unmarked += 1) {
      const rest = count - also.length - unmarked;
      if (rest > settled.length) continue;
      // With nothing in them they go before a marked one that has nothing, too, only where they are not the smaller.
      const nothing = settled.slice(rest).filter((item) => item.earned.n === 0n);
      const mayGo = whole.filter((item) =>
        nothing.every(({ maximum }) => maximum.compare(item.maximum) <= 0),
      );
      if (unmarked > mayGo.length) continue;
      const dropped = [...settled.slice(0, rest), ...also, ...mayGo.slice(0, unmarked)];
      const counting = items.filter((item) => !dropped.includes(item));
      if (!counting.every((item) => dropped.every((out) => mayStayBefore(item, out)))) continue;
      const least = dropped.map(lowShare).reduce((a, b) => (a.compare(b) >= 0 ? a : b), ZERO);
      const atLeast = (item: Marked) => {
        const needed = least.mul(item.maximum);
        return needed.compare(item.earned) > 0 ? needed : item.earned;
      };
      const [from, to] = [meanOf(mean, counting, atLeast), meanOf(mean, counting, high)];
      if (from && to) range = wider(range, from, to);
    }
  }
  return range ?? { low: exact(0), high: exact(1) };
}
