import type { AnySchema, SchemaDescription, SchemaFieldDescription } from "yup";
import { KIND_NAMES } from "../kinds/answering";
import { marking } from "../kinds/marking";
import { quizFrame } from "./quiz-file";

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

/**
 * The JSON Schema (2020-12) of a quiz file, made from the shapes that read it. It says what can be said of each field by
 * itself; what fields must be to each other (marks that add up, names that exist) only reading the file tells.
 */
export function quizFileSchema(): JsonSchema {
  const frame = described(quizFrame) as {
    properties: Record<string, { items?: { properties: Record<string, unknown> } }>;
  };
  const sections = frame.properties.sections;
  const section = sections?.items;
  return {
    $schema: "https://json-schema.org/draft/2020-12/schema",
    title: "Shizuka quiz file, version 1",
    ...frame,
    properties: {
      ...frame.properties,
      sections: {
        ...sections,
        items: {
          ...section,
          properties: {
            ...section?.properties,
            questions: {
              type: "array",
              minItems: 1,
              items: { anyOf: KIND_NAMES.map((kind) => ({ $ref: `#/$defs/${kind}` })) },
            },
          },
        },
      },
    },
    $defs: Object.fromEntries(
      KIND_NAMES.map((kind) => [kind, described(marking(kind).shape as unknown as AnySchema)]),
    ),
  };
}
