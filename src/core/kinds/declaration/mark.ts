import * as yup from "yup";
import { shown, ZERO } from "../../numbers/exact";
import { said } from "../../said";
import { CONTENT_FIELDS, QUESTION_FIELDS } from "../fields";
import type { MarkingKind, QuestionCommon } from "../kind";
import { contentInWords, type OptionContent, presentContent } from "../picks/content";
import { contentFields, shownShape } from "../picks/options";
import { commonFields, exactObject, identifier, shapeOf, uniqueBy } from "../shapes";
import { wholeWithCredit } from "../whole-mark";
import type { DeclarationAnswer, PresentedDeclaration } from "./answer";

/** A statement to confirm, or a choice, without right or wrong: worth no marks. */
export interface Declaration extends QuestionCommon {
  readonly kind: "declaration";
  readonly options: readonly Statement[];
}

interface Statement extends OptionContent {
  readonly id: string;
  /**
   * Where the gradebook lets this quiz stand in for other work: true, whoever chooses this has it stand in; false, has it
   * not.
   */
  readonly standsIn?: boolean | undefined;
}

export const declarationMarking: MarkingKind<Declaration, PresentedDeclaration, DeclarationAnswer> = {
  name: "declaration",
  fields: { ...QUESTION_FIELDS, options: [CONTENT_FIELDS] },
  shape: shapeOf<Declaration>(
    exactObject({
      ...commonFields("declaration"),
      options: yup
        .array()
        .of(shownShape({ id: identifier(), ...contentFields, standsIn: yup.boolean().strict() }))
        .min(1, said("quiz-file.kinds.declaration.mark.must-have-at-least-one-statement"))
        .max(26)
        .required()
        .test(
          "ids",
          said("quiz-file.kinds.declaration.mark.must-have-statements-with-different-ids"),
          uniqueBy("id"),
        ),
    }).test(
      "no-marks",
      said("quiz-file.kinds.declaration.mark.marks-must-be-0-a-declaration"),
      ({ marks }) => Number(marks) === 0,
    ),
  ),
  present: (question, seed) => ({
    kind: "declaration",
    text: question.text,
    marks: shown(question.marks),
    options: question.options.map((option) => ({ id: option.id, ...presentContent(option, seed) })),
  }),
  mark(question, _, answer) {
    const chosen = question.options.find((option) => option.id === answer?.choice);
    const line = {
      written: chosen ? contentInWords(chosen) : "",
      right: "",
      why: chosen
        ? said("kinds.declaration.mark.declared-nothing-to-mark")
        : said("kinds.declaration.mark.not-declared-nothing-to-mark"),
    };
    return wholeWithCredit(ZERO, ZERO, line, chosen ? "full" : "empty");
  },
  standsIn: (question, answer) =>
    question.options.find((option) => option.id === answer?.choice)?.standsIn ?? null,
  rightAnswer: (question) => (question.options[0] ? { choice: question.options[0].id } : null),
};
