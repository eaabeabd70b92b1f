import * as yup from "yup";
import { type Exact, exact, sum } from "../../numbers/exact";
import { type Formula, FormulaProblem, RESERVED_NAMES, readFormula } from "../../numbers/formula";
import { type AttemptSeed, openSeed } from "../../numbers/seeded";
import type { UnitMeanings } from "../../numbers/unit-names";
import { readUnit } from "../../numbers/units";
import {
  type DrawnVariable,
  drawVariable,
  MOST_VALUES,
  type Variable,
  valueAt,
  valueCount,
} from "../../numbers/variables";
import { type Said, said } from "../../said";
import type { QuestionCommon } from "../kind";
import { commonFields, exactNumber, exactObject, richText, shapeOf } from "../shapes";
import { unitMeaningsShape } from "../unit-meanings-shape";

/** When a written number is right. */
export type Tolerance =
  | { readonly rule: "absolute"; readonly within: number | string }
  | { readonly rule: "relative"; readonly within: number | string }
  | { readonly rule: "figures"; readonly figures: number; readonly units?: number | undefined };

/** A wrong value that many write, and what is said to whoever does. */
export interface UsualMistake {
  /** A number or a formula of variables, earlier parts and the part itself, in the part's unit. */
  readonly value: number | string;
  /** Rich text; may hold variables and parts in braces. */
  readonly feedback: string;
  /** The share of the marks that it keeps; none by default. */
  readonly credit?: number | string | undefined;
}

export interface NumericPart {
  readonly id: string;
  /** Rich text; may hold variables in braces. */
  readonly text?: string | undefined;
  readonly marks: number | string;
  /** A number or a formula of variables and earlier parts. */
  readonly key: number | string;
  readonly tolerance: Tolerance;
  /** The unit of the key. */
  readonly unit?: string | undefined;
  /** Whether the unit is printed behind the box, or has to be written. */
  readonly unitRule?: "printed" | "needed" | undefined;
  /** The share of the part that is lost when a needed unit is missing; all of it by default. */
  readonly unitMissingLoses?: number | string | undefined;
  /** The share that is lost when fewer figures are written than asked for; all of it by default. */
  readonly tooFewFiguresLoses?: number | string | undefined;
  /** Whether an error in an earlier part is carried forward into this one; yes by default. */
  readonly carriesForward?: boolean | undefined;
  /** Wrong values with words of their own; the first that fits is said. */
  readonly mistakes?: readonly UsualMistake[] | undefined;
}

export interface Numeric extends QuestionCommon {
  readonly kind: "numeric";
  readonly parts: readonly NumericPart[];
  readonly variables?: readonly Variable[] | undefined;
  /** What unit symbols mean here beyond the usual: { "nm": "nauticalmile" }; before what the quiz and the course say. */
  readonly unitMeanings?: UnitMeanings | undefined;
  readonly commaIsThousands?: boolean | undefined;
}

/** A name that formulas can use: of a variable or a part. */
const formulaName = () =>
  yup
    .string()
    .strict()
    .matches(/^[A-Za-z]\w{0,19}$/, {
      message: said("quiz-file.kinds.numeric.question.must-be-a-letter-then-letters"),
    })
    .test(
      "not-reserved",
      said("quiz-file.kinds.numeric.question.must-not-be-the-name-of"),
      (name) => !RESERVED_NAMES.has(name ?? ""),
    )
    .required();

const toleranceShape = exactObject({
  rule: yup.string().strict().oneOf(["absolute", "relative", "figures"]).required(),
  within: exactNumber(0, 1e15),
  figures: yup.number().strict().integer().min(1).max(15),
  units: yup.number().strict().integer().min(0).max(9),
})
  .test(
    "within",
    said("quiz-file.kinds.numeric.question.within-is-missing-how-far-off"),
    ({ rule, within }) => rule === "figures" || within !== undefined,
  )
  .test(
    "figures",
    said("quiz-file.kinds.numeric.question.figures-is-missing-how-many"),
    ({ rule, figures }) => rule !== "figures" || figures !== undefined,
  );

const variableShape = exactObject({
  name: formulaName(),
  from: exactNumber(-1e15, 1e15),
  to: exactNumber(-1e15, 1e15),
  step: exactNumber(0, 1e15),
  list: yup.array().of(exactNumber(-1e15, 1e15).required()).min(1).max(1000),
}).test("values", said("quiz-file.kinds.numeric.question.must-have-a-list-or-from"), (variable) => {
  const { from, to, step, list } = variable;
  if (list !== undefined) return from === undefined && to === undefined && step === undefined;
  if (from === undefined || to === undefined || step === undefined) return false;
  try {
    const count = valueCount(variable as Variable);
    return count > 0 && count <= MOST_VALUES;
  } catch {
    return false;
  }
});

const mistakeShape = exactObject({
  value: yup
    .mixed<number | string>(
      (value): value is number | string => typeof value === "number" || typeof value === "string",
    )
    .typeError(said("quiz-file.kinds.numeric.question.must-be-a-number-or-a"))
    .required(said("quiz-file.kinds.numeric.question.is-missing-the-wrong-value")),
  feedback: richText().required(said("quiz-file.kinds.numeric.question.is-missing-what-is-said-to-it")),
  credit: exactNumber(0, 1),
});

const partShape = exactObject({
  id: formulaName(),
  text: richText(),
  marks: exactNumber(0, 1000).required(),
  key: yup
    .mixed<number | string>(
      (value): value is number | string => typeof value === "number" || typeof value === "string",
    )
    .typeError(said("quiz-file.kinds.numeric.question.must-be-a-number-or-a"))
    .required(said("quiz-file.kinds.numeric.question.is-missing-the-right-number-or")),
  tolerance: toleranceShape.required(),
  unit: yup
    .string()
    .strict()
    .max(40)
    .test(
      "unit",
      said("quiz-file.kinds.numeric.question.must-be-a-unit-that-can"),
      (unit) => unit === undefined || readUnit(unit).ok || /^[\w ]+$/.test(unit),
    ),
  unitRule: yup.string().strict().oneOf(["printed", "needed"]),
  unitMissingLoses: exactNumber(0, 1),
  tooFewFiguresLoses: exactNumber(0, 1),
  carriesForward: yup.boolean().strict(),
  mistakes: yup.array().of(mistakeShape).max(20),
}).test(
  "needed-unit",
  said("quiz-file.kinds.numeric.question.must-have-a-unit-when-the"),
  ({ unitRule, unit }) => unitRule !== "needed" || unit !== undefined,
);

/** When a question is checked, its keys are worked out for every draw, up to so many; beyond, for a large sample. */
const ALL_DRAWS = 1_200;
/** Of each variable so many values are tried at least, all where it has no more. */
const VALUES_TRIED = 400;
const MORE_DRAWS = 400;

export const numericShape = shapeOf<Numeric>(
  exactObject({
    ...commonFields("numeric"),
    parts: yup
      .array()
      .of(partShape)
      .min(1, said("quiz-file.kinds.numeric.question.must-have-at-least-one-part"))
      .max(20, said("quiz-file.kinds.numeric.question.must-have-at-most-20-parts"))
      .required(),
    variables: yup.array().of(variableShape).max(50),
    unitMeanings: unitMeaningsShape(),
    commaIsThousands: yup.boolean().strict(),
  })
    .test(
      "names",
      said("quiz-file.kinds.numeric.question.variables-and-parts-must-all-have"),
      ({ parts, variables }) => {
        const names = [
          ...(parts ?? []).map((part) => part?.id),
          ...(variables ?? []).map((variable) => variable?.name),
        ];
        return new Set(names).size === names.length;
      },
    )
    .test("marks-of-parts", said("quiz-file.kinds.numeric.question.marks-must-be-the-sum-of"), (question) => {
      try {
        return sum((question.parts ?? []).map((part) => exact(part.marks))).equals(exact(question.marks));
      } catch {
        return true;
      }
    })
    .test("keys", function (question) {
      const problem = keyProblem(question as unknown as Numeric);
      return problem === null || this.createError({ message: problem });
    }),
);

/** What is wrong with the keys: a formula that cannot be read, a name that is not there yet, or one without a value. */
function keyProblem(question: Numeric): Said | null {
  const known = new Set((question.variables ?? []).map((variable) => variable?.name));
  for (const part of question.parts ?? []) {
    if (part?.key === undefined || part.id === undefined) return null;
    const reading = readFormula(String(part.key));
    if (!reading.ok)
      return said("quiz-file.kinds.numeric.question.the-key-of-part-cannot-be", {
        id: part.id,
        problem: reading.problem,
      });
    const missing = reading.formula.names.find((name) => !known.has(name));
    if (missing)
      return said("quiz-file.kinds.numeric.question.the-key-of-part-uses-which", { id: part.id, missing });
    known.add(part.id);
    for (const { value } of part.mistakes ?? []) {
      const mistake = readFormula(String(value));
      const problem = mistake.ok
        ? mistake.formula.names
            .filter((name) => !known.has(name))
            .map((missing) =>
              said("quiz-file.kinds.numeric.question.the-key-of-part-uses-which", { id: part.id, missing }),
            )[0]
        : mistake.problem;
      if (problem)
        return said("quiz-file.kinds.numeric.question.the-mistake-of-part", {
          id: part.id,
          value: String(value),
          problem,
        });
    }
  }
  for (const values of trialDraws(question.variables ?? [])) {
    const { faults } = workedOutWith(question, values);
    const [fault] = faults;
    if (!fault) continue;
    const where = [...values].map(([name, { text }]) => `${name} = ${text}`).join(", ");
    return said("quiz-file.kinds.numeric.question.the-key-of-part-has-no", {
      part: fault[0],
      where: where === "" ? "" : said("quiz-file.kinds.numeric.question.where", { values: where }),
      problem: fault[1],
    });
  }
  return null;
}

/** Draws on which the keys of a question are tried: all there can be, or every value of each variable and many more. */
export function* trialDraws(variables: readonly Variable[]): Generator<Map<string, DrawnVariable>> {
  const counts = variables.map(valueCount);
  const draws = counts.reduce((product, count) => product * count, 1);
  const at = (indexes: readonly number[]) =>
    new Map(variables.map((variable, i) => [variable.name, valueAt(variable, indexes[i] ?? 0)]));
  if (draws <= ALL_DRAWS) {
    for (let draw = 0; draw < draws; draw += 1) {
      let rest = draw;
      yield at(
        counts.map((count) => {
          const index = rest % count;
          rest = Math.floor(rest / count);
          return index;
        }),
      );
    }
    return;
  }
  const next = openSeed("trial").chance("draws");
  const anywhere = () => counts.map((count) => Math.floor(next() * count));
  for (const [i, count] of counts.entries()) {
    const tried = Math.min(count, VALUES_TRIED);
    for (let step = 0; step < tried; step += 1) {
      const index = tried < 2 ? 0 : Math.round((step * (count - 1)) / (tried - 1));
      yield at(anywhere().map((other, j) => (j === i ? index : other)));
    }
  }
  for (let i = 0; i < MORE_DRAWS; i += 1) yield at(anywhere());
}

/** A question is marked for many attempts: its formulas are read once. */
const formulas = new WeakMap<object, Formula>();

function readOnce(holder: object, text: number | string): Formula {
  const known = formulas.get(holder);
  if (known) return known;
  const reading = readFormula(String(text));
  if (!reading.ok) throw new FormulaProblem(reading.problem);
  formulas.set(holder, reading.formula);
  return reading.formula;
}

/** The formula of a part. The question was checked when it was taken in. @throws Error for one that was not. */
export const formulaOf = (part: NumericPart): Formula => readOnce(part, part.key);

/** The value of a usual mistake with these values of variables and parts; null where it has none. */
export function mistakenValue(mistake: UsualMistake, values: ReadonlyMap<string, Exact>): Exact | null {
  try {
    return readOnce(mistake, mistake.value).value(values);
  } catch (error) {
    if (error instanceof FormulaProblem) return null;
    throw error;
  }
}

export interface WorkedOut {
  readonly variables: ReadonlyMap<string, DrawnVariable>;
  /** The key of each part, by its id; of those that have one. */
  readonly keys: ReadonlyMap<string, Exact>;
  /** Why a part has no key here, by its id. */
  readonly faults: ReadonlyMap<string, Said>;
  readonly formulas: ReadonlyMap<string, Formula>;
  /** Values of variables and keys by name. */
  readonly values: ReadonlyMap<string, Exact>;
}

/** A question is presented, read and marked with one seed in turn: the last working out of each is kept. */
const lastWork = new WeakMap<Numeric, { readonly seed: AttemptSeed; readonly work: WorkedOut }>();

/** The variables and keys of a question in one attempt. */
export function worksOut(question: Numeric, seed: AttemptSeed): WorkedOut {
  const last = lastWork.get(question);
  if (last?.seed === seed) return last.work;
  const work = workedOutWith(question, variablesOf(question, seed));
  lastWork.set(question, { seed, work });
  return work;
}

/** What is drawn for a question in one attempt, by the names of its variables. */
export const variablesOf = (question: Numeric, seed: AttemptSeed): Map<string, DrawnVariable> =>
  new Map((question.variables ?? []).map((each) => [each.name, drawVariable(each, seed, question.id)]));

export function workedOutWith(question: Numeric, variables: ReadonlyMap<string, DrawnVariable>): WorkedOut {
  const values = new Map([...variables].map(([name, { value }]) => [name, value]));
  const keys = new Map<string, Exact>();
  const formulas = new Map<string, Formula>();
  const faults = new Map<string, Said>();
  for (const part of question.parts) {
    try {
      const formula = formulaOf(part);
      formulas.set(part.id, formula);
      const key = formula.value(values);
      keys.set(part.id, key);
      values.set(part.id, key);
    } catch (error) {
      if (!(error instanceof FormulaProblem)) throw error;
      faults.set(part.id, error.problem);
    }
  }
  return { variables, keys, faults, formulas, values };
}
