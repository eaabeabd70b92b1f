import type { Said } from "../said";

/** A piece of a sentence; what matters most is strong. */
export type Phrase = Said | { readonly strong: Said };

/**
 * Whether a piece is a strong one.
 * @example isStrong({ strong: "20 minutes" }) → true
 */
export const isStrong = (phrase: Phrase): phrase is { readonly strong: Said } =>
  typeof phrase !== "string" && "strong" in phrase;

/** One rule of a quiz, as the brief says it. */
export interface RuleSentence {
  readonly name: Said;
  readonly text: readonly Phrase[];
}
