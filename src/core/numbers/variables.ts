import { type Exact, exact } from "./exact";
import { plainWriting } from "./read-number";
import type { AttemptSeed } from "./seeded";

/** A number that differs from attempt to attempt: from a range with a step, or from a list. */
export type Variable =
  | {
      readonly name: string;
      readonly from: number | string;
      readonly to: number | string;
      readonly step: number | string;
    }
  | { readonly name: string; readonly list: readonly (number | string)[] };

/** The most values a range may have. */
export const MOST_VALUES = 100_000;

const decimalsOf = (value: number | string): number => /\.(\d+)$/.exec(String(value))?.[1]?.length ?? 0;

/**
 * How many values a variable can take; 0 when its range makes no sense.
 * @example valueCount({ name: "h", from: 1, to: 2, step: 0.5 }) → 3
 */
export function valueCount(variable: Variable): number {
  if ("list" in variable) return variable.list.length;
  const step = exact(variable.step);
  if (step.n === 0n || step.s < 0n) return 0;
  const steps = exact(variable.to).sub(exact(variable.from)).div(step).floor();
  return steps.s < 0n ? 0 : Number(steps.n) + 1;
}

export interface DrawnVariable {
  readonly value: Exact;
  /** As it stands in the text, with the decimals of its step: "4.80". */
  readonly text: string;
}

/** The value of a variable in one attempt. Each value is drawn equally often over many seeds. */
export const drawVariable = (variable: Variable, seed: AttemptSeed, question: string): DrawnVariable =>
  valueAt(variable, Math.floor(seed.chance("variable", question, variable.name)() * valueCount(variable)));

/**
 * One of the values that a variable can take, counted from 0.
 * @example valueAt({ name: "h", from: 1, to: 2, step: 0.5 }, 1) → { value: exact("3/2"), text: "1.5" }
 */
export function valueAt(variable: Variable, index: number): DrawnVariable {
  if ("list" in variable) {
    const item = variable.list[index] ?? 0;
    return {
      value: exact(item),
      text: typeof item === "string" && !item.includes("/") ? item : plainWriting(exact(item)),
    };
  }
  const value = exact(variable.from).add(exact(variable.step).mul(index));
  const decimals = Math.max(decimalsOf(variable.step), decimalsOf(variable.from));
  const plain = plainWriting(value);
  const [whole = plain, part = ""] = plain.split(".");
  return {
    value,
    text: decimals > 0 && !plain.includes("/") ? `${whole}.${part.padEnd(decimals, "0")}` : plain,
  };
}

/**
 * Puts values in place of `{name}` in a text; other braces stay.
 * @example fillIn("a height of {h} m", new Map([["h", "1.5"]])) → "a height of 1.5 m"
 */
export const fillIn = (text: string, values: ReadonlyMap<string, string>): string =>
  text.replace(/\{([A-Za-z]\w*)\}/g, (whole, name: string) => values.get(name) ?? whole);
