import * as yup from "yup";
import { atLeast, type Exact, exact, ONE, shown, written, ZERO } from "../../numbers/exact";
import { counted } from "../../time/words";
import type { MarkedQuestion, MarkingKind, QuestionCommon } from "../kind";
import { type Option, optionFields, presentedName, presentOptions } from "../picks/options";
import { commonFields, exactObject, shapeOf, uniqueBy } from "../shapes";
import { plainText } from "../text";
import type { PresentedSeveralOfSeveral, SeveralOfSeveralAnswer } from "./answer";

export interface SeveralOfSeveral extends QuestionCommon {
  readonly kind: "several-of-several";
  readonly options: readonly Option[];
  readonly keepOrder?: boolean | undefined;
  /** The fewest picks of a complete answer; 1 unless told. */
  readonly least?: number | undefined;
  /** The most picks; as many as there are options unless told. */
  readonly most?: number | undefined;
  readonly credit: "all-or-nothing" | "by-option";
}

const shape = shapeOf<SeveralOfSeveral>(
  exactObject({
    ...commonFields("several-of-several"),
    keepOrder: yup.boolean().strict(),
    least: yup.number().strict().integer().min(0),
    most: yup.number().strict().integer().min(1),
    credit: yup.string().strict().oneOf(["all-or-nothing", "by-option"]).required("is missing"),
    options: yup
      .array()
      .of(exactObject(optionFields))
      .min(2, "must have at least two options")
      .max(26, "must have at most 26 options")
      .required("is missing")
      .test("ids", "must have options with different ids", uniqueBy("id"))
      .test("some-right", "must have at least one option with right: true", (options) =>
        (options ?? []).some((option) => option?.right),
      ),
  }).test("picks", "least and most must let the right options be picked", (question) => {
    const right = (question.options ?? []).filter((option) => option?.right).length;
    const [least, most] = [question.least ?? 1, question.most ?? (question.options ?? []).length];
    return least <= right && right <= most;
  }),
);

/** All or nothing, or (right picked - wrong picked) / number right, never below zero. */
function creditFor(
  question: SeveralOfSeveral,
  rightPicked: number,
  wrongPicked: number,
  right: number,
): Exact {
  if (question.credit === "all-or-nothing") return rightPicked === right && wrongPicked === 0 ? ONE : ZERO;
  return atLeast(exact(`${rightPicked - wrongPicked}/${right}`), ZERO);
}

function mark(
  question: SeveralOfSeveral,
  seed: string,
  answer: SeveralOfSeveralAnswer | null,
): MarkedQuestion {
  const maximum = exact(question.marks);
  const picks = new Set(answer?.picks ?? []);
  const isPicked = (option: Option) => picks.has(presentedName(seed, question.id, option.id));
  const picked = question.options.filter(isPicked);
  const right = question.options.filter((option) => option.right);
  const rightPicked = picked.filter((option) => option.right).length;
  const wrongPicked = picked.length - rightPicked;
  const credit = creditFor(question, rightPicked, wrongPicked, right.length);
  const marks = maximum.mul(credit);
  const state =
    picked.length === 0 ? "empty" : credit.equals(ONE) ? "full" : credit.equals(ZERO) ? "none" : "part";
  const found = `${rightPicked} of ${counted(right.length, "right option")} picked`;
  const counting = wrongPicked > 0 ? `${found}, ${counted(wrongPicked, "wrong one")} too` : found;
  const why =
    state === "empty"
      ? "empty: no marks"
      : state === "full"
        ? "right"
        : question.credit === "by-option"
          ? `${counting}; each wrong one takes away a right one`
          : `${counting}; marks only for all of them and no other`;
  const feedback = picked.map((option) => option.feedback ?? "").join("");
  const part = {
    label: null,
    written: picked.map((option) => plainText(option.text)).join(" · "),
    right: right.map((option) => plainText(option.text)).join(" · "),
    marks: written(marks),
    maximum: written(maximum),
    state,
    why,
    ...(feedback ? { feedback } : {}),
  } as const;
  return { marks: part.marks, maximum: part.maximum, awaiting: "0", state, parts: [part] };
}

export const severalOfSeveralMarking: MarkingKind<
  SeveralOfSeveral,
  PresentedSeveralOfSeveral,
  SeveralOfSeveralAnswer
> = {
  name: "several-of-several",
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
  mark,
};
