import { said } from "../../said";
import { accept, emptyOrFull, fieldOf, refuse } from "../answer-reading";
import { PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";

export interface PresentedTrueOrFalse extends PresentedCommon {
  readonly kind: "true-or-false";
}

export interface TrueOrFalseAnswer {
  readonly value: boolean;
}

export const trueOrFalseAnswering: AnsweringKind<PresentedTrueOrFalse, TrueOrFalseAnswer> = {
  name: "true-or-false",
  fields: PRESENTED_FIELDS,
  instruction: () => said("kinds.true-or-false.answer.true-or-false"),
  readAnswer(_, raw) {
    if (raw === null) return accept<TrueOrFalseAnswer>(null);
    const value = fieldOf(raw, "value");
    return typeof value === "boolean"
      ? accept({ value })
      : refuse(said("kinds.true-or-false.answer.the-answer-must-be-true-or"));
  },
  fill: (_, answer) => emptyOrFull(answer),
  summary: (_, answer) => (answer === null ? "" : String(answer.value)),
};
