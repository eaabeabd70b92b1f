import { exact, ONE, shown, ZERO } from "../../numbers/exact";
import { said } from "../../said";
import { folded, type TextRules, textRuleWords } from "../../text/matching";
import {
  ACCEPTED_FIELDS,
  type AcceptedText,
  acceptedShape,
  bestText,
  creditOfText,
  textRuleFields,
} from "../accepted-texts";
import { QUESTION_FIELDS } from "../fields";
import type { MarkingKind, QuestionCommon } from "../kind";
import { commonFields, exactObject, shapeOf } from "../shapes";
import { wholeWithCredit } from "../whole-mark";
import type { PresentedShortText, ShortTextAnswer } from "./answer";

export interface ShortText extends QuestionCommon, TextRules {
  readonly kind: "short-text";
  /** The first that matches gives its credit; `*` stands for any run of characters. */
  readonly accepted: readonly AcceptedText[];
}

export const shortTextMarking: MarkingKind<ShortText, PresentedShortText, ShortTextAnswer> = {
  name: "short-text",
  fields: { ...QUESTION_FIELDS, accepted: [ACCEPTED_FIELDS] },
  shape: shapeOf<ShortText>(
    exactObject({
      ...commonFields("short-text"),
      ...textRuleFields,
      accepted: acceptedShape().required(
        said("quiz-file.kinds.short-text.mark.is-missing-the-answers-that-are"),
      ),
    }),
  ),
  present: (question) => ({ kind: "short-text", text: question.text, marks: shown(question.marks) }),
  scoring: textRuleWords,
  mark(question, _, answer) {
    const { credit, feedback, difference, forgiven } = answer
      ? creditOfText(answer.text, question.accepted, question)
      : { credit: ZERO };
    const why = !answer
      ? said("kinds.common.empty-no-marks")
      : credit.equals(ONE)
        ? forgiven
          ? said("kinds.common.right-with-a-slip-in-the")
          : said("kinds.common.right")
        : credit.equals(ZERO)
          ? said("kinds.short-text.mark.not-among-the-accepted-answers")
          : said("kinds.short-text.mark.accepted-for-of-the-marks", { percent: shown(credit.mul(100)) });
    const line = {
      written: answer?.text.trim() ?? "",
      right: bestText(question.accepted),
      why,
      identity: folded(answer?.text ?? "", question),
      ...(feedback ? { feedback } : {}),
      ...(difference ? { difference } : {}),
    };
    return wholeWithCredit(exact(question.marks), credit, line, answer ? undefined : "empty");
  },
  rightAnswer: (question) => ({ text: bestText(question.accepted) }),
  keyedBy(question, { written }) {
    // A star stands for anything, and is none of what was written.
    if (written.trim() === "" || written.includes("*")) return null;
    const others = question.accepted.filter(
      ({ credit }) => credit !== undefined && !exact(credit).equals(ONE),
    );
    return { ...question, accepted: [{ text: written.trim() }, ...others] };
  },
};
