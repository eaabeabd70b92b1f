import * as yup from "yup";
import { type Exact, exact, ONE, shown, ZERO } from "../../numbers/exact";
import type { AttemptSeed } from "../../numbers/seeded";
import { type Said, said, saidTogether } from "../../said";
import { OPTION_FIELDS, QUESTION_FIELDS } from "../fields";
import type { MarkedQuestion, MarkingKind, QuestionCommon } from "../kind";
import { contentInWords } from "../picks/content";
import { setCredit } from "../picks/credit";
import { type Option, optionFields, optionWarnings, presentOptions, shownShape } from "../picks/options";
import { commonFields, exactObject, shapeOf, uniqueBy } from "../shapes";
import { wholeWithCredit } from "../whole-mark";
import type { PresentedSeveralOfSeveral, SeveralOfSeveralAnswer } from "./answer";

export interface SeveralOfSeveral extends QuestionCommon {
  readonly kind: "several-of-several";
  readonly options: readonly Option[];
  readonly keepOrder?: boolean | undefined;
  /** The fewest picks of a complete answer; 1 by default. */
  readonly least?: number | undefined;
  /** The most picks; as many as there are options by default. */
  readonly most?: number | undefined;
  readonly credit: "all-or-nothing" | "by-option";
}

const shape = shapeOf<SeveralOfSeveral>(
  exactObject({
    ...commonFields("several-of-several"),
    keepOrder: yup.boolean().strict(),
    least: yup.number().strict().integer().min(0),
    most: yup.number().strict().integer().min(1),
    credit: yup.string().strict().oneOf(["all-or-nothing", "by-option"]).required(),
    options: yup
      .array()
      .of(shownShape(optionFields))
      .min(2, said("quiz-file.kinds.gaps.mark.must-have-at-least-two-options"))
      .max(26, said("quiz-file.kinds.one-of-several.mark.must-have-at-most-26-options"))
      .required()
      .test("ids", said("quiz-file.kinds.gaps.mark.must-have-options-with-different-ids"), uniqueBy("id"))
      .test(
        "some-right",
        said("quiz-file.kinds.several-of-several.mark.must-have-at-least-one-option"),
        (options) => (options ?? []).some((option) => option?.right),
      ),
  }).test(
    "picks",
    said("quiz-file.kinds.several-of-several.mark.least-and-most-must-let-the"),
    (question) => {
      const right = (question.options ?? []).filter((option) => option?.right).length;
      const [least, most] = [question.least ?? 1, question.most ?? (question.options ?? []).length];
      return least <= right && right <= most;
    },
  ),
);

function whyOf(question: SeveralOfSeveral, credit: Exact, found: Said, wrong: number): Said {
  if (credit.equals(ONE)) return said("kinds.common.right");
  return question.credit === "by-option"
    ? wrong > 0
      ? said("kinds.several-of-several.mark.each-wrong-one-takes-away-a", { found })
      : found
    : said("kinds.several-of-several.mark.marks-only-for-all-of-them", { found });
}

function mark(
  question: SeveralOfSeveral,
  seed: AttemptSeed,
  answer: SeveralOfSeveralAnswer | null,
): MarkedQuestion {
  const picks = new Set(answer?.picks ?? []);
  const picked = question.options.filter((option) => picks.has(seed.name(question.id, option.id)));
  const right = question.options.filter((option) => option.right);
  const rightPicked = picked.filter((option) => option.right).length;
  const wrongPicked = picked.length - rightPicked;
  const credit =
    picked.length === 0 ? ZERO : setCredit(question.credit, rightPicked, wrongPicked, right.length);
  const found = said("kinds.several-of-several.mark.you-picked-of-the-other", {
    rightPicked,
    rightCount: right.length,
  });
  const counting =
    wrongPicked > 0 ? said("kinds.several-of-several.mark.and-other", { found, wrongPicked }) : found;
  const words = (options: readonly Option[]) => saidTogether(options.map(contentInWords), "dots");
  const feedback = picked.map((option) => option.feedback ?? "").join("");
  const line = {
    written: words(picked),
    right: words(right),
    why:
      picked.length === 0
        ? said("kinds.common.empty-no-marks")
        : whyOf(question, credit, counting, wrongPicked),
    identity: picked.map((option) => option.id).join(" "),
    ...(feedback ? { feedback } : {}),
  };
  return wholeWithCredit(exact(question.marks), credit, line, picked.length === 0 ? "empty" : undefined);
}

export const severalOfSeveralMarking: MarkingKind<
  SeveralOfSeveral,
  PresentedSeveralOfSeveral,
  SeveralOfSeveralAnswer
> = {
  name: "several-of-several",
  fields: { ...QUESTION_FIELDS, options: [OPTION_FIELDS] },
  shape,
  present(question, seed) {
    const options = presentOptions(question, seed);
    return {
      kind: "several-of-several",
      text: question.text,
      marks: shown(question.marks),
      options,
      least: question.least ?? 1,
      most: question.most ?? options.length,
    };
  },
  scoring: ({ credit }) =>
    credit === "by-option"
      ? said("kinds.several-of-several.mark.each-right-pick-counts-a-wrong")
      : said("kinds.several-of-several.mark.marks-only-for-all-the-right"),
  warnings: ({ options }) => optionWarnings(options),
  keyedBy(question, { identity }) {
    const right = new Set(identity.split(" "));
    const known = question.options.filter(({ id }) => right.has(id)).length;
    if (known === 0 || known < right.size) return null;
    return {
      ...question,
      options: question.options.map((option) => ({ ...option, right: right.has(option.id) })),
    };
  },
  mark,
  rightAnswer(question, seed) {
    const right = new Set(
      question.options.filter((option) => option.right).map((option) => seed.name(question.id, option.id)),
    );
    return { picks: presentOptions(question, seed).flatMap(({ id }) => (right.has(id) ? [id] : [])) };
  },
};
