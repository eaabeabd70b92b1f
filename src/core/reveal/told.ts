import type { MarkedQuestion, MarkState } from "../kinds/kind";
import { shown } from "../numbers/exact";
import type { Said } from "../said";

/** What tell-at-once says of a question once it is closed: whether it was right, its feedback, and the key where the quiz tells it. */
export interface Told {
  readonly state: MarkState;
  /** As people see them. */
  readonly marks: string;
  readonly maximum: string;
  readonly parts: readonly {
    readonly label: Said | null;
    readonly state: MarkState;
    readonly why: Said;
    /** The right answer, where it was not written and the quiz tells it. */
    readonly right?: Said;
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
