import type { CellState } from "./table-cell";

/** What else is to be seen in a cell: handed in late, set by an instructor, dropped, being written again, stood in for. */
export type CellMark = "late" | "set" | "dropped" | "again" | "stands-in" | "taking-part";

/** A cell of the course's gradebook, as short as it can be: its state, what is earned, what awaits, what is particular. */
export type TableCell = readonly [
  state: CellState,
  earned?: string | null,
  awaited?: string | null,
  marks?: readonly CellMark[],
];

export interface TableItem {
  readonly id: string;
  readonly title: string;
  /** As a figure. */
  readonly maximum: string;
  readonly quizId: string | null;
  /** The mean of what is marked, as a figure; null: nothing is. */
  readonly mean: string | null;
  readonly awaiting: number;
  readonly writing: number;
  /** Marks of it that were set by hand after this number are not here. */
  readonly seen: number;
}

export interface TableCategory {
  readonly id: string;
  readonly title: string;
  /** Of the course, as a figure in per cent: "40". */
  readonly share: string;
  readonly dropLowest: number;
  readonly items: readonly TableItem[];
}

export interface TableStudent {
  readonly id: string;
  readonly name: string;
  /** Positions in the list of sections. */
  readonly sections: readonly number[];
  /** In the order of the items. */
  readonly cells: readonly TableCell[];
  /** Marked so far, and between what it ends with all that is handed in, in per cent; null: nothing yet. */
  readonly standing: {
    readonly soFar: string | null;
    readonly low: string | null;
    readonly high: string | null;
  };
  /** The standing on the course's own scale, where it has one. */
  readonly scaled: string | null;
}

/** A course's gradebook as those who teach it see it. */
export interface TableData {
  readonly slug: string;
  readonly categories: readonly TableCategory[];
  readonly sections: readonly string[];
  readonly students: readonly TableStudent[];
}
