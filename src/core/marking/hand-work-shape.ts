import * as yup from "yup";
import { exactObject } from "../kinds/shapes";
import { said } from "../said";
import type { HandWork } from "./hand-work";

const LONGEST_WORDS = 4_000;
const MOST_NOTES = 100;
const LONGEST_ANSWER = 400_000;

const share = () => yup.number().strict().min(0).max(1).required();
const words = () =>
  yup
    .string()
    .strict()
    .max(LONGEST_WORDS, said("marking.hand-work.at-most-characters", { most: LONGEST_WORDS }))
    .defined();

const anchorShape = yup.lazy((anchor: unknown) => {
  if (anchor === null) return yup.mixed().nullable();
  if ((anchor as { kind?: unknown } | undefined)?.kind === "words") {
    return exactObject({
      kind: yup.string().strict().oneOf(["words"]).required(),
      from: yup.number().strict().integer().min(0).max(LONGEST_ANSWER).required(),
      to: yup.number().strict().integer().min(1).max(LONGEST_ANSWER).required(),
      words: yup.string().strict().min(1).max(LONGEST_WORDS).required(),
    }).test("order", said("marking.hand-work.a-note-ends-after-it-begins"), ({ from, to }) => from < to);
  }
  return exactObject({
    kind: yup.string().strict().oneOf(["spot"]).required(),
    file: yup.number().strict().integer().min(0).max(99).required(),
    page: yup.number().strict().integer().min(1).max(5_000).required(),
    x: share(),
    y: share(),
    width: share(),
    height: share(),
  });
});

const exactText = () => yup.string().strict().max(40);

const criterionShape = exactObject({
  level: yup.string().strict().max(40),
  points: exactText(),
  remark: yup
    .string()
    .strict()
    .max(LONGEST_WORDS, said("marking.hand-work.at-most-characters", { most: LONGEST_WORDS })),
});

/** What a marker writes to an answer, as it is sent: what it decides is checked against the question apart. */
export const handWorkShape = exactObject({
  criteria: yup.lazy((criteria: unknown) =>
    yup
      .object(
        Object.fromEntries(
          Object.keys(typeof criteria === "object" && criteria !== null ? criteria : {}).map((id) => [
            id,
            criterionShape.required(),
          ]),
        ),
      )
      .strict()
      .required(),
  ),
  marks: exactText().nullable().defined(),
  feedback: words(),
  notes: yup
    .array()
    .strict()
    .of(
      exactObject({
        id: yup.string().strict().uuid().required(),
        anchor: anchorShape,
        text: words(),
      }).required(),
    )
    .max(MOST_NOTES, said("marking.hand-work.at-most-notes", { most: MOST_NOTES }))
    .required()
    .test(
      "ids",
      said("marking.hand-work.two-notes-have-one-name"),
      (notes) =>
        new Set((notes ?? []).map((note) => (note as { id?: unknown } | null)?.id)).size ===
        (notes ?? []).length,
    ),
  reason: words(),
}) as unknown as yup.Schema<HandWork>;
