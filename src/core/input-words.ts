import * as yup from "yup";
import { type Coded, said } from "./said";

/** What a check of an input says, with the terms it had. */
const says =
  (code: string, ...names: readonly string[]) =>
  (terms: object): Coded => {
    const given = terms as Readonly<Record<string, unknown>>;
    const value = (name: string) =>
      Array.isArray(given[name]) ? given[name].join(", ") : String(given[name]);
    return said(code, Object.fromEntries(names.map((name) => [name, value(name)])));
  };

/**
 * Makes the checks of every input say what they mean as codes, where a shape has no words of its own. Done once, before any
 * shape is used.
 */
export function sayInputWords(): void {
  yup.setLocale({
    mixed: {
      default: says("input.not-valid"),
      required: says("input.missing"),
      defined: says("input.missing"),
      notNull: says("input.missing"),
      oneOf: says("input.one-of", "values"),
      notOneOf: says("input.not-one-of", "values"),
      notType: says("input.type", "type"),
    },
    string: {
      length: says("input.length", "length"),
      min: says("input.least-characters", "min"),
      max: says("input.most-characters", "max"),
      matches: says("input.form"),
      email: says("input.mail-address"),
      url: says("input.web-address"),
      uuid: says("input.identifier"),
      trim: says("input.trimmed"),
    },
    number: {
      min: says("input.least", "min"),
      max: says("input.most", "max"),
      lessThan: says("input.less-than", "less"),
      moreThan: says("input.more-than", "more"),
      integer: says("input.integer"),
    },
    boolean: { isValue: says("input.value", "value") },
    object: { noUnknown: says("input.unknown-fields", "unknown") },
    array: {
      min: says("input.least-items", "min"),
      max: says("input.most-items", "max"),
      length: says("input.item-count", "length"),
    },
  });
}
