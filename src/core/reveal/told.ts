import type { MarkedQuestion, MarkState } from "../kinds/kind";
import { shown } from "../numbers/exact";

/** What tell-at-once says of a question once it is closed: whether it was right, and its feedback; never the key. */
export interface Told {
  readonly state: MarkState;
  /** As people see them. */
  readonly marks: string;
  readonly maximum: string;
  readonly parts: readonly {
    readonly label: string | null;
    readonly state: MarkState;
    readonly why: string;
    /** Rich text. */
    readonly feedback?: string;
  }[];
}

/** Field by field, so that nothing else of a marked question reaches the desk. */
export const toldOf = (marked: MarkedQuestion): Told => ({
  state: marked.state,
  marks: shown(marked.marks),
  maximum: shown(marked.maximum),
  parts: marked.parts.map(({ label, state, why, feedback }) => ({
    label,
    state,
    why,
    ...(feedback ? { feedback } : {}),
  })),
});
