import { said } from "../../said";
import { accept, emptyOrFull, fieldOf, refuse } from "../answer-reading";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";

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
  instruction: () => said("kinds.short-text.answer.write-a-few-words"),
  readAnswer(_, raw) {
    if (raw === null) return accept<ShortTextAnswer>(null);
    const text = fieldOf(raw, "text");
    if (typeof text !== "string") return refuse(said("kinds.common.the-answer-must-be-a-text"));
    if (text.length > LONGEST_SHORT_TEXT)
      return refuse(
        said("kinds.short-text.answer.the-answer-takes-characters-at-most", {
          most: LONGEST_SHORT_TEXT,
        }),
      );
    return accept(text.trim() === "" ? null : { text });
  },
  fill: (_, answer) => emptyOrFull(answer),
  summary: (_, answer) => answer?.text.trim().replace(/\s+/g, " ") ?? "",
};
