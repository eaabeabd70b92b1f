import type { AnySchema, SchemaDescription, SchemaFieldDescription } from "yup";
import { KIND_NAMES } from "../kinds/answering";
import { marking } from "../kinds/marking";
import { quizFrame } from "./quiz-file";
import { SETTINGS } from "./rules";

/** A JSON Schema, as far as it is made here. */
export type JsonSchema = { readonly [field: string]: unknown };

const testsOf = (description: SchemaDescription) =>
  Object.fromEntries(description.tests.map(({ name, params }) => [name ?? "", params ?? {}]));

function boundsOf(description: SchemaDescription, least: string, most: string): Record<string, unknown> {
  const tests = testsOf(description) as Record<string, Record<string, unknown>>;
  return {
    ...(tests.min?.min === undefined ? {} : { [least]: tests.min.min }),
    ...(tests.max?.max === undefined ? {} : { [most]: tests.max.max }),
    ...(tests.min?.more === undefined ? {} : { exclusiveMinimum: tests.min.more }),
  };
}

/** Numbers that may be written exactly, such as "1/3", and formulas: what the file calls mixed. */
function mixedSchema(description: SchemaDescription): JsonSchema {
  const tests = testsOf(description);
  if ("exact" in tests) return { type: ["number", "string"] };
  if ("when" in tests) {
    const on = {
      type: "object",
      properties: { on: { type: "string", format: "date-time" } },
      required: ["on"],
    };
    return { anyOf: [{ type: "string" }, on] };
  }
  return { type: ["number", "string"] };
}

function schemaOf(field: SchemaFieldDescription): JsonSchema {
  const description = field as SchemaDescription & {
    fields?: Record<string, SchemaFieldDescription>;
    innerType?: SchemaFieldDescription;
  };
  const choices = description.oneOf.length > 0 ? { enum: description.oneOf } : {};
  switch (description.type) {
    case "object": {
      const fields = Object.entries(description.fields ?? {});
      if (fields.length === 0) return { type: "object" };
      const required = fields
        .filter(([, each]) => "optional" in each && !each.optional)
        .map(([name]) => name);
      return {
        type: "object",
        properties: Object.fromEntries(fields.map(([name, each]) => [name, schemaOf(each)])),
        ...(required.length > 0 ? { required } : {}),
        additionalProperties: false,
      };
    }
    case "array":
      return {
        type: "array",
        ...(description.innerType ? { items: schemaOf(description.innerType) } : {}),
        ...boundsOf(description, "minItems", "maxItems"),
      };
    case "string": {
      const pattern = (testsOf(description).matches as { regex?: RegExp } | undefined)?.regex;
      // JSON Schema knows no flags: a pattern that has some is left to the reader of the file.
      const plain = pattern && pattern.flags === "" ? { pattern: pattern.source } : {};
      return { type: "string", ...choices, ...plain, ...boundsOf(description, "minLength", "maxLength") };
    }
    case "number": {
      const type = "integer" in testsOf(description) ? "integer" : "number";
      return { type, ...choices, ...boundsOf(description, "minimum", "maximum") };
    }
    case "boolean":
      return { type: "boolean" };
    default:
      return mixedSchema(description);
  }
}

const described = (schema: AnySchema) => schemaOf(schema.describe() as SchemaFieldDescription);

interface ObjectSchema {
  readonly properties: Record<string, JsonSchema>;
  readonly required?: readonly string[];
}

/** Those of an object's fields that are wanted. */
const half = (schema: ObjectSchema, wanted: (name: string) => boolean): JsonSchema => ({
  ...schema,
  properties: Object.fromEntries(Object.entries(schema.properties).filter(([name]) => wanted(name))),
  required: (schema.required ?? []).filter(wanted),
});

const OWN: ReadonlySet<string> = new Set(SETTINGS);

/**
 * The JSON Schema (2020-12) of a quiz file in both its versions, made from the shapes that read it. It says what can be
 * said of each field by itself; what fields must be to each other (marks that add up, names that exist) only reading the
 * file tells.
 */
export function quizFileSchema(): JsonSchema {
  const frame = described(quizFrame) as unknown as ObjectSchema;
  const { sections, rules, ...others } = frame.properties;
  const section = (sections as { items: ObjectSchema }).items;
  const questions = {
    type: "array",
    minItems: 1,
    items: { anyOf: KIND_NAMES.map((kind) => ({ $ref: `#/$defs/${kind}` })) },
  };
  const properties = { ...others, sections: { $ref: "#/$defs/sections" } };
  const all = rules as unknown as ObjectSchema;
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: "Shizuka quiz file",
    oneOf: [
      {
        ...frame,
        title: "version 2",
        properties: {
          ...properties,
          version: { const: 2 },
          settings: half(all, (name) => OWN.has(name)),
          rules: half(all, (name) => !OWN.has(name)),
        },
        required: [...(frame.required ?? []), "settings"],
      },
      {
        ...frame,
        title: "version 1",
        properties: { ...properties, version: { const: 1 }, rules: all },
      },
    ],
    $defs: {
      sections: {
        ...sections,
        items: { ...section, properties: { ...section.properties, questions } },
      },
      ...Object.fromEntries(
        KIND_NAMES.map((kind) => [kind, described(marking(kind).shape as unknown as AnySchema)]),
      ),
    },
  };
}
