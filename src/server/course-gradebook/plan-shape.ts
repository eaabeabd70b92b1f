import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { type Said, said } from "@/core/said";
import { hasWords } from "../base/input";

const MOST_CATEGORIES = 30;
/** More pieces of work than any course has. */
export const MOST_ITEMS = 200;
/** Work and categories that are new have a name of this form until they are written. */
export const NEW = /^new-\d{1,4}$/;

const FIGURE = /^\d{1,6}(\.\d{1,4})?$/;

const idShape = () =>
  yup
    .string()
    .strict()
    .test(
      "id",
      said("server.course-gradebook.set-marks.this-is-not-an-id"),
      (id) => isUuid(id ?? "") || NEW.test(id ?? ""),
    )
    .required(said("server.course-gradebook.set-marks.this-is-not-an-id"));
const titleShape = () =>
  yup
    .string()
    .strict()
    .test("words", said("server.course-gradebook.plan-shape.give-it-a-title"), hasWords)
    .max(120, said("server.course-gradebook.plan-shape.give-it-a-title"))
    .required(said("server.course-gradebook.plan-shape.give-it-a-title"));
const figureShape = (words: Said) =>
  yup
    .string()
    .strict()
    .test("figure", words, (text) => FIGURE.test(text ?? ""))
    .required(words);

const optionalFigure = () =>
  yup
    .string()
    .strict()
    .test(
      "figure",
      said("server.course-gradebook.plan-shape.threshold"),
      (text) => text === undefined || FIGURE.test(text),
    );

const item = yup
  .object({
    id: idShape(),
    title: titleShape(),
    maximum: figureShape(said("server.course-gradebook.plan-shape.maximum")).test(
      "some",
      said("server.course-gradebook.plan-shape.maximum"),
      (text) => Number(text) > 0,
    ),
    quizId: yup
      .string()
      .strict()
      .nullable()
      .test(
        "id",
        said("server.course-gradebook.set-marks.this-is-not-an-id"),
        (id) => id === null || isUuid(id ?? ""),
      )
      .defined(),
    fullForTakingPart: yup.boolean().strict().required(),
    standsInFor: yup.string().strict().max(60).nullable().default(null),
  })
  .strict()
  .noUnknown();

const category = yup
  .object({
    id: idShape(),
    title: titleShape(),
    weight: figureShape(said("server.course-gradebook.plan-shape.weight")),
    mean: yup
      .string()
      .strict()
      .oneOf(["by-points", "equal"] as const)
      .required(),
    dropLowest: yup.number().strict().integer().min(0).max(50).required(),
    items: yup.array().of(item.required()).max(MOST_ITEMS).required(),
  })
  .strict()
  .noUnknown();

const scale = yup
  .object({
    kind: yup
      .string()
      .strict()
      .oneOf(["letters", "reached", "marks"] as const)
      .required(),
    from: optionalFigure(),
    maximum: optionalFigure(),
    thresholds: yup
      .array()
      .of(
        yup
          .object({
            name: titleShape(),
            from: figureShape(said("server.course-gradebook.plan-shape.threshold")),
          })
          .strict()
          .noUnknown()
          .required(),
      )
      .max(20),
  })
  .strict()
  .noUnknown();

/** What counts in a course, as it is proposed; with a reason and what was looked at, it is done. */
export const planShape = yup
  .object({
    plan: yup
      .object({
        categories: yup.array().of(category.required()).max(MOST_CATEGORIES).required(),
        missingCountsZero: yup.boolean().strict().required(),
        scale: scale.nullable().defined(),
      })
      .strict()
      .noUnknown()
      .required(),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.course-gradebook.plan-shape.say-why"), hasWords)
      .max(500),
    expects: yup.string().strict().max(100),
  })
  .strict()
  .noUnknown();
