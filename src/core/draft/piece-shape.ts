import * as yup from "yup";
import { isRecord } from "../kinds/answer-reading";
import { KIND_NAMES, type KindName } from "../kinds/answering";
import { marking } from "../kinds/marking";
import { exactObject, identifier } from "../kinds/shapes";
import { quizFrame } from "../quiz/quiz-file";
import { rulesShape } from "../quiz/rules-shape";
import { said } from "../said";
import { type DraftPiece, HEAD, OUTLINE, PIECES_BEGIN, PIECES_END, RULES } from "./pieces";

/** In characters, as JSON. */
export const LARGEST_PIECE = 300_000;
const MOST_QUESTIONS = 1_000;

/** What is written may be unfinished; what is of another sort than it has to be is no writing, but a fault. */
const FAULTS = new Set(["typeError", "noUnknown"]);

/** Whether a value has the sort and the fields of a shape, whatever it still lacks. */
function isOfShape(shape: yup.AnySchema, value: unknown): boolean {
  try {
    shape.validateSync(value, { abortEarly: false, strict: true });
    return true;
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    const errors = error.inner.length > 0 ? error.inner : [error];
    return !errors.some(({ type }) => FAULTS.has(type ?? ""));
  }
}

const headFields = quizFrame.pick(["title", "language", "brief", "reference", "unitMeanings"]);

const number = () =>
  yup
    .number()
    .strict()
    .integer()
    .min(PIECES_BEGIN)
    .max(PIECES_END - 1)
    .required();

const outlineShape = exactObject({
  piece: yup.string().strict().oneOf(["outline"]).required(),
  sections: yup
    .array()
    .of(
      exactObject({
        id: identifier(),
        title: yup.string().strict().max(200),
        stimulus: exactObject({
          text: yup.string().strict().defined(),
          figure: yup.string().strict().max(40),
        })
          .default(undefined)
          .optional(),
        draw: yup.number().strict().integer().min(1).max(MOST_QUESTIONS),
        apart: yup.number().strict().integer().min(2).max(100),
        bank: exactObject({
          topic: yup.string().strict().max(80).defined(),
          tag: yup.string().strict().max(40),
        })
          .default(undefined)
          .optional(),
        questions: yup.array().of(number()).max(MOST_QUESTIONS).required(),
      }),
    )
    .max(100)
    .required()
    .test("ids", (sections) => {
      const all = (sections ?? []).flatMap((section) => section?.questions ?? []);
      const names = (sections ?? []).map((section) => section?.id);
      return new Set(all).size === all.length && new Set(names).size === names.length;
    }),
}).strict();

/** An identifier of any kind: those of files are in the order of their making (UUIDv7). */
const asset = () =>
  yup
    .string()
    .strict()
    .matches(/^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/)
    .required();

const pictureShape = exactObject({
  piece: yup.string().strict().oneOf(["picture"]).required(),
  picture: exactObject({
    id: identifier(),
    alt: yup.string().strict().max(1_000).defined(),
    asset: asset(),
    aspect: yup.number().strict().min(0.01).max(100).required(),
    removed: yup.boolean().strict().oneOf([true]),
  }).required(),
});

const recordingShape = exactObject({
  piece: yup.string().strict().oneOf(["recording"]).required(),
  recording: exactObject({
    id: identifier(),
    kind: yup.string().strict().oneOf(["sound", "film"]).required(),
    title: yup.string().strict().max(200).defined(),
    transcript: yup.string().strict().max(40_000).defined(),
    aspect: yup.number().strict().min(0.1).max(10),
    asset: asset(),
    removed: yup.boolean().strict().oneOf([true]),
  }).required(),
});

function isHead(value: Record<string, unknown>): boolean {
  const { piece, ...head } = value;
  return piece === "head" && typeof head.title === "string" && isOfShape(headFields, head);
}

function isRules({ piece, rules, ...others }: Record<string, unknown>): boolean {
  if (piece !== "rules" || !isRecord(rules) || Object.keys(others).length > 0) return false;
  return isOfShape(rulesShape, rules) && isRecord(rules.reveal);
}

/** Whether a value can be a question as it is being written: of its kind's fields, and of their sorts. */
export function canBeQuestion(question: unknown): boolean {
  if (!isRecord(question)) return false;
  const { kind, id } = question;
  if (typeof kind !== "string" || !KIND_NAMES.includes(kind as KindName)) return false;
  return (
    identifier().isValidSync(id) &&
    typeof question.text === "string" &&
    isOfShape(marking(kind as KindName).shape, question)
  );
}

const linkShape = exactObject({
  id: asset(),
  version: yup.number().strict().integer().min(1).required(),
  follows: yup.boolean().strict().required(),
});

function isQuestionPiece({ piece: _, question, bank, ...others }: Record<string, unknown>): boolean {
  const isLinked = bank === undefined || linkShape.isValidSync(bank, { strict: true });
  return isLinked && Object.keys(others).length === 0 && canBeQuestion(question);
}

/**
 * Whether a value can stand as the piece with this number, however unfinished it is.
 * @example isPiece({ piece: "head", title: "" }, 1) → true
 */
export function isPiece(value: unknown, slot: number): value is DraftPiece {
  if (!isRecord(value)) return false;
  if (slot === HEAD) return isHead(value);
  if (slot === RULES) return isRules(value);
  if (slot === OUTLINE) return outlineShape.isValidSync(value, { strict: true });
  if (value.piece === "question") return isQuestionPiece(value);
  if (value.piece === "picture") return pictureShape.isValidSync(value, { strict: true });
  return value.piece === "recording" && recordingShape.isValidSync(value, { strict: true });
}

/** Why a piece is refused. */
export const NOT_A_PIECE = said("draft.piece-shape.not-a-piece");
