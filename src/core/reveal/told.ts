import type { MarkedQuestion, MarkState } from "../kinds/kind";
import { shown } from "../numbers/exact";

/** What tell-at-once says of a question once it is closed: whether it was right, its feedback, and the key where the quiz tells it. */
export interface Told {
  readonly state: MarkState;
  /** As people see them. */
  readonly marks: string;
  readonly maximum: string;
  readonly parts: readonly {
    readonly label: string | null;
    readonly state: MarkState;
    readonly why: string;
    /** The right answer, where it was not written and the quiz tells it. */
    readonly right?: string;
    /** Rich text. */
    readonly feedback?: string;
  }[];
}

/** Field by field, so that nothing else of a marked question reaches the desk. */
export const toldOf = (marked: MarkedQuestion, tellsRight = false): Told => ({
  state: marked.state,
  marks: shown(marked.marks),
  maximum: shown(marked.maximum),
  parts: marked.parts.map(({ label, state, why, right, feedback }) => ({
    label,
    state,
    why,
    ...(tellsRight && state !== "full" && right !== "" ? { right } : {}),
    ...(feedback ? { feedback } : {}),
  })),
});
