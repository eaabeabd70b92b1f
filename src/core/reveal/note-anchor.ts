import type { ShownAnswer } from "./shown-answer";

/** What a margin note is pinned to; null: the whole answer. */
export type NoteAnchor =
  | {
      readonly kind: "words";
      /** Offsets in the answer's text, in characters; the words themselves are the check. */
      readonly from: number;
      readonly to: number;
      readonly words: string;
    }
  | {
      readonly kind: "spot";
      /** The place of the file in the answer, from 0; of a picture the page is 1. */
      readonly file: number;
      readonly page: number;
      /** As shares of the page, 0 to 1; without width and height it is a spot. */
      readonly x: number;
      readonly y: number;
      readonly width: number;
      readonly height: number;
    };

/**
 * Whether a note stands beside what was written, and not with the question as a whole.
 * @example isBesideAnswer(null, undefined) → false
 */
export const isBesideAnswer = (anchor: NoteAnchor | null, answer: ShownAnswer | undefined): boolean =>
  (anchor?.kind === "words" && answer?.kind === "rich") ||
  (anchor?.kind === "spot" && answer?.kind === "files");
