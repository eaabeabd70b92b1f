import type { HandedInBy } from "../attempt/answered-words";
import type { Counts } from "../quiz/rules";
import type { Instant } from "../time/instants";

/** One attempt, as it stands in a cell's story. */
export interface CellAttempt {
  readonly id: string;
  readonly number: number;
  readonly startedAt: Instant;
  /** Null: it runs. */
  readonly handedInAt: Instant | null;
  readonly handedInBy: HandedInBy | null;
  readonly returnedAt: Instant | null;
  /** "17", "12 + ?"; null: it runs. */
  readonly figure: string | null;
  readonly maximum: string;
  /** What lateness costs, in words; null: it is not late. */
  readonly late: string | null;
  /** Whether this attempt alone makes the mark. */
  readonly counts: boolean;
}

/** A mark that was set by hand, or taken back. */
export interface CellSet {
  readonly what: "marks" | "excused" | "as-the-work";
  readonly marks: string | null;
  readonly reason: string;
  readonly by: string;
  readonly at: Instant;
}

/** Everything about one student's mark for one piece of work. */
export interface CellStory {
  readonly studentId: string;
  readonly itemId: string;
  readonly attempts: readonly CellAttempt[];
  /** Which attempts count; null: it is marked outside Shizuka. */
  readonly counts: Counts | null;
  /** The newest first. */
  readonly set: readonly CellSet[];
  /** What the work itself gave, where something else stands in its place; null: nothing else does. */
  readonly computed: string | null;
  /** The mark in the student's own gradebook now; null: none is shown there yet. */
  readonly seenByStudent: string | null;
  /** Marks of this piece of work that were set by hand after this number are not in it. */
  readonly seen: number;
}
