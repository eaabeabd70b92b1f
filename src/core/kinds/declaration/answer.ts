import { said } from "../../said";
import { accept, emptyOrFull, fieldOf, refuse } from "../answer-reading";
import { CONTENT_FIELDS, PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { contentInWords, type PresentedOption } from "../picks/content";

export interface PresentedDeclaration extends PresentedCommon {
  readonly kind: "declaration";
  readonly options: readonly PresentedOption[];
}

/** The chosen statement. Declarations keep the author's own ids: there is nothing to give away. */
export interface DeclarationAnswer {
  readonly choice: string;
}

export const declarationAnswering: AnsweringKind<PresentedDeclaration, DeclarationAnswer> = {
  name: "declaration",
  fields: { ...PRESENTED_FIELDS, options: [CONTENT_FIELDS] },
  instruction: ({ options }) =>
    options.length === 1
      ? said("kinds.declaration.answer.confirm-this")
      : said("kinds.declaration.answer.choose-what-holds-for-you-there"),
  readAnswer(presented, raw) {
    if (raw === null) return accept<DeclarationAnswer>(null);
    const choice = fieldOf(raw, "choice");
    return typeof choice === "string" && presented.options.some((option) => option.id === choice)
      ? accept({ choice })
      : refuse(said("kinds.declaration.answer.the-answer-must-name-one-of"));
  },
  fill: (_, answer) => emptyOrFull(answer, said("kinds.declared")),
  summary(presented, answer) {
    const chosen = presented.options.find((option) => option.id === answer?.choice);
    return chosen ? contentInWords(chosen) : "";
  },
};
