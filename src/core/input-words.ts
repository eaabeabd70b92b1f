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
      default: says("base.input.not-valid"),
      required: says("base.input.missing"),
      defined: says("base.input.missing"),
      notNull: says("base.input.missing"),
      oneOf: says("base.input.one-of", "values"),
      notOneOf: says("base.input.not-one-of", "values"),
      notType: says("base.input.type", "type"),
    },
    string: {
      length: says("base.input.length", "length"),
      min: says("base.input.least-characters", "min"),
      max: says("base.input.most-characters", "max"),
      matches: says("base.input.form"),
      email: says("base.input.mail-address"),
      url: says("base.input.web-address"),
      uuid: says("base.input.identifier"),
      trim: says("base.input.trimmed"),
    },
    number: {
      min: says("base.input.least", "min"),
      max: says("base.input.most", "max"),
      lessThan: says("base.input.less-than", "less"),
      moreThan: says("base.input.more-than", "more"),
      integer: says("base.input.integer"),
    },
    boolean: { isValue: says("base.input.value", "value") },
    object: { noUnknown: says("base.input.unknown-fields", "unknown") },
    array: {
      min: says("base.input.least-items", "min"),
      max: says("base.input.most-items", "max"),
      length: says("base.input.item-count", "length"),
    },
  });
}
