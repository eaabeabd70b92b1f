import type { Said } from "../said";

/** How a question behaved in the sittings of its quiz so far. */
export interface PastQuestion {
  readonly id: string;
  /** How many attempts had it. */
  readonly attempts: number;
  /** The mean share of its marks, 0 to 1; null: it is not known. */
  readonly facility: number | null;
  /** Correlation with the rest, -1 to 1; null: it is not known. */
  readonly discrimination: number | null;
  /** What stands out, the gravest first. */
  readonly remarkable: readonly Said[];
  /** The median time from first sight to last change, in milliseconds; null: it is not known. */
  readonly time: number | null;
}

/** How the questions of a quiz behaved, for who writes on in it. */
export interface PastSittings {
  readonly questions: readonly PastQuestion[];
}
