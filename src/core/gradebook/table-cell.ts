import type { Exact } from "../numbers/exact";
import type { ItemMark } from "./item-mark";
import type { Item } from "./standing";

/**
 * Where one student is with one piece of work: it has a mark; some of it awaits marking; it is being written; it is open and
 * not begun; it is still to come; it is over and nothing was handed in; it is excused; it is not set for this student.
 */
export type CellState =
  | "marked"
  | "awaits"
  | "writing"
  | "not-begun"
  | "to-come"
  | "missed"
  | "excused"
  | "not-set";

/** What is known of one student and one piece of work. */
export interface CellFacts {
  readonly id: string;
  readonly maximum: Exact;
  /** What its attempts, or an instructor, made of it. */
  readonly mark: ItemMark | null | "excused";
  /** Whether it is this student's at all. */
  readonly isAssigned: boolean;
  readonly isHandedIn: boolean;
  /** Whether an attempt runs. */
  readonly isRunning: boolean;
  readonly window: "before" | "open" | "late" | "closed" | null;
}

/** A piece of work as it goes into the calculation of one student's standing. */
export function itemOfStudent({ id, maximum, mark, ...facts }: Omit<CellFacts, "isRunning">): Item {
  const made = mark === "excused" ? null : mark;
  return {
    id,
    maximum,
    mark: made ? { earned: made.earned, awaited: made.awaited } : null,
    excused: mark === "excused" || !facts.isAssigned,
    over: facts.window === "closed" && !facts.isHandedIn,
  };
}

/** @example cellState({ id: "a", maximum: exact(5), mark: null, isAssigned: true, isHandedIn: false, isRunning: false, window: "open" }) → "not-begun" */
export function cellState({ mark, isAssigned, isRunning, window }: CellFacts): CellState {
  if (mark === "excused") return "excused";
  if (mark) return mark.awaited.n === 0n ? "marked" : "awaits";
  if (!isAssigned) return "not-set";
  if (isRunning) return "writing";
  if (window === "closed") return "missed";
  return window === "open" || window === "late" ? "not-begun" : "to-come";
}
