import * as yup from "yup";
import { type Exact, exact, ONE, ZERO } from "../numbers/exact";
import { type Said, said } from "../said";
import { isForgiven, matchesText, type TextRules, writingDifference } from "../text/matching";
import { exactNumber, exactObject, richText } from "./shapes";

/** A text that is taken as an answer, with the share of the marks it gets. */
export interface AcceptedText {
  readonly text: string;
  /** All of the marks by default. */
  readonly credit?: number | string | undefined;
  /** Said to who wrote it; rich text. */
  readonly feedback?: string | undefined;
}

/** What is compared is plain: "R&D" and "x < 5" are what they say. */
export const ACCEPTED_FIELDS = { text: "plain", feedback: "rich" } as const;

export const acceptedShape = () =>
  yup
    .array()
    .of(
      exactObject({
        text: yup
          .string()
          .strict()
          .trim()
          .min(1, said("kinds.accepted-texts.must-not-be-empty"))
          .max(500)
          .required(),
        credit: exactNumber(0, 1),
        feedback: richText(),
      }),
    )
    .min(1, said("kinds.accepted-texts.must-have-at-least-one-accepted"))
    .max(200)
    .test("shown", said("quiz-file.kinds.accepted-texts.must-have-one-without-a-star"), (accepted) => {
      try {
        return accepted === undefined || !bestText(accepted as AcceptedText[]).includes("*");
      } catch {
        return true;
      }
    });

export const textRuleFields = {
  caseMatters: yup.boolean().strict(),
  ignoreAccents: yup.boolean().strict(),
  typingMistake: yup.boolean().strict(),
  hyphensMatter: yup.boolean().strict(),
  articlesMatter: yup.boolean().strict(),
};

/**
 * The credit of a written text: that of the first accepted answer that matches, else nothing.
 * @example creditOfText("ebb", [{ text: "Ebb", credit: 1 }], {}) → { credit: exact("1"), feedback: undefined }
 */
export function creditOfText(
  written: string,
  accepted: readonly AcceptedText[],
  rules: TextRules,
): {
  readonly credit: Exact;
  readonly feedback: string | undefined;
  /** What only differs in its writing from what is taken, or was forgiven in it; says something of the key. */
  readonly difference?: Said;
  /** Taken with a slip in the spelling. */
  readonly forgiven?: boolean;
} {
  const found = accepted.find((each) => matchesText(written, each.text, rules));
  if (!found) {
    const difference = accepted
      .map((each) => writingDifference(written, each.text, rules))
      .find((words) => words !== null);
    return { credit: ZERO, feedback: undefined, ...(difference ? { difference } : {}) };
  }
  const credit = exact(found.credit ?? ONE);
  return isForgiven(written, found.text, rules)
    ? {
        credit,
        feedback: found.feedback,
        forgiven: true,
        difference: said("kinds.accepted-texts.the-spelling-is", {
          text: found.text.includes("*") ? bestText(accepted) : found.text,
        }),
      }
    : { credit, feedback: found.feedback };
}

/**
 * The accepted answer that is shown as the right one: the first with the most credit that is written out, no pattern.
 * @example bestText([{ text: "ebb*" }, { text: "ebb", credit: "1/2" }, { text: "ebb tide", credit: 1 }]) → "ebb tide"
 */
export function bestText(accepted: readonly AcceptedText[]): string {
  const credit = (each: AcceptedText) => exact(each.credit ?? ONE);
  const most = accepted.reduce(
    (held, each) => (credit(each).compare(held) > 0 ? credit(each) : held),
    exact(0),
  );
  const best = accepted.filter((each) => credit(each).equals(most));
  return (best.find(({ text }) => !text.includes("*")) ?? best[0])?.text ?? "";
}
