import * as yup from "yup";
import { exact, ONE, shown, ZERO } from "../../numbers/exact";
import { said } from "../../said";
import { QUESTION_FIELDS } from "../fields";
import type { MarkingKind, QuestionCommon } from "../kind";
import { commonFields, exactObject, richText, shapeOf } from "../shapes";
import { wholeWithCredit } from "../whole-mark";
import type { PresentedTrueOrFalse, TrueOrFalseAnswer } from "./answer";

/** A statement, in the question's text, that is true or false. */
export interface TrueOrFalse extends QuestionCommon {
  readonly kind: "true-or-false";
  readonly right: boolean;
  /** Said to who answered wrongly; rich text. */
  readonly feedback?: string | undefined;
}

export const trueOrFalseMarking: MarkingKind<TrueOrFalse, PresentedTrueOrFalse, TrueOrFalseAnswer> = {
  name: "true-or-false",
  fields: { ...QUESTION_FIELDS, feedback: "rich" },
  shape: shapeOf<TrueOrFalse>(
    exactObject({
      ...commonFields("true-or-false"),
      right: yup
        .boolean()
        .strict()
        .required(said("quiz-file.kinds.true-or-false.mark.is-missing-whether-the-statement-is")),
      feedback: richText(),
    }),
  ),
  present: (question) => ({ kind: "true-or-false", text: question.text, marks: shown(question.marks) }),
  mark(question, _, answer) {
    const isRight = answer?.value === question.right;
    const line = {
      written: answer === null ? "" : String(answer.value),
      right: String(question.right),
      why:
        answer === null
          ? said("kinds.common.empty-no-marks")
          : isRight
            ? said("kinds.common.right")
            : said("kinds.common.not-right"),
      ...(answer !== null && !isRight && question.feedback ? { feedback: question.feedback } : {}),
    };
    return wholeWithCredit(
      exact(question.marks),
      isRight ? ONE : ZERO,
      line,
      answer === null ? "empty" : undefined,
    );
  },
  rightAnswer: (question) => ({ value: question.right }),
  keyedBy: (question, { identity }) =>
    identity === "true" || identity === "false" ? { ...question, right: identity === "true" } : null,
};
