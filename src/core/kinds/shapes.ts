import * as yup from "yup";
import { exact } from "../numbers/exact";
import { agreed } from "./agreed";
import type { QuestionCommon } from "./kind";

/** The longest rich text a quiz file may hold in one place, in characters. */
const LONGEST_TEXT = 40_000;

export const identifier = () =>
  yup
    .string()
    .strict()
    .matches(/^[A-Za-z0-9][A-Za-z0-9_-]{0,39}$/, "must be a short name of letters, digits, - and _")
    .required("is missing");

export const richText = () =>
  yup.string().strict().max(LONGEST_TEXT, `must have at most ${LONGEST_TEXT} characters`);

/** An exact number, as a JSON number or a text such as "1/3", within bounds. */
export const exactNumber = (least: number, most: number) =>
  yup
    .mixed<number | string>(
      (value): value is number | string => typeof value === "number" || typeof value === "string",
    )
    .typeError('must be a number such as 2 or "1/3"')
    .test("exact", `must be a number from ${least} to ${most}, such as 2 or "1/3"`, (value) => {
      if (value === undefined || value === null) return true;
      try {
        const number = exact(value);
        return number.compare(least) >= 0 && number.compare(most) <= 0;
      } catch {
        return false;
      }
    });

/** The fields that every question has; each kind adds its own. */
export const commonFields = <K extends string>(kind: K) => ({
  id: identifier(),
  kind: yup.string<K>().strict().oneOf([kind]).required("is missing"),
  text: richText().required("is missing: the question itself"),
  figure: identifier().optional(),
  marks: exactNumber(0, 1000).required("is missing: how many marks the question is worth"),
  worked: richText(),
  readMore: richText(),
});

/** An object shape that also refuses fields it does not know, naming them. */
export const exactObject = <S extends yup.ObjectShape>(fields: S) =>
  yup
    .object(fields)
    .strict()
    .noUnknown(({ unknown }) => `has fields that are not known here: ${unknown}`);

export const uniqueBy = (what: string) => (items: readonly unknown[] | undefined) => {
  const names = (items ?? []).map((item) => (item as Record<string, unknown> | null)?.[what]);
  return new Set(names).size === names.length;
};

/** Ties a kind's Yup shape to its question type; the tests of each kind check that both agree. */
export const shapeOf = <Q extends QuestionCommon>(schema: unknown): yup.ObjectSchema<Q> =>
  agreed<yup.ObjectSchema<Q>>(schema);
