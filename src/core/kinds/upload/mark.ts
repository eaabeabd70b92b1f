import * as yup from "yup";
import { shown } from "../../numbers/exact";
import { said } from "../../said";
import { QUESTION_FIELDS } from "../fields";
import type { MarkingKind } from "../kind";
import {
  awaitsPerson,
  BY_HAND_FIELDS,
  byHandFields,
  type MarkedByHand,
  RUBRIC_MISFIT,
  rubricFits,
} from "../marked-by-person";
import { commonFields, exactObject, shapeOf } from "../shapes";
import {
  FILE_KINDS,
  type FileKind,
  type PresentedUpload,
  type UploadAnswer,
  uploadAnswering,
} from "./answer";

const MEGABYTE = 1_000_000;

export interface Upload extends MarkedByHand {
  readonly kind: "upload";
  readonly allows: readonly FileKind[];
  /** 1 by default. */
  readonly mostFiles?: number | undefined;
  /** In megabytes, for each file; 20 by default. */
  readonly largestMegabytes?: number | undefined;
  readonly textBeside?: boolean | undefined;
}

const presentUpload = (question: Upload): PresentedUpload => ({
  kind: "upload",
  text: question.text,
  marks: shown(question.marks),
  allows: question.allows,
  mostFiles: question.mostFiles ?? 1,
  largest: (question.largestMegabytes ?? 20) * MEGABYTE,
  textBeside: question.textBeside ?? false,
});

export const uploadMarking: MarkingKind<Upload, PresentedUpload, UploadAnswer> = {
  name: "upload",
  byHand: true,
  fields: { ...QUESTION_FIELDS, ...BY_HAND_FIELDS },
  shape: shapeOf<Upload>(
    exactObject({
      ...commonFields("upload"),
      ...byHandFields,
      allows: yup
        .array()
        .of(yup.string().strict().oneOf(FILE_KINDS).required())
        .min(1, said("quiz-file.kinds.upload.mark.must-allow-at-least-one-kind"))
        .required(said("quiz-file.kinds.upload.mark.is-missing-the-kinds-of-files")),
      mostFiles: yup.number().strict().integer().min(1).max(20),
      largestMegabytes: yup.number().strict().moreThan(0).max(200),
      textBeside: yup.boolean().strict(),
    }).test("rubric", RUBRIC_MISFIT, rubricFits),
  ),
  scoring: ({ rubric }) =>
    rubric
      ? said("kinds.common.marked-by-your-instructor-with-a")
      : said("kinds.common.marked-by-your-instructor"),
  present: presentUpload,
  mark: (question, _, answer) =>
    awaitsPerson(question, uploadAnswering.summary(presentUpload(question), answer), answer === null),
  rightAnswer: () => null,
};
