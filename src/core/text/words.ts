import { plainText } from "../kinds/text";

/** How many words a text has, rich or plain: runs of letters and digits, with hyphens and apostrophes inside. */
export const countWords = (text: string): number =>
  plainText(text).match(/[\p{L}\p{N}]+(?:[-'’.,·/][\p{L}\p{N}]+)*/gu)?.length ?? 0;

export interface WordRange {
  readonly least?: number | undefined;
  readonly most?: number | undefined;
}

/** "200 to 300 words", "at most 300 words"; "" without a range. */
export function rangeInWords({ least, most }: WordRange): string {
  if (least !== undefined && most !== undefined) return `${least} to ${most} words`;
  if (most !== undefined) return `at most ${most} words`;
  return least !== undefined ? `at least ${least} words` : "";
}

/** A text with a capital at its beginning. */
export const capitalized = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}`;
