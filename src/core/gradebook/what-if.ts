import { type Exact, exact, shown, ZERO } from "../numbers/exact";
import { readNumber } from "../numbers/read-number";
import { type Said, said } from "../said";
import type { Category, Item } from "./standing";

/** A category with its exact numbers as text, so that it can be sent. */
export interface WrittenCategory extends Omit<Category, "weight" | "items"> {
  readonly weight: string;
  readonly items: readonly (Omit<Item, "maximum" | "mark"> & {
    readonly maximum: string;
    readonly mark: { readonly earned: string; readonly awaited: string } | null;
  })[];
}

/** A category as it is sent. */
export const writtenCategory = ({ weight, items, ...category }: Category): WrittenCategory => ({
  ...category,
  weight: weight.toFraction(),
  items: items.map(({ maximum, mark, ...item }) => ({
    ...item,
    maximum: maximum.toFraction(),
    mark: mark && { earned: mark.earned.toFraction(), awaited: mark.awaited.toFraction() },
  })),
});

/** The marks that a text says, or why it says none that this piece of work can have. */
function marksIn(text: string, maximum: Exact): { readonly marks: Exact } | { readonly problem: Said } {
  const reading = readNumber(text, { comma: "decimals" });
  if (!reading.ok || reading.unit !== null) return { problem: said("gradebook.what-if.a-number-of-marks") };
  const { value } = reading;
  return value.compare(ZERO) < 0 || value.compare(maximum) > 0
    ? { problem: said("gradebook.what-if.0-to", { maximum: shown(maximum) }) }
    : { marks: value };
}

/**
 * The categories of a course with marks as they were typed in the place of those that are still to come or wait. What cannot
 * be read counts as not typed, and is named with what would be right.
 */
export function withTyped(
  categories: readonly WrittenCategory[],
  typed: Readonly<Record<string, string>>,
): { readonly result: readonly Category[]; readonly problems: ReadonlyMap<string, Said> } {
  const problems = new Map<string, Said>();
  const result = categories.map(
    (category): Category => ({
      ...category,
      weight: exact(category.weight),
      items: category.items.map((item): Item => {
        const maximum = exact(item.maximum);
        const mark = item.mark && { earned: exact(item.mark.earned), awaited: exact(item.mark.awaited) };
        const text = typed[item.id]?.trim() ?? "";
        if (text === "") return { ...item, maximum, mark };
        const read = marksIn(text, maximum);
        if ("problem" in read) {
          problems.set(item.id, read.problem);
          return { ...item, maximum, mark };
        }
        return { ...item, maximum, mark: { earned: read.marks, awaited: ZERO } };
      }),
    }),
  );
  return { result, problems };
}
