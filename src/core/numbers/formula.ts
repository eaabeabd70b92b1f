import { create, type MathNode, parseDependencies } from "mathjs/number";
import { type Said, said } from "../said";
import { type Exact, exact, ZERO } from "./exact";

/** The library only reads the formula into a tree; working it out is below, so that nothing else can be reached. */
const { parse } = create({ ...parseDependencies });

const LONGEST = 500;
const MOST_NODES = 300;
const DEEPEST = 40;
/** Fractions with more digits than this go on as decimals of 15 figures. */
const MOST_DIGITS = 60;
const HIGHEST_EXACT_POWER = 64;

export type FormulaReading =
  | { readonly ok: true; readonly formula: Formula }
  | { readonly ok: false; readonly problem: Said };

/** A formula that was read and found harmless. */
export interface Formula {
  /** The names it needs values for. */
  readonly names: readonly string[];
  /** Its value. @throws FormulaProblem when it has none, such as a division by zero. */
  readonly value: (values: ReadonlyMap<string, Exact>) => Exact;
}

/** Why a formula has no value. */
export class FormulaProblem extends Error {
  constructor(readonly problem: Said) {
    super(JSON.stringify(problem));
  }
}

const RADIAN = Math.PI / 180;
const CONSTANTS: Readonly<Record<string, number>> = { pi: Math.PI, e: Math.E };

/** The functions that a formula may use; angles in degrees where the name ends in d. */
const FUNCTIONS: Readonly<
  Record<string, { readonly takes: number; readonly of: (a: number, b: number) => number }>
> = {
  sqrt: { takes: 1, of: Math.sqrt },
  cbrt: { takes: 1, of: Math.cbrt },
  exp: { takes: 1, of: Math.exp },
  ln: { takes: 1, of: Math.log },
  log10: { takes: 1, of: Math.log10 },
  log2: { takes: 1, of: Math.log2 },
  sin: { takes: 1, of: Math.sin },
  cos: { takes: 1, of: Math.cos },
  tan: { takes: 1, of: Math.tan },
  asin: { takes: 1, of: Math.asin },
  acos: { takes: 1, of: Math.acos },
  atan: { takes: 1, of: Math.atan },
  atan2: { takes: 2, of: Math.atan2 },
  sind: { takes: 1, of: (a) => Math.sin(a * RADIAN) },
  cosd: { takes: 1, of: (a) => Math.cos(a * RADIAN) },
  tand: { takes: 1, of: (a) => Math.tan(a * RADIAN) },
  asind: { takes: 1, of: (a) => Math.asin(a) / RADIAN },
  acosd: { takes: 1, of: (a) => Math.acos(a) / RADIAN },
  atand: { takes: 1, of: (a) => Math.atan(a) / RADIAN },
};

/** Functions that stay exact. */
const EXACT_FUNCTIONS: Readonly<
  Record<string, { readonly takes: number; readonly of: (a: Exact, b: Exact) => Exact }>
> = {
  abs: { takes: 1, of: (a) => a.abs() },
  floor: { takes: 1, of: (a) => a.floor() },
  ceil: { takes: 1, of: (a) => a.ceil() },
  round: { takes: 1, of: (a) => a.round() },
  min: { takes: 2, of: (a, b) => (a.compare(b) <= 0 ? a : b) },
  max: { takes: 2, of: (a, b) => (a.compare(b) >= 0 ? a : b) },
  mod: { takes: 2, of: (a, b) => a.sub(b.mul(divided(a, b).floor())) },
};

/** The names that a variable or a part may not have. */
export const RESERVED_NAMES: ReadonlySet<string> = new Set([
  ...Object.keys(CONSTANTS),
  ...Object.keys(FUNCTIONS),
  ...Object.keys(EXACT_FUNCTIONS),
]);

type Valuer = (values: ReadonlyMap<string, Exact>) => Exact;

/** A decimal of 15 figures as an exact number; what is not a finite number has no value. */
function fromFloat(value: number): Exact {
  if (!Number.isFinite(value))
    throw new FormulaProblem(said("numbers.formula.the-formula-has-no-finite-value"));
  return value === 0 ? ZERO : exact(value.toPrecision(15));
}

/** Keeps fractions from growing without bound. */
function tamed(value: Exact): Exact {
  const limit = 10n ** BigInt(MOST_DIGITS);
  return value.n > limit || value.d > limit ? fromFloat(value.valueOf()) : value;
}

function divided(a: Exact, b: Exact): Exact {
  if (b.n === 0n) throw new FormulaProblem(said("numbers.formula.the-formula-divides-by-zero-here"));
  return a.div(b);
}

function power(base: Exact, exponent: Exact): Exact {
  const whole = exponent.d === 1n && exponent.n <= BigInt(HIGHEST_EXACT_POWER);
  if (whole && base.n === 0n && exponent.s < 0n)
    throw new FormulaProblem(said("numbers.formula.the-formula-divides-by-zero-here"));
  if (!whole) return fromFloat(base.valueOf() ** exponent.valueOf());
  let result = exact(1);
  const factor = exponent.s < 0n ? divided(exact(1), base) : base;
  for (let i = 0n; i < exponent.n; i += 1n) result = tamed(result.mul(factor));
  return result;
}

const OPERATORS: Readonly<Record<string, (a: Exact, b: Exact) => Exact>> = {
  add: (a, b) => a.add(b),
  subtract: (a, b) => a.sub(b),
  multiply: (a, b) => a.mul(b),
  divide: divided,
  pow: power,
};

const refuse = (problem: Said): never => {
  throw new FormulaProblem(problem);
};

interface Reader {
  readonly names: Set<string>;
  nodes: number;
}

function checkCount(name: string, takes: number, given: number): void {
  if (given !== takes)
    refuse(
      said("numbers.formula.takes", {
        name,
        part: takes === 1 ? said("numbers.formula.one-number") : `${takes} numbers`,
      }),
    );
}

function compileCall(
  node: MathNode & { fn: { name?: string }; args: MathNode[] },
  reader: Reader,
  depth: number,
): Valuer {
  const name = node.fn.name ?? "";
  const args = node.args.map((arg) => compile(arg, reader, depth + 1));
  const known = Object.hasOwn(FUNCTIONS, name) ? FUNCTIONS[name] : undefined;
  const exactly = Object.hasOwn(EXACT_FUNCTIONS, name) ? EXACT_FUNCTIONS[name] : undefined;
  const [first = () => ZERO, second = () => ZERO] = args;
  if (exactly) {
    checkCount(name, exactly.takes, args.length);
    return (values) => exactly.of(first(values), second(values));
  }
  if (known) {
    checkCount(name, known.takes, args.length);
    return (values) => fromFloat(known.of(first(values).valueOf(), second(values).valueOf()));
  }
  return refuse(said("numbers.formula.is-not-a-function-that-a", { name: name || "?" }));
}

function compileOperator(
  node: MathNode & { fn: string; args: MathNode[] },
  reader: Reader,
  depth: number,
): Valuer {
  const args = node.args.map((arg) => compile(arg, reader, depth + 1));
  const [left, right] = args;
  if (left && !right && (node.fn === "unaryMinus" || node.fn === "unaryPlus")) {
    return node.fn === "unaryMinus" ? (values) => left(values).neg() : left;
  }
  const operator = Object.hasOwn(OPERATORS, node.fn) ? OPERATORS[node.fn] : undefined;
  if (!operator || !left || !right) return refuse(said("numbers.formula.a-formula-may-use-and-parentheses"));
  return (values) => tamed(operator(left(values), right(values)));
}

function compile(node: MathNode, reader: Reader, depth: number): Valuer {
  reader.nodes += 1;
  if (reader.nodes > MOST_NODES || depth > DEEPEST)
    return refuse(said("numbers.formula.the-formula-is-too-long-or"));
  switch (node.type) {
    case "ConstantNode": {
      const { value } = node as unknown as { value: unknown };
      if (typeof value !== "number" || !Number.isFinite(value))
        return refuse(said("numbers.formula.a-formula-holds-numbers-only"));
      const constant = exact(value);
      return () => constant;
    }
    case "SymbolNode": {
      const { name } = node as unknown as { name: string };
      const constant = Object.hasOwn(CONSTANTS, name) ? CONSTANTS[name] : undefined;
      if (constant !== undefined) return () => fromFloat(constant);
      reader.names.add(name);
      return (values) =>
        values.get(name) ?? refuse(said("numbers.formula.the-formula-needs-a-value-for", { name }));
    }
    case "ParenthesisNode":
      return compile((node as unknown as { content: MathNode }).content, reader, depth + 1);
    case "OperatorNode":
      return compileOperator(node as never, reader, depth);
    case "FunctionNode":
      return compileCall(node as never, reader, depth);
    default:
      return refuse(said("numbers.formula.a-formula-may-hold-numbers-names"));
  }
}

/**
 * Reads a formula such as `b + 0.9 - 1.4` or `sqrt(h) * 2.08`. Bounded in length and depth; it can reach nothing.
 * @example readFormula("2 +").ok → false
 */
export function readFormula(text: string): FormulaReading {
  if (text.length > LONGEST)
    return {
      ok: false,
      problem: said("numbers.formula.a-formula-has-characters-at-most", { most: LONGEST }),
    };
  const reader: Reader = { names: new Set(), nodes: 0 };
  try {
    const value = compile(parse(text), reader, 0);
    return { ok: true, formula: { names: [...reader.names], value } };
  } catch (error) {
    const problem =
      error instanceof FormulaProblem ? error.problem : said("numbers.formula.the-formula-cannot-be-read");
    return { ok: false, problem };
  }
}
