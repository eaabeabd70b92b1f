import * as yup from "yup";
import { exact, ONE, shown, sum, written, ZERO } from "../../numbers/exact";
import { type AttemptSeed, shuffled } from "../../numbers/seeded";
import { type Said, said, saidTogether } from "../../said";
import { folded, type TextRules, textRuleWords } from "../../text/matching";
import {
  ACCEPTED_FIELDS,
  type AcceptedText,
  acceptedShape,
  bestText,
  creditOfText,
  textRuleFields,
} from "../accepted-texts";
import { OPTION_FIELDS, QUESTION_FIELDS } from "../fields";
import type { MarkedPart, MarkingKind, QuestionCommon } from "../kind";
import { contentInWords, presentContent } from "../picks/content";
import { type Option, optionFields, shownShape } from "../picks/options";
import { commonFields, exactNumber, exactObject, identifier, shapeOf, uniqueBy } from "../shapes";
import { wholeOf } from "../whole-mark";
import type { GapsAnswer, PresentedGaps } from "./answer";

/** A gap in the text: typed, with accepted answers, or chosen, with options of which one is right. */
export interface Gap {
  readonly id: string;
  /** How much it counts against the others; 1 by default. */
  readonly weight?: number | string | undefined;
  readonly accepted?: readonly AcceptedText[] | undefined;
  readonly options?: readonly Option[] | undefined;
}

export interface Gaps extends QuestionCommon, TextRules {
  readonly kind: "gaps";
  /** The text has `[[id]]` for each gap, once. */
  readonly gaps: readonly Gap[];
}

const gapShape = exactObject({
  id: identifier(),
  weight: exactNumber(0, 1000),
  accepted: acceptedShape(),
  options: yup
    .array()
    .of(shownShape(optionFields))
    .min(2, said("quiz-file.kinds.gaps.mark.must-have-at-least-two-options"))
    .max(26)
    .test("ids", said("quiz-file.kinds.gaps.mark.must-have-options-with-different-ids"), uniqueBy("id"))
    .test(
      "one-right",
      said("quiz-file.kinds.gaps.mark.must-have-exactly-one-option-with"),
      (options) => options === undefined || options.filter((option) => option?.right).length === 1,
    ),
}).test(
  "typed-or-chosen",
  said("quiz-file.kinds.gaps.mark.must-have-either-accepted-answers-or"),
  ({ accepted, options }) => (accepted === undefined) !== (options === undefined),
);

const shape = shapeOf<Gaps>(
  exactObject({
    ...commonFields("gaps"),
    ...textRuleFields,
    gaps: yup
      .array()
      .of(gapShape)
      .min(1, said("quiz-file.kinds.gaps.mark.must-have-at-least-one-gap"))
      .max(50)
      .required()
      .test("ids", said("quiz-file.kinds.gaps.mark.must-have-gaps-with-different-ids"), uniqueBy("id")),
  })
    .test("weights", said("quiz-file.kinds.gaps.mark.the-weights-of-the-gaps-must"), ({ gaps }) => {
      try {
        return sum((gaps ?? []).map((gap) => exact(gap.weight ?? 1))).compare(ZERO) > 0;
      } catch {
        return true;
      }
    })
    .test("places", said("quiz-file.kinds.gaps.mark.the-text-must-hold-id-once"), ({ text, gaps }) => {
      const places = [...(text ?? "").matchAll(/\[\[([^\]]*)\]\]/g)].map(([, id]) => id).sort();
      const ids = (gaps ?? []).map((gap) => gap?.id ?? "").sort();
      return places.length === ids.length && places.every((place, i) => place === ids[i]);
    }),
);

/** Options of a gap have names of their own, apart from those of other gaps. */
const gapName = (seed: AttemptSeed, question: string, gap: string, option: string) =>
  seed.name(`${question} ${gap}`, option);

const creditOf = (
  question: Gaps,
  seed: AttemptSeed,
  gap: Gap,
  text: string,
): ReturnType<typeof creditOfText> => {
  if (!gap.options) return creditOfText(text, gap.accepted ?? [], question);
  const chosen = gap.options.find((option) => gapName(seed, question.id, gap.id, option.id) === text);
  return { credit: chosen?.right ? ONE : ZERO, feedback: chosen?.feedback };
};

function wordsOf(question: Gaps, seed: AttemptSeed, gap: Gap, text: string): Said {
  const chosen = gap.options?.find((option) => gapName(seed, question.id, gap.id, option.id) === text);
  return chosen ? contentInWords(chosen) : text.trim();
}

function rightWords(gap: Gap): Said {
  const right = gap.options?.find((option) => option.right);
  return right ? contentInWords(right) : bestText(gap.accepted ?? []);
}

export const gapsMarking: MarkingKind<Gaps, PresentedGaps, GapsAnswer> = {
  name: "gaps",
  fields: { ...QUESTION_FIELDS, gaps: [{ accepted: [ACCEPTED_FIELDS], options: [OPTION_FIELDS] }] },
  shape,
  present: (question, seed) => ({
    kind: "gaps",
    text: question.text,
    marks: shown(question.marks),
    gaps: question.gaps.map((gap) => ({
      id: gap.id,
      options: gap.options
        ? shuffled(gap.options, seed.chance("gap", question.id, gap.id)).map((option) => ({
            id: gapName(seed, question.id, gap.id, option.id),
            ...presentContent(option, seed),
          }))
        : null,
    })),
  }),
  scoring: (question) => {
    const weights = new Set(question.gaps.map((gap) => exact(gap.weight ?? 1).toFraction()));
    const typed = question.gaps.some((gap) => !gap.options);
    return saidTogether(
      [
        question.gaps.length === 1
          ? ""
          : weights.size === 1
            ? said("kinds.gaps.mark.each-gap-counts-alike")
            : said("kinds.gaps.mark.gaps-count-differently"),
        typed ? textRuleWords(question) : "",
      ],
      "sentences",
    );
  },
  mark(question, seed, answer) {
    const weights = sum(question.gaps.map((gap) => exact(gap.weight ?? 1)));
    const parts = question.gaps.map((gap, i): MarkedPart => {
      const text = answer?.gaps[gap.id];
      const maximum = exact(question.marks)
        .mul(exact(gap.weight ?? 1))
        .div(weights);
      const { credit, feedback, difference, forgiven } =
        text === undefined ? { credit: ZERO } : creditOf(question, seed, gap, text);
      const state =
        text === undefined ? "empty" : credit.equals(ONE) ? "full" : credit.equals(ZERO) ? "none" : "part";
      return {
        label: question.gaps.length === 1 ? null : String(i + 1),
        written: text === undefined ? "" : wordsOf(question, seed, gap, text),
        right: rightWords(gap),
        marks: written(maximum.mul(credit)),
        maximum: written(maximum),
        state,
        why: {
          empty: said("kinds.common.empty-no-marks"),
          full: forgiven ? said("kinds.common.right-with-a-slip-in-the") : said("kinds.common.right"),
          none: said("kinds.common.not-right"),
          part: said("kinds.gaps.mark.accepted-for-of-the-marks", { percent: shown(credit.mul(100)) }),
        }[state],
        identity: gap.options ? (text ?? "") : folded(text ?? "", question),
        ...(feedback ? { feedback } : {}),
        ...(difference ? { difference } : {}),
      };
    });
    return wholeOf(exact(question.marks), parts);
  },
  rightAnswer(question, seed) {
    const fill = (gap: Gap) => {
      const right = gap.options?.find((option) => option.right);
      return right ? gapName(seed, question.id, gap.id, right.id) : bestText(gap.accepted ?? []);
    };
    return { gaps: Object.fromEntries(question.gaps.map((gap) => [gap.id, fill(gap)])) };
  },
};
