import * as yup from "yup";
import { sayInputWords } from "../input-words";
import { exact } from "../numbers/exact";
import { said } from "../said";
import type { QuestionCommon } from "./kind";
import { agreed } from "./trusted-type";

sayInputWords();

/** The longest rich text a quiz file may hold in one place, in characters. */
const LONGEST_TEXT = 40_000;

export const identifier = () =>
  yup
    .string()
    .strict()
    .matches(/^[A-Za-z0-9][A-Za-z0-9_-]{0,39}$/, {
      message: said("quiz-file.kinds.shapes.must-be-a-short-name-of"),
    })
    .required();

export const richText = () =>
  yup
    .string()
    .strict()
    .max(LONGEST_TEXT, said("quiz-file.kinds.shapes.must-have-at-most-characters", { most: LONGEST_TEXT }));

/** An exact number, as a JSON number or a text such as "1/3", within bounds. */
export const exactNumber = (least: number, most: number) =>
  yup
    .mixed<number | string>(
      (value): value is number | string => typeof value === "number" || typeof value === "string",
    )
    .typeError(said("quiz-file.kinds.shapes.must-be-a-number-such-as"))
    .test("exact", said("quiz-file.kinds.shapes.must-be-a-number-from-to", { least, most }), (value) => {
      if (value === undefined || value === null) return true;
      try {
        const number = exact(value);
        return number.compare(least) >= 0 && number.compare(most) <= 0;
      } catch {
        return false;
      }
    });

/** A language as a tag (BCP 47): "en", "ja", "pt-BR". */
export const languageTag = () =>
  yup
    .string()
    .strict()
    .matches(/^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, { message: said("quiz.quiz-file.must-be-a-language") });

/** The fields that every question has; each kind adds its own. */
export const commonFields = <K extends string>(kind: K) => ({
  id: identifier(),
  kind: yup.string<K>().strict().oneOf([kind]).required(),
  text: richText().required(said("quiz-file.kinds.shapes.is-missing-the-question-itself")),
  figure: identifier().optional(),
  recording: identifier().optional(),
  marks: exactNumber(0, 1000).required(said("quiz-file.kinds.shapes.is-missing-how-many-marks-the")),
  worked: richText(),
  readMore: richText(),
  language: languageTag().optional(),
  answerLanguage: languageTag().optional(),
});

/** An object shape that also refuses fields it does not know, naming them. */
export const exactObject = <S extends yup.ObjectShape>(fields: S) => yup.object(fields).strict().noUnknown();

export const uniqueBy = (what: string) => (items: readonly unknown[] | undefined) => {
  const names = (items ?? []).map((item) => (item as Record<string, unknown> | null)?.[what]);
  return new Set(names).size === names.length;
};

/** Ties a kind's Yup shape to its question type; the tests of each kind check that both agree. */
export const shapeOf = <Q extends QuestionCommon>(schema: unknown): yup.ObjectSchema<Q> =>
  agreed<yup.ObjectSchema<Q>>(schema);
