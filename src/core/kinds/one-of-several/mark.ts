import * as yup from "yup";
import { exact, ONE, shown, ZERO } from "../../numbers/exact";
import type { AttemptSeed } from "../../numbers/seeded";
import { said } from "../../said";
import { OPTION_FIELDS, QUESTION_FIELDS } from "../fields";
import type { MarkedQuestion, MarkingKind, QuestionCommon } from "../kind";
import { contentInWords } from "../picks/content";
import { type Option, optionFields, optionWarnings, presentOptions, shownShape } from "../picks/options";
import { commonFields, exactNumber, exactObject, shapeOf, uniqueBy } from "../shapes";
import { wholeWithCredit } from "../whole-mark";
import type { OneOfSeveralAnswer, PresentedOneOfSeveral } from "./answer";

interface CreditedOption extends Option {
  /** A share of the marks for an option that is not the right one, 0 to 1. */
  readonly credit?: number | string | undefined;
}

export interface OneOfSeveral extends QuestionCommon {
  readonly kind: "one-of-several";
  readonly options: readonly CreditedOption[];
  readonly keepOrder?: boolean | undefined;
}

const shape = shapeOf<OneOfSeveral>(
  exactObject({
    ...commonFields("one-of-several"),
    keepOrder: yup.boolean().strict(),
    options: yup
      .array()
      .of(shownShape({ ...optionFields, credit: exactNumber(0, 1) }))
      .min(2, said("quiz-file.kinds.gaps.mark.must-have-at-least-two-options"))
      .max(26, said("quiz-file.kinds.one-of-several.mark.must-have-at-most-26-options"))
      .required()
      .test("ids", said("quiz-file.kinds.gaps.mark.must-have-options-with-different-ids"), uniqueBy("id"))
      .test(
        "one-right",
        said("quiz-file.kinds.gaps.mark.must-have-exactly-one-option-with"),
        (options) => (options ?? []).filter((option) => option?.right).length === 1,
      ),
  }),
);

const creditOf = (option: CreditedOption) => (option.right ? ONE : exact(option.credit ?? 0));

function mark(question: OneOfSeveral, seed: AttemptSeed, answer: OneOfSeveralAnswer | null): MarkedQuestion {
  const picked = question.options.find((option) => seed.name(question.id, option.id) === answer?.pick);
  const right = question.options.find((option) => option.right);
  const credit = picked ? creditOf(picked) : ZERO;
  const why = !picked
    ? said("kinds.common.empty-no-marks")
    : credit.equals(ONE)
      ? said("kinds.common.right")
      : credit.equals(ZERO)
        ? said("kinds.one-of-several.mark.not-the-right-option")
        : said("kinds.one-of-several.mark.not-the-best-option-worth-of", { percent: shown(credit.mul(100)) });
  const line = {
    written: picked ? contentInWords(picked) : "",
    right: right ? contentInWords(right) : "",
    why,
    ...(picked ? { identity: picked.id } : {}),
    ...(picked?.feedback ? { feedback: picked.feedback } : {}),
  };
  return wholeWithCredit(exact(question.marks), credit, line, picked ? undefined : "empty");
}

export const oneOfSeveralMarking: MarkingKind<OneOfSeveral, PresentedOneOfSeveral, OneOfSeveralAnswer> = {
  name: "one-of-several",
  fields: { ...QUESTION_FIELDS, options: [OPTION_FIELDS] },
  shape,
  scoring: ({ options }) =>
    options.some((option) => !option.right && exact(option.credit ?? 0).compare(ZERO) > 0)
      ? said("kinds.one-of-several.mark.the-best-option-has-all-marks")
      : "",
  present: (question, seed) => ({
    kind: "one-of-several",
    text: question.text,
    marks: shown(question.marks),
    options: presentOptions(question, seed),
  }),
  warnings: ({ options }) => optionWarnings(options),
  keyedBy(question, { identity }) {
    if (!question.options.some(({ id }) => id === identity)) return null;
    return {
      ...question,
      options: question.options.map(({ right: _, credit, ...option }) =>
        option.id === identity
          ? { ...option, right: true }
          : { ...option, ...(credit === undefined ? {} : { credit }) },
      ),
    };
  },
  mark,
  rightAnswer(question, seed) {
    const right = question.options.find((option) => option.right);
    return right ? { pick: seed.name(question.id, right.id) } : null;
  },
};
