import * as yup from "yup";
import { readUnit } from "../numbers/units";
import { said } from "../said";

/** What unit symbols mean: { "nm": "nauticalmile" }. */
export const unitMeaningsShape = () =>
  yup
    .object()
    .test("meanings", said("quiz-file.kinds.numeric.question.must-name-units-that-can-be"), (meanings) =>
      Object.values(meanings ?? {}).every((unit) => typeof unit === "string" && readUnit(unit).ok),
    )
    .default(undefined)
    .optional();
