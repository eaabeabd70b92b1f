import type { AnswerView, PileLine } from "@/core/desk/room-view";
import { type HandWork, handState } from "@/core/marking/hand-work";
import { exact, shown } from "@/core/numbers/exact";
import type { Said } from "@/core/said";

/** What is written to an answer, worked out: what it comes to, what is left, or what is wrong with it. */
export type MarkingNow =
  | {
      readonly ok: true;
      /** What it comes to so far, as people see it; null: nothing is decided. */
      readonly figure: string | null;
      /** The share of the marks, 0 to 1. */
      readonly share: number;
      readonly isDone: boolean;
      readonly left: number;
    }
  | { readonly ok: false; readonly problem: Said };

/** What an answer comes to by what is written to it. */
export function markingOf(
  { rubric, maximum }: Pick<AnswerView, "rubric" | "maximum">,
  work: HandWork,
): MarkingNow {
  const most = exact(maximum);
  const state = handState(rubric ?? undefined, most, work);
  if (!state.ok) return state;
  const { marks, isDone, left } = state;
  return {
    ok: true,
    figure: marks === null ? null : shown(marks),
    share: marks === null || most.n === 0n ? 0 : Number(marks.div(most).valueOf()),
    isDone,
    left,
  };
}

/** How far an answer is by what is written to it. */
export function answerState(answer: AnswerView, work: HandWork): Pick<PileLine, "state" | "marks"> {
  const now = markingOf(answer, work);
  if (!now.ok) return { state: "begun", marks: null };
  if (now.isDone) return { state: "marked", marks: now.figure };
  const isBegun =
    now.figure !== null ||
    work.feedback.trim() !== "" ||
    work.notes.length > 0 ||
    Object.keys(work.criteria).length > 0;
  return { state: isBegun ? "begun" : "awaits", marks: now.figure };
}
