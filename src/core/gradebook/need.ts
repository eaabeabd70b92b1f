import { type Exact, exact, ZERO } from "../numbers/exact";
import { type Category, courseStanding, type StandingOptions } from "./standing";

export type Need =
  | { readonly answer: "already-there" }
  | { readonly answer: "out-of-reach"; readonly best: Exact }
  /** The least mark in the item, to 2 decimals rounded up, that brings the course to the target. */
  | { readonly answer: "mark"; readonly marks: Exact };

/** The course's low end if an item got these marks and the rest stood as it does. */
function courseWith(
  categories: readonly Category[],
  itemId: string,
  marks: Exact,
  options: StandingOptions,
): Exact {
  const changed = categories.map((category) => ({
    ...category,
    items: category.items.map((item) =>
      item.id === itemId
        ? { ...item, over: false, excused: false, mark: { earned: marks, awaited: ZERO } }
        : item,
    ),
  }));
  return courseStanding(changed, options).low ?? ZERO;
}

/**
 * "What do I need here?": the least mark in one item with which the course comes to the target (a share, 0 to 1), the
 * rest as it stands, awaited marks at nothing. The course never falls when an item's mark rises, so the least is found
 * by halving over hundredths of a mark. @throws Error for an item that is not there.
 */
export function needIn(
  categories: readonly Category[],
  itemId: string,
  target: Exact,
  options: StandingOptions = {},
): Need {
  const item = categories.flatMap((category) => category.items).find((each) => each.id === itemId);
  if (!item) throw new Error(`There is no item ${itemId}.`);
  const reaches = (hundredths: bigint) =>
    courseWith(categories, itemId, exact(`${hundredths}/100`), options).compare(target) >= 0;
  if (reaches(0n)) return { answer: "already-there" };
  const best = courseWith(categories, itemId, item.maximum, options);
  if (best.compare(target) < 0) return { answer: "out-of-reach", best };
  let low = 0n;
  let high = item.maximum.mul(100).ceil().n;
  while (high - low > 1n) {
    const middle = (low + high) / 2n;
    if (reaches(middle)) high = middle;
    else low = middle;
  }
  const marks = exact(`${high}/100`);
  return { answer: "mark", marks: marks.compare(item.maximum) > 0 ? item.maximum : marks };
}
