import * as yup from "yup";
import { said } from "../said";
import { exactNumber, exactObject, identifier, richText, uniqueBy } from "./shapes";

/** A rubric as a quiz file holds it. */
export const rubricShape = exactObject({
  criteria: yup
    .array()
    .of(
      exactObject({
        id: identifier(),
        title: yup.string().strict().min(1).max(300).required(),
        levels: yup
          .array()
          .of(
            exactObject({
              id: identifier(),
              title: yup.string().strict().min(1).max(300).required(),
              points: exactNumber(0, 1000).required(),
              text: richText(),
            }),
          )
          .min(1, said("kinds.rubric.must-have-at-least-one-level"))
          .max(20)
          .required()
          .test("ids", said("kinds.rubric.must-have-levels-with-different-ids"), uniqueBy("id")),
      }),
    )
    .min(1, said("kinds.rubric.must-have-at-least-one-criterion"))
    .max(30)
    .required()
    .test("ids", said("kinds.rubric.must-have-criteria-with-different-ids"), uniqueBy("id")),
});
