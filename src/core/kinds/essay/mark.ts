import { shown } from "../../numbers/exact";
import { said } from "../../said";
import { plainText } from "../../text/plain-text";
import type { WordRange } from "../../text/word-count";
import { QUESTION_FIELDS } from "../fields";
import type { MarkingKind } from "../kind";
import {
  awaitsPerson,
  BY_HAND_FIELDS,
  byHandFields,
  type MarkedByHand,
  RUBRIC_MISFIT,
  rubricFits,
  wordRangeShape,
} from "../marked-by-person";
import { commonFields, exactObject, shapeOf } from "../shapes";
import type { EssayAnswer, PresentedEssay } from "./answer";

export interface Essay extends MarkedByHand {
  readonly kind: "essay";
  /** Shown with a live count; never enforced. */
  readonly words?: WordRange | undefined;
}

export const essayMarking: MarkingKind<Essay, PresentedEssay, EssayAnswer> = {
  name: "essay",
  byHand: true,
  fields: { ...QUESTION_FIELDS, ...BY_HAND_FIELDS },
  shape: shapeOf<Essay>(
    exactObject({ ...commonFields("essay"), ...byHandFields, words: wordRangeShape() }).test(
      "rubric",
      RUBRIC_MISFIT,
      rubricFits,
    ),
  ),
  scoring: ({ rubric }) =>
    rubric
      ? said("kinds.common.marked-by-your-instructor-with-a")
      : said("kinds.common.marked-by-your-instructor"),
  present: (question) => ({
    kind: "essay",
    text: question.text,
    marks: shown(question.marks),
    words: question.words ?? {},
  }),
  mark: (question, _, answer) =>
    awaitsPerson(question, answer ? plainText(answer.rich) : "", answer === null),
  rightAnswer: () => null,
};
