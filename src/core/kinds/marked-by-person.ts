import * as yup from "yup";
import { exact, ZERO } from "../numbers/exact";
import { type Said, said } from "../said";
import type { MarkedQuestion, QuestionCommon } from "./kind";
import { type Rubric, rubricMaximum } from "./rubric";
import { rubricShape } from "./rubric-shape";
import { richText } from "./shapes";
import { wholeWithCredit } from "./whole-mark";

/** What questions have that a person marks. */
export interface MarkedByHand extends QuestionCommon {
  /** Absent: marks alone. */
  readonly rubric?: Rubric | undefined;
  /** What a good answer holds, for the marker and, when revealed, for the student; rich text. */
  readonly model?: string | undefined;
}

export const BY_HAND_FIELDS = {
  model: "rich",
  rubric: { criteria: [{ title: "plain", levels: [{ title: "plain", text: "rich" }] }] },
} as const;

export const byHandFields = { rubric: rubricShape.default(undefined).optional(), model: richText() };

/**
 * The rubric's points make the question's marks.
 * @example rubricFits({ marks: 2, rubric: { criteria: [{ id: "a", title: "A", levels: [{ id: "all", title: "All", points: 2 }] }] } }) → true
 */
export const rubricFits = (question: { rubric?: unknown; marks?: unknown }): boolean => {
  if (question.rubric === undefined || question.marks === undefined) return true;
  try {
    return rubricMaximum(question.rubric as Rubric).equals(exact(question.marks as string));
  } catch {
    return true;
  }
};

export const RUBRIC_MISFIT = said("quiz-file.kinds.by-hand.the-best-levels-of-the-rubric");

/** Something was handed in that awaits a person; an empty answer is 0, told apart. */
export function awaitsPerson(question: MarkedByHand, written: Said, isEmpty: boolean): MarkedQuestion {
  const line = {
    written,
    right: "",
    why: isEmpty ? said("kinds.common.empty-no-marks") : said("kinds.common.waits-for-your-instructor"),
  };
  return wholeWithCredit(exact(question.marks), ZERO, line, isEmpty ? "empty" : "awaits");
}

/** A whole number of words, least to most. */
export const wordRangeShape = () =>
  yup
    .object({
      least: yup.number().strict().integer().min(0).max(100_000),
      most: yup.number().strict().integer().min(1).max(100_000),
    })
    .strict()
    .noUnknown()
    .default(undefined)
    .optional()
    .test(
      "range",
      said("quiz-file.kinds.by-hand.least-must-not-be-more-than"),
      (range) => !range || (range.least ?? 0) <= (range.most ?? Number.POSITIVE_INFINITY),
    );
