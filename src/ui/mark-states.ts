import type { MarkState } from "@/core/kinds/kind";
import { type Said, said } from "@/core/said";

/** The states of a mark in a word, beside their moons. */
export const MARK_WORDS: { readonly [S in MarkState]: Said } = {
  full: said("ui.mark-states.right"),
  part: said("ui.mark-states.partly-right"),
  none: said("ui.mark-states.not-right"),
  empty: said("ui.mark-states.empty"),
  awaits: said("ui.mark-states.waits-for-marking"),
  dropped: said("ui.mark-states.dropped"),
};

/** The share of the marks that a figure is, for a moon. */
export const shareOf = (marks: string | undefined, maximum: string): number =>
  marks === undefined || Number(maximum) === 0 ? 0 : Number(marks) / Number(maximum);
