import { type Exact, exact, shown } from "../numbers/exact";
import { type Said, said, saysSame } from "../said";

/** How a share of the maximum is shown. Rounding is only for showing: thresholds are compared unrounded. */
export type Scale =
  | { readonly kind: "per-cent" }
  | { readonly kind: "marks"; readonly maximum: number | string }
  /** From the best down; the first whose least share (per cent) is reached names the share. */
  | {
      readonly kind: "letters";
      readonly thresholds: readonly { readonly name: string; readonly from: number | string }[];
    }
  | { readonly kind: "reached"; readonly from: number | string };

/**
 * A share (0 to 1) on a scale: "82.77 %", "16.5", "B", "reached".
 * @example onScale(exact("0.72"), { kind: "reached", from: 70 }) → "reached"
 */
export function onScale(share: Exact, scale: Scale): Said {
  const percent = share.mul(100);
  switch (scale.kind) {
    case "per-cent":
      return `${shown(percent)} %`;
    case "marks":
      return shown(share.mul(exact(scale.maximum)));
    case "reached":
      return percent.compare(exact(scale.from)) >= 0
        ? said("gradebook.scales.reached")
        : said("gradebook.scales.not-reached");
    case "letters":
      return (
        scale.thresholds.find((each) => percent.compare(exact(each.from)) >= 0)?.name ??
        said("gradebook.scales.below-the-scale")
      );
  }
}

/**
 * A range on a scale: one word when both ends say the same, else both.
 * @example rangeOnScale(exact("0.6"), exact("0.8"), { kind: "reached", from: 70 }) → "not reached to reached"
 */
export function rangeOnScale(low: Exact, high: Exact, scale: Scale): Said {
  const [from, to] = [onScale(low, scale), onScale(high, scale)];
  return saysSame(from, to) ? from : said("gradebook.scales.from-to", { from, to });
}
