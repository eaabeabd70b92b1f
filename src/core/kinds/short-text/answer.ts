import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { accept, emptyOrFull, fieldOf, refuse } from "../reading";

/** The longest text that a short answer or a gap takes, in characters. */
export const LONGEST_SHORT_TEXT = 500;

export interface PresentedShortText extends PresentedCommon {
  readonly kind: "short-text";
}

/** The text, letter for letter. */
export interface ShortTextAnswer {
  readonly text: string;
}

export const shortTextAnswering: AnsweringKind<PresentedShortText, ShortTextAnswer> = {
  name: "short-text",
  fields: PRESENTED_FIELDS,
  instruction: () => "Write a few words.",
  readAnswer(_, raw) {
    if (raw === null) return accept<ShortTextAnswer>(null);
    const text = fieldOf(raw, "text");
    if (typeof text !== "string") return refuse("The answer must be a text.");
    if (text.length > LONGEST_SHORT_TEXT)
      return refuse(`The answer takes ${LONGEST_SHORT_TEXT} characters at most.`);
    return accept(text.trim() === "" ? null : { text });
  },
  fill: (_, answer) => emptyOrFull(answer),
  summary: (_, answer) => answer?.text.trim().replace(/\s+/g, " ") ?? "",
};
