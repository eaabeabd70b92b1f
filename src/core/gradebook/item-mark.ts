import { type Exact, exact, ZERO } from "../numbers/exact";
import { type Said, said } from "../said";
import type { CountedMark } from "./counts";

/** What an instructor set by hand on an item for one student, always with a reason. */
export interface Adjustment {
  /** Null: excused, the item leaves the calculation. */
  readonly marks: number | string | null;
  readonly reason: Said;
}

/**
 * What the newest setting by hand comes to; undefined: nothing was set, or it was taken back.
 * @example adjustmentIn({ marks: "4", excused: false, withdrawn: true, reason: "no" }) → undefined
 */
export const adjustmentIn = (
  set:
    | {
        readonly marks: string | null;
        readonly excused: boolean;
        readonly withdrawn: boolean;
        readonly reason: string;
      }
    | undefined,
): Adjustment | undefined =>
  set === undefined || set.withdrawn
    ? undefined
    : { marks: set.excused ? null : set.marks, reason: set.reason };

/** How an item's mark comes about. Both the computed and the adjusted mark stay visible. */
export interface ItemMark {
  readonly earned: Exact;
  readonly awaited: Exact;
  readonly source: "counted" | "adjusted" | "taking-part" | "stands-in";
  /** What the attempts themselves made; null without one. */
  readonly computed: CountedMark | null;
  readonly reason: Said | null;
}

export interface ItemTerms {
  readonly maximum: Exact;
  readonly counted: CountedMark | null;
  readonly adjustment?: Adjustment | undefined;
  /** Whether handing in gives full marks, whatever the score. */
  readonly fullForTakingPart?: boolean | undefined;
  /** Another item that stands in for this one, by the student's choice. */
  readonly standsIn?:
    | { readonly title: string; readonly mark: ItemMark | null; readonly maximum: Exact }
    | undefined;
}

/**
 * The mark of an item for one student; null: nothing handed in; "excused": leaves the calculation.
 * @example itemMark({ maximum: exact(20), counted: null, fullForTakingPart: false }) → null
 */
export function itemMark(terms: ItemTerms): ItemMark | null | "excused" {
  const { maximum, counted, adjustment, standsIn } = terms;
  if (adjustment?.marks === null) return "excused";
  if (adjustment) {
    return {
      earned: exact(adjustment.marks),
      awaited: ZERO,
      source: "adjusted",
      computed: counted,
      reason: adjustment.reason,
    };
  }
  if (standsIn?.mark && standsIn.maximum.n !== 0n) {
    const scale = maximum.div(standsIn.maximum);
    return {
      earned: standsIn.mark.earned.mul(scale),
      awaited: standsIn.mark.awaited.mul(scale),
      source: "stands-in",
      computed: counted,
      reason: said("gradebook.item-mark.stands-in-as-you-chose", { title: standsIn.title }),
    };
  }
  if (!counted) return null;
  if (terms.fullForTakingPart) {
    return {
      earned: maximum,
      awaited: ZERO,
      source: "taking-part",
      computed: counted,
      reason: said("gradebook.item-mark.full-marks-for-taking-part"),
    };
  }
  return {
    earned: counted.low,
    awaited: counted.high.sub(counted.low),
    source: "counted",
    computed: counted,
    reason: null,
  };
}
