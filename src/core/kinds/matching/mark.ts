import * as yup from "yup";
import { exact, ONE, shown, written, ZERO } from "../../numbers/exact";
import { type AttemptSeed, shuffled } from "../../numbers/seeded";
import { said } from "../../said";
import { CONTENT_FIELDS, QUESTION_FIELDS } from "../fields";
import type { MarkedPart, MarkingKind, QuestionCommon } from "../kind";
import { contentInWords, type OptionContent, presentContent } from "../picks/content";
import { contentFields, shownShape } from "../picks/options";
import { commonFields, exactObject, identifier, shapeOf, uniqueBy } from "../shapes";
import { wholeOf } from "../whole-mark";
import type { MatchingAnswer, PresentedMatching } from "./answer";

interface Prompt extends OptionContent {
  readonly id: string;
  /** The id of its right target. */
  readonly target: string;
}

interface Target extends OptionContent {
  readonly id: string;
}

export interface Matching extends QuestionCommon {
  readonly kind: "matching";
  readonly prompts: readonly Prompt[];
  /** May be more than the prompts, and be right for several. */
  readonly targets: readonly Target[];
  /** Whether a target may be used once only. */
  readonly once?: boolean | undefined;
  /** Keeps the prompts in their order; the targets are always shuffled. */
  readonly keepOrder?: boolean | undefined;
}

const shape = shapeOf<Matching>(
  exactObject({
    ...commonFields("matching"),
    once: yup.boolean().strict(),
    keepOrder: yup.boolean().strict(),
    prompts: yup
      .array()
      .of(shownShape({ id: identifier(), ...contentFields, target: identifier() }))
      .min(2, said("quiz-file.kinds.matching.mark.must-have-at-least-two-prompts"))
      .max(26)
      .required()
      .test(
        "ids",
        said("quiz-file.kinds.matching.mark.must-have-prompts-with-different-ids"),
        uniqueBy("id"),
      ),
    targets: yup
      .array()
      .of(shownShape({ id: identifier(), ...contentFields }))
      .min(2, said("quiz-file.kinds.matching.mark.must-have-at-least-two-targets"))
      .max(40)
      .required()
      .test(
        "ids",
        said("quiz-file.kinds.matching.mark.must-have-targets-with-different-ids"),
        uniqueBy("id"),
      ),
  })
    .test(
      "targets",
      said("quiz-file.kinds.matching.mark.every-prompt-must-have-one-of"),
      ({ prompts, targets }) =>
        (prompts ?? []).every((prompt) => (targets ?? []).some((target) => target?.id === prompt?.target)),
    )
    .test("once", said("quiz-file.kinds.matching.mark.a-target-that-is-used-once"), ({ once, prompts }) => {
      const wanted = (prompts ?? []).map((prompt) => prompt?.target);
      return !once || new Set(wanted).size === wanted.length;
    }),
);

const promptName = (seed: AttemptSeed, question: Matching, id: string) =>
  seed.name(`${question.id} prompt`, id);
const targetName = (seed: AttemptSeed, question: Matching, id: string) =>
  seed.name(`${question.id} target`, id);

/** The prompts in the order of this attempt, which is the order of the parts too. */
const promptsOf = (question: Matching, seed: AttemptSeed): readonly Prompt[] =>
  question.keepOrder ? question.prompts : shuffled(question.prompts, seed.chance("prompts", question.id));

export const matchingMarking: MarkingKind<Matching, PresentedMatching, MatchingAnswer> = {
  name: "matching",
  fields: { ...QUESTION_FIELDS, prompts: [CONTENT_FIELDS], targets: [CONTENT_FIELDS] },
  shape,
  scoring: () => said("kinds.matching.mark.each-pair-counts-alike-a-wrong"),
  present(question, seed) {
    const prompts = promptsOf(question, seed);
    return {
      kind: "matching",
      text: question.text,
      marks: shown(question.marks),
      once: question.once ?? false,
      prompts: prompts.map((each) => ({
        id: promptName(seed, question, each.id),
        ...presentContent(each, seed),
      })),
      targets: shuffled(question.targets, seed.chance("targets", question.id)).map((each) => ({
        id: targetName(seed, question, each.id),
        ...presentContent(each, seed),
      })),
    };
  },
  mark(question, seed, answer) {
    const maximum = exact(question.marks).div(question.prompts.length);
    const parts = promptsOf(question, seed).map((prompt): MarkedPart => {
      const given = answer?.pairs[promptName(seed, question, prompt.id)];
      const target = question.targets.find((each) => targetName(seed, question, each.id) === given);
      const right = question.targets.find((each) => each.id === prompt.target);
      const isRight = target !== undefined && target.id === prompt.target;
      return {
        label: contentInWords(prompt),
        written: target ? contentInWords(target) : "",
        right: right ? contentInWords(right) : "",
        marks: written(maximum.mul(isRight ? ONE : ZERO)),
        maximum: written(maximum),
        state: target === undefined ? "empty" : isRight ? "full" : "none",
        why:
          target === undefined
            ? said("kinds.common.empty-no-marks")
            : isRight
              ? said("kinds.common.right")
              : said("kinds.matching.mark.not-its-match"),
        identity: target?.id ?? "",
      };
    });
    return wholeOf(exact(question.marks), parts);
  },
  rightAnswer: (question, seed) => ({
    pairs: Object.fromEntries(
      question.prompts.map((prompt) => [
        promptName(seed, question, prompt.id),
        targetName(seed, question, prompt.target),
      ]),
    ),
  }),
};
