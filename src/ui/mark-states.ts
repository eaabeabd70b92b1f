import type { MarkState } from "@/core/kinds/kind";

/** The states of a mark in a word, beside their moons. */
export const MARK_WORDS: { readonly [S in MarkState]: string } = {
  full: "right",
  part: "partly right",
  none: "not right",
  empty: "empty",
  awaits: "waits for marking",
};

/** The share of the marks that a figure is, for a moon. */
export const shareOf = (marks: string | undefined, maximum: string): number =>
  marks === undefined || Number(maximum) === 0 ? 0 : Number(marks) / Number(maximum);
