import { type CriteriaMarks, type Rubric, scoreRubric } from "../kinds/rubric";
import { type Exact, exact, shown, ZERO } from "../numbers/exact";
import type { NoteAnchor } from "../reveal/note-anchor";
import { type Said, said } from "../said";

/** A margin note as it is being written. */
export interface HandNote {
  /** Made where it is written; stays the same when the note is edited. */
  readonly id: string;
  readonly anchor: NoteAnchor | null;
  /** Plain, in lines. */
  readonly text: string;
}

/** What a marker has written to one answer so far: nobody but markers sees it before it is returned. */
export interface HandWork {
  readonly criteria: CriteriaMarks;
  /** Marks without the rubric, as typed; null: the rubric decides, or nothing is decided. */
  readonly marks: string | null;
  /** On the whole answer; plain, in lines. */
  readonly feedback: string;
  readonly notes: readonly HandNote[];
  /** Why a mark that was returned is changed; read by the student. */
  readonly reason: string;
}

export const NO_WORK: HandWork = { criteria: {}, marks: null, feedback: "", notes: [], reason: "" };

/** How far an answer is marked. */
export interface HandState {
  /** What it comes to so far; null: nothing is decided. */
  readonly marks: Exact | null;
  /** Whether nothing is left to decide. */
  readonly isDone: boolean;
  /** How many criteria are left. */
  readonly left: number;
}

export type HandReading =
  | ({ readonly ok: true } & HandState)
  | { readonly ok: false; readonly problem: Said };

function typedMarks(typed: string, maximum: Exact): HandReading {
  try {
    const marks = exact(typed);
    if (marks.compare(ZERO) >= 0 && marks.compare(maximum) <= 0)
      return { ok: true, marks, isDone: true, left: 0 };
  } catch {
    return { ok: false, problem: said("marking.hand-mark.the-marks-must-be-a-number") };
  }
  return {
    ok: false,
    problem: said("marking.hand-mark.the-marks-must-be-from-0", { maximum: shown(maximum) }),
  };
}

/**
 * How far an answer is marked by what was written to it.
 * @example handState(undefined, exact(6), { criteria: {}, marks: "4", feedback: "", notes: [], reason: "" }) → { ok: true, marks: exact("4"), isDone: true, left: 0 }
 */
export function handState(rubric: Rubric | undefined, maximum: Exact, work: HandWork): HandReading {
  if (work.marks !== null) return typedMarks(work.marks, maximum);
  if (!rubric) return { ok: true, marks: null, isDone: false, left: 0 };
  const score = scoreRubric(rubric, work.criteria);
  if (!score.ok) return score;
  const { marks, left } = score;
  const isBegun = left.length < rubric.criteria.length;
  return { ok: true, marks: isBegun ? marks : null, isDone: left.length === 0, left: left.length };
}

/**
 * Whether nothing at all is written.
 * @example isBlank({ criteria: {}, marks: null, feedback: " ", notes: [], reason: "" }) → true
 */
export const isBlank = ({ criteria, marks, feedback, notes }: HandWork): boolean =>
  marks === null && feedback.trim() === "" && notes.length === 0 && Object.keys(criteria).length === 0;
