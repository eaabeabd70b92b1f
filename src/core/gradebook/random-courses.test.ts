import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Exact, exact, ZERO } from "../numbers/exact";
import { neededOnAverage, needIn, possibleStanding } from "./needed-marks";
import { type Category, courseStanding, type Item } from "./standing";

/**
 * A slow and obvious gradebook beside the real one: plain numbers, every set that could be dropped looked at, every mark
 * tried that could matter.
 */
interface Piece {
  readonly share: number;
  readonly maximum: number;
}

/** Every subset with so many members. */
function subsets<T>(all: readonly T[], size: number): T[][] {
  if (size === 0) return [[]];
  const [first, ...rest] = all;
  if (first === undefined) return [];
  return [...subsets(rest, size - 1).map((each) => [first, ...each]), ...subsets(rest, size)];
}

const CLOSE = 1e-9;

/** The mean of what stays: of all sets that may be dropped, one of which no member beats a piece that stays. */
function meanKept(pieces: readonly Piece[], { mean, dropLowest }: Category): number | null {
  const counting = pieces.filter(({ maximum }) => maximum > 0);
  if (counting.length === 0) return null;
  const size = Math.max(0, Math.min(dropLowest, counting.length - 1));
  const fits = subsets(counting, size).filter((dropped) => {
    const kept = counting.filter((each) => !dropped.includes(each));
    return dropped.every((out) =>
      kept.every(
        (stays) =>
          out.share < stays.share - CLOSE ||
          // Of equal ones the larger goes.
          (Math.abs(out.share - stays.share) <= CLOSE && out.maximum >= stays.maximum),
      ),
    );
  });
  const [dropped = []] = fits;
  const kept = counting.filter((each) => !dropped.includes(each));
  const total = (pick: (piece: Piece) => number) => kept.reduce((held, each) => held + pick(each), 0);
  return mean === "equal"
    ? total(({ share }) => share) / kept.length
    : total(({ share, maximum }) => share * maximum) / total(({ maximum }) => maximum);
}

/** What one item can come to be: the shares that could matter, those of the others and a hair beside them among them. */
function sharesOf(item: Item, others: readonly number[]): number[] {
  if (!item.mark) return [];
  const maximum = item.maximum.valueOf();
  if (maximum === 0) return [0];
  const [low, high] = [item.mark.earned.valueOf(), item.mark.earned.add(item.mark.awaited).valueOf()].map(
    (marks) => marks / maximum,
  ) as [number, number];
  if (high - low < CLOSE) return [low];
  const near = others.flatMap((share) => [share - 1e-7, share, share + 1e-7]);
  return [low, high, ...near.filter((share) => share > low && share < high)];
}

/** The ends of a category over everything that the awaited marks can become. */
function categoryEnds(category: Category): { low: number; high: number } | null {
  const items = category.items.filter(({ mark, excused }) => mark !== null && !excused);
  const settled = items.flatMap(({ mark, maximum }) =>
    mark && maximum.valueOf() > 0
      ? [
          mark.earned.valueOf() / maximum.valueOf(),
          mark.earned.add(mark.awaited).valueOf() / maximum.valueOf(),
        ]
      : [],
  );
  let combined: Piece[][] = [[]];
  for (const item of items) {
    const maximum = item.maximum.valueOf();
    combined = sharesOf(item, settled).flatMap((share) =>
      combined.map((each) => [...each, { share, maximum }]),
    );
  }
  const means = combined.flatMap((pieces) => meanKept(pieces, category) ?? []);
  return means.length === 0 ? null : { low: Math.min(...means), high: Math.max(...means) };
}

/** The ends of a course. */
function courseEnds(categories: readonly Category[]): { low: number; high: number } | null {
  const present = categories.flatMap((category) => {
    const ends = categoryEnds(category);
    return ends ? [{ ...ends, weight: category.weight.valueOf() }] : [];
  });
  const weights = present.reduce((held, { weight }) => held + weight, 0);
  if (weights === 0) return null;
  const mean = (pick: (each: (typeof present)[number]) => number) =>
    present.reduce((held, each) => held + pick(each) * each.weight, 0) / weights;
  return { low: mean(({ low }) => low), high: mean(({ high }) => high) };
}

const item = (awaits: fc.Arbitrary<number>): fc.Arbitrary<Omit<Item, "id">> =>
  fc
    .record({
      maximum: fc.constantFrom(0, 2, 4, 10, 10, 20, 100),
      earned: fc.integer({ min: 0, max: 20 }),
      awaited: awaits,
      state: fc.constantFrom("marked", "marked", "marked", "marked", "none", "excused"),
    })
    .map(({ maximum, earned, awaited, state }) => {
      const low = exact(maximum).mul(earned).div(20);
      const rest = exact(maximum).sub(low);
      return {
        maximum: exact(maximum),
        mark: state === "none" ? null : { earned: low, awaited: rest.mul(awaited).div(4) },
        excused: state === "excused",
        over: false,
      };
    });

/** Most work is marked; of a few pieces something waits. */
const rarely = fc.constantFrom(0, 0, 0, 0, 2, 4);
const category = (id: string, most: number): fc.Arbitrary<Category> =>
  fc
    .record({
      weight: fc.constantFrom(10, 40, 60),
      mean: fc.constantFrom("by-points" as const, "equal" as const),
      dropLowest: fc.integer({ min: 0, max: 2 }),
      items: fc.array(item(rarely), { minLength: 1, maxLength: most }),
    })
    .map(({ weight, items, ...rest }) => ({
      id,
      weight: exact(weight),
      ...rest,
      items: items.map((each, i) => ({ ...each, id: `${id}${i}` })),
    }));

const close = (real: Exact | null, model: number | null | undefined): void => {
  if (real === null || model === null || model === undefined) {
    expect(real === null).toBe(model === null || model === undefined);
    return;
  }
  expect(Math.abs(real.valueOf() - model)).toBeLessThan(1e-6);
};

describe("ten thousand random gradebooks against a slow, obvious model", () => {
  test("the range of what is handed in", () => {
    fc.assert(
      fc.property(category("a", 4), category("b", 2), (a, b) => {
        const { low, high } = courseStanding([a, b]);
        const ends = courseEnds([a, b]);
        close(low, ends?.low);
        close(high, ends?.high);
      }),
      { numRuns: 6_000 },
    );
  }, 60_000);

  test("the worst and the best that can still come", () => {
    fc.assert(
      fc.property(category("a", 4), (a) => {
        const { low, high } = possibleStanding([a]);
        const open = a.items.map((each) =>
          each.mark === null && !each.excused
            ? { ...each, mark: { earned: ZERO, awaited: each.maximum } }
            : each,
        );
        const ends = courseEnds([{ ...a, items: open }]);
        close(low, ends?.low);
        close(high, ends?.high);
      }),
      { numRuns: 2_000 },
    );
  }, 60_000);

  test("what is needed in one item: every hundredth of a mark tried, from the top", () => {
    const settled = fc.constant(0);
    const own = fc
      .record({
        others: fc.array(
          item(fc.oneof({ weight: 9, arbitrary: settled }, { weight: 1, arbitrary: rarely })),
          {
            minLength: 1,
            maxLength: 3,
          },
        ),
        maximum: fc.constantFrom(1, 2, 4),
        dropLowest: fc.integer({ min: 0, max: 2 }),
        mean: fc.constantFrom("by-points" as const, "equal" as const),
        target: fc.integer({ min: 0, max: 100 }),
      })
      .map(({ others, maximum, target, ...rest }) => ({
        target,
        maximum,
        category: {
          id: "own",
          weight: exact(40),
          ...rest,
          items: [
            { id: "x", maximum: exact(maximum), mark: null },
            ...others.map((each, i) => ({ ...each, id: `o${i}` })),
          ],
        } satisfies Category,
      }));
    fc.assert(
      fc.property(own, ({ category: of, maximum, target }) => {
        const reaches = (hundredths: number) => {
          const items = of.items.map((each) =>
            each.id === "x" ? { ...each, mark: { earned: exact(`${hundredths}/100`), awaited: ZERO } } : each,
          );
          return (categoryEnds({ ...of, items })?.low ?? 0) >= target / 100 - 1e-6;
        };
        let least: number | null = null;
        for (let step = maximum * 100; step >= 0 && reaches(step); step -= 1) least = step;
        const need = needIn([of], "x", exact(`${target}/100`));
        if (least === null) expect(need.answer).toEqual("out-of-reach");
        else if (least === 0) expect(need.answer).toEqual("already-there");
        else expect(need.answer === "mark" && need.marks.valueOf()).toBeCloseTo(least / 100, 6);
      }),
      { numRuns: 2_000 },
    );
  }, 120_000);
});

test("a mark that happens to do is not an answer: with drops by points the course can fall while a mark rises", () => {
  const piece = (id: string, earned: number | null, maximum: number): Item => ({
    id,
    maximum: exact(maximum),
    mark: earned === null ? null : { earned: exact(earned), awaited: ZERO },
  });
  const course: Category[] = [
    {
      id: "all",
      weight: exact(1),
      mean: "by-points",
      dropLowest: 1,
      items: [piece("a", 5, 10), piece("b", 90, 100), piece("x", null, 100)],
    },
  ];
  const need = needIn(course, "x", exact("85/100"));
  expect(need).toEqual({ answer: "mark", marks: exact(80) });
});

test("where one item cannot do it, all that remains can, on average", () => {
  const piece = (id: string, earned: number | null): Item => ({
    id,
    maximum: exact(10),
    mark: earned === null ? null : { earned: exact(earned), awaited: ZERO },
  });
  const course: Category[] = [
    {
      id: "all",
      weight: exact(1),
      mean: "by-points",
      dropLowest: 0,
      items: [piece("a", 4), piece("b", null), piece("c", null), piece("d", null)],
    },
  ];
  expect(needIn(course, "b", exact("80/100")).answer).toEqual("out-of-reach");
  // (4 + 30 s) / 40 = 0.8 at s = 93.33 %.
  expect(neededOnAverage(course, exact("80/100"))).toBe(94);
  expect(neededOnAverage(course, exact("90/100"))).toBeNull();
});

test("work that is worth no marks takes no drop", () => {
  const piece = (id: string, earned: number, maximum: number): Item => ({
    id,
    maximum: exact(maximum),
    mark: { earned: exact(earned), awaited: ZERO },
  });
  const items = [piece("nothing", 0, 0), piece("low", 2, 10), piece("high", 9, 10)];
  const { categories } = courseStanding([
    { id: "all", weight: exact(1), mean: "by-points", dropLowest: 1, items },
  ]);
  expect([...(categories[0]?.dropped ?? [])]).toEqual(["low"]);
});
