import type { MarkedQuestion } from "../kinds/kind";
import { type Exact, exact, shown, written, ZERO } from "../numbers/exact";
import { type Said, said } from "../said";

/** Marks that a person gave to a question. */
export interface HandMark {
  readonly marks: number | string;
  /** Read by the student; "": the rubric, the notes and the feedback say it. */
  readonly reason: Said;
}

export type HandMarking =
  | { readonly ok: true; readonly marked: MarkedQuestion }
  | { readonly ok: false; readonly problem: Said };

/**
 * A question with a person's marks in place of what the rule gave or awaited. The parts keep what the rule said of them;
 * what the person decided stands for the whole. Marks below 0 or above the maximum are refused.
 */
export function markByHand(marked: MarkedQuestion, hand: HandMark): HandMarking {
  let marks: Exact;
  try {
    marks = exact(hand.marks);
  } catch {
    return { ok: false, problem: said("marking.hand-mark.the-marks-must-be-a-number") };
  }
  const maximum = exact(marked.maximum);
  if (marks.compare(ZERO) < 0 || marks.compare(maximum) > 0) {
    return {
      ok: false,
      problem: said("marking.hand-mark.the-marks-must-be-from-0", { maximum: shown(maximum) }),
    };
  }
  const single = marked.parts.length === 1;
  const why =
    hand.reason === ""
      ? said("marking.hand-mark.by-hand-alone")
      : said("marking.hand-mark.by-hand", { reason: hand.reason });
  const state = marks.equals(maximum) ? "full" : marks.equals(ZERO) ? "none" : "part";
  return {
    ok: true,
    marked: {
      ...marked,
      marks: written(marks),
      awaiting: "0",
      state,
      parts: marked.parts.map((part) => {
        if (single)
          return {
            ...part,
            marks: written(marks),
            state,
            why,
          };
        return part.state === "awaits"
          ? { ...part, state: "none", why: said("marking.hand-mark.decided-with-the-whole-question") }
          : part;
      }),
    },
  };
}
