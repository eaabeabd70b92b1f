import * as yup from "yup";
import { exactNumber, exactObject, richText } from "../kinds/shapes";
import { said } from "../said";
import { contradictionsOf } from "./contradictions";
import type { QuizSettings, RevealWhen } from "./rules";

const NAMED_MOMENTS = ["at-hand-in", "after-due", "after-closing", "when-returned", "never"];

const revealWhen = () =>
  yup
    .mixed<RevealWhen>()
    .test(
      "when",
      said("quiz.rules-shape.must-be-one-of-or", { names: NAMED_MOMENTS.join(", ") }),
      (value) => {
        if (value === undefined) return true;
        if (typeof value === "string") return NAMED_MOMENTS.includes(value);
        return typeof value?.on === "string" && !Number.isNaN(Date.parse(value.on));
      },
    )
    .required();

const settingFields = {
  timeLimit: yup
    .number()
    .strict()
    .moreThan(0, said("quiz.rules-shape.must-be-more-than-0-minutes"))
    .max(10_080, said("quiz.rules-shape.must-be-a-week-at-most")),
  attempts: yup.number().strict().integer().min(1).max(1000),
  counts: yup.string().strict().oneOf(["best", "latest", "first", "mean"]).required(),
  closingCutsClock: yup.boolean().strict(),
  lateCostPerDay: exactNumber(0, 100),
  takeBack: yup.boolean().strict(),
  waitBetween: yup.number().strict().min(0).max(525_600),
  practice: yup.boolean().strict(),
  practiseMissed: yup.boolean().strict(),
  alike: yup.boolean().strict(),
  help: exactObject({
    mail: yup.string().strict().email().max(200),
    phone: yup
      .string()
      .strict()
      .matches(/^[+\d][\d ()/-]{2,30}$/, { message: said("quiz.rules-shape.must-be-a-telephone-number") }),
    page: yup
      .string()
      .strict()
      .matches(/^https:\/\/[^\s"<>]+$/, { message: said("quiz.rules-shape.must-be-an-address-that-begins") })
      .max(300),
  })
    .default(undefined)
    .optional(),
  reveal: exactObject({
    total: revealWhen(),
    marks: revealWhen(),
    written: revealWhen(),
    right: revealWhen(),
    worked: revealWhen(),
    onlyAfterLastAttempt: yup.boolean().strict(),
    laterAttemptsKnow: yup.boolean().strict(),
  }).required(said("quiz.rules-shape.is-missing-what-is-shown-and")),
};

/** Settings that contradict each other are refused, whatever the window is. */
const withoutContradictions = <S extends yup.AnyObjectSchema>(shape: S): S =>
  shape.test("contradictions", function (rules: QuizSettings) {
    if (rules?.reveal === undefined) return true;
    const [first] = contradictionsOf(rules);
    return first === undefined || this.createError({ message: first });
  });

/** The settings of a quiz by themselves. */
export const settingsShape = withoutContradictions(exactObject(settingFields));

export const rulesShape = withoutContradictions(
  exactObject({
    ...settingFields,
    order: yup.string().strict().oneOf(["free", "one-way"]).required(),
    shuffleQuestions: yup.boolean().strict(),
    ribbon: yup.boolean().strict(),
    timeWarnings: yup.array().of(yup.number().strict().moreThan(0).required()).max(10),
    paging: yup.string().strict().oneOf(["question", "section", "all"]),
    answerBeforeMovingOn: yup.boolean().strict(),
    tellAtOnce: yup.boolean().strict(),
    tellRightAnswer: yup.boolean().strict(),
    tries: exactObject({
      most: yup
        .number()
        .strict()
        .integer()
        .min(1)
        .max(100)
        .required(said("quiz.rules-shape.is-missing-the-most-tries-at")),
      cost: exactNumber(0, 1).required(said("quiz.rules-shape.is-missing-what-a-wrong-try")),
    })
      .default(undefined)
      .optional(),
    calculator: yup.string().strict().oneOf(["none", "plain", "scientific"]),
    readAloud: yup.boolean().strict(),
    material: richText(),
  }),
);
