import { type Said, said } from "../said";
import { plainText } from "./plain-text";

/**
 * How many words a text has, rich or plain: runs of letters and digits, with hyphens and apostrophes inside.
 * @example countWords("<p>It doesn't rain</p>") → 3
 */
export const countWords = (text: string): number =>
  plainText(text).match(/[\p{L}\p{N}]+(?:[-'’.,·/][\p{L}\p{N}]+)*/gu)?.length ?? 0;

export interface WordRange {
  readonly least?: number | undefined;
  readonly most?: number | undefined;
}

/**
 * "200 to 300 words", "at most 300 words"; "" without a range.
 * @example rangeInWords({ least: 200, most: 300 }) → "200 to 300 words"
 */
export function rangeInWords({ least, most }: WordRange): Said {
  if (least !== undefined && most !== undefined) return said("text.word-count.to-words", { least, most });
  if (most !== undefined) return said("text.word-count.at-most-words", { most });
  return least !== undefined ? said("text.word-count.at-least-words", { least }) : "";
}
