import { said } from "../../said";
import { CONTENT_FIELDS, PRESENTED_FIELDS } from "../fields";
import type { AnsweringKind, PresentedCommon } from "../kind";
import { contentInWords, type PresentedOption } from "../picks/content";

export interface PresentedOneOfSeveral extends PresentedCommon {
  readonly kind: "one-of-several";
  readonly options: readonly PresentedOption[];
}

/** The picked option, by its name within the attempt. */
export interface OneOfSeveralAnswer {
  readonly pick: string;
}

export const oneOfSeveralAnswering: AnsweringKind<PresentedOneOfSeveral, OneOfSeveralAnswer> = {
  name: "one-of-several",
  fields: { ...PRESENTED_FIELDS, options: [CONTENT_FIELDS] },
  instruction: () => said("kinds.one-of-several.answer.pick-one"),
  readAnswer(presented, raw) {
    if (raw === null) return { ok: true, answer: null };
    const pick = (raw as { pick?: unknown } | undefined)?.pick;
    if (typeof pick !== "string" || !presented.options.some((option) => option.id === pick)) {
      return { ok: false, problem: said("kinds.one-of-several.answer.the-answer-must-name-one-of") };
    }
    return { ok: true, answer: { pick } };
  },
  fill: (_, answer) =>
    answer
      ? { state: "full", words: said("kinds.common.answered") }
      : { state: "empty", words: said("kinds.common.empty") },
  summary(presented, answer) {
    const picked = presented.options.find((option) => option.id === answer?.pick);
    return picked ? contentInWords(picked) : "";
  },
};
