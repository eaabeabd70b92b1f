import * as yup from "yup";
import { type Exact, exact, shown, sum, written, ZERO } from "../../numbers/exact";
import { plainWriting, readNumber } from "../../numbers/read-number";
import { agreeToFigures, inFigures } from "../../numbers/significant-figures";
import { counted } from "../../time/words";
import type { MarkedPart, MarkedQuestion, MarkingKind, MarkState, QuestionCommon } from "../kind";
import { commonFields, exactNumber, exactObject, identifier, richText, shapeOf, uniqueBy } from "../shapes";
import type { NumericAnswer, PresentedNumeric } from "./answer";

/** When a written number is right. */
export type Tolerance =
  | { readonly rule: "absolute"; readonly within: number | string }
  | { readonly rule: "relative"; readonly within: number | string }
  | { readonly rule: "figures"; readonly figures: number; readonly units?: number | undefined };

export interface NumericPart {
  readonly id: string;
  readonly text?: string | undefined;
  readonly marks: number | string;
  readonly key: number | string;
  readonly tolerance: Tolerance;
  /** The unit printed behind the box. */
  readonly unit?: string | undefined;
  /** The share of the part that is lost when fewer figures are written than asked for; all of it unless told. */
  readonly tooFewFiguresLoses?: number | string | undefined;
}

export interface Numeric extends QuestionCommon {
  readonly kind: "numeric";
  readonly parts: readonly NumericPart[];
}

const toleranceShape = exactObject({
  rule: yup.string().strict().oneOf(["absolute", "relative", "figures"]).required("is missing"),
  within: exactNumber(0, 1e15),
  figures: yup.number().strict().integer().min(1).max(15),
  units: yup.number().strict().integer().min(0).max(9),
})
  .test(
    "within",
    "within is missing: how far off a right answer may be",
    ({ rule, within }) => rule === "figures" || within !== undefined,
  )
  .test(
    "figures",
    "figures is missing: how many",
    ({ rule, figures }) => rule !== "figures" || figures !== undefined,
  );

const shape = shapeOf<Numeric>(
  exactObject({
    ...commonFields("numeric"),
    parts: yup
      .array()
      .of(
        exactObject({
          id: identifier(),
          text: richText(),
          marks: exactNumber(0, 1000).required("is missing"),
          key: exactNumber(-1e15, 1e15).required("is missing: the right number"),
          tolerance: toleranceShape.required("is missing"),
          unit: yup.string().strict().max(20),
          tooFewFiguresLoses: exactNumber(0, 1),
        }),
      )
      .min(1, "must have at least one part")
      .max(20, "must have at most 20 parts")
      .required("is missing")
      .test("ids", "must have parts with different ids", uniqueBy("id")),
  }).test("marks-of-parts", "marks must be the sum of the marks of the parts", (question) => {
    try {
      return sum((question.parts ?? []).map((part) => exact(part.marks))).equals(exact(question.marks));
    } catch {
      return true;
    }
  }),
);

/** Whether a number is right, apart from how many figures were written. */
function isRight(value: Exact, key: Exact, tolerance: Tolerance): boolean {
  if (tolerance.rule === "figures")
    return agreeToFigures(value, key, tolerance.figures, tolerance.units ?? 0);
  const off = value.sub(key).abs();
  const within = exact(tolerance.within);
  return off.compare(tolerance.rule === "absolute" ? within : within.mul(key.abs())) <= 0;
}

const ruleWords = ({ tolerance }: NumericPart): string =>
  tolerance.rule === "figures" ? counted(tolerance.figures, "significant figure") : "";

function markPart(part: NumericPart, text: string, label: string | null): MarkedPart & { credited: Exact } {
  const maximum = exact(part.marks);
  const key = exact(part.key);
  const unit = part.unit ? ` ${part.unit}` : "";
  const outcome = (state: MarkState, credited: Exact, why: string) => ({
    label,
    written: text,
    right: `${part.tolerance.rule === "figures" ? inFigures(key, part.tolerance.figures) : plainWriting(key)}${unit}`,
    marks: written(credited),
    maximum: written(maximum),
    state,
    why,
    credited,
  });
  if (text === "") return outcome("empty", ZERO, "empty: no marks");
  const reading = readNumber(text);
  if (!reading.ok) return outcome("awaits", ZERO, "could not be read as a number; your instructor decides");
  const { tolerance } = part;
  const asked = tolerance.rule === "figures" ? tolerance.figures : 0;
  const tooFew = reading.figures < asked;
  const judgedTo =
    tooFew && tolerance.rule === "figures" ? { ...tolerance, figures: reading.figures } : tolerance;
  if (!isRight(reading.value, key, judgedTo)) return outcome("none", ZERO, "not the right value");
  if (!tooFew) return outcome("full", maximum, "right");
  const lost = exact(part.tooFewFiguresLoses ?? 1);
  const remark = `right to ${counted(reading.figures, "figure")}, but ${asked} were asked for`;
  if (lost.equals(ZERO)) return outcome("full", maximum, `${remark}; nothing lost for it`);
  const credited = maximum.mul(exact(1).sub(lost));
  return outcome(
    credited.equals(ZERO) ? "none" : "part",
    credited,
    `too few figures: ${remark}, which loses ${lost.equals(1) ? "the marks" : `${shown(lost.mul(100))} % of the marks`}`,
  );
}

/** The state of a whole from the states of its parts. */
function wholeState(marks: Exact, maximum: Exact, parts: readonly MarkedPart[]): MarkState {
  if (parts.some((part) => part.state === "awaits")) return "awaits";
  if (parts.every((part) => part.state === "empty")) return "empty";
  if (marks.equals(maximum)) return "full";
  return marks.equals(ZERO) ? "none" : "part";
}

function mark(question: Numeric, _seed: string, answer: NumericAnswer | null): MarkedQuestion {
  const single = question.parts.length === 1;
  const marked = question.parts.map((part) =>
    markPart(part, answer?.parts[part.id]?.trim() ?? "", single ? null : part.id),
  );
  const maximum = exact(question.marks);
  const marks = sum(marked.map((part) => part.credited));
  const awaiting = sum(marked.filter((part) => part.state === "awaits").map((part) => exact(part.maximum)));
  const parts = marked.map(({ credited: _, ...part }) => part);
  return {
    marks: written(marks),
    maximum: written(maximum),
    awaiting: written(awaiting),
    state: wholeState(marks, maximum, parts),
    parts,
  };
}

export const numericMarking: MarkingKind<Numeric, PresentedNumeric, NumericAnswer> = {
  name: "numeric",
  shape,
  present: (question) => ({
    kind: "numeric",
    text: question.text,
    marks: shown(question.marks),
    parts: question.parts.map((part) => ({
      id: part.id,
      text: part.text ?? "",
      marks: shown(part.marks),
      ruleWords: ruleWords(part),
      unit: part.unit ?? "",
    })),
  }),
  mark,
};
