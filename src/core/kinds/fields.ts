/** What a text is: rich text (a small part of HTML), plain text, a formula in TeX, or the name of a picture. */
export type TextUse = "rich" | "plain" | "formula" | "picture";

/**
 * What the fields of a shape hold, as its kind declares it: texts by their use, shapes within it, or lists of shapes (a
 * shape in brackets). A field that is not declared is never touched, whatever it is called.
 */
export interface FieldUses {
  readonly [field: string]: TextUse | FieldUses | readonly [FieldUses];
}

/** What the questions of a section are about together. */
export const STIMULUS_FIELDS = { text: "rich", figure: "picture" } as const;
/** A sound or a film. */
export const RECORDING_FIELDS = { transcript: "rich" } as const;
/** Every question has these. */
export const QUESTION_FIELDS = {
  text: "rich",
  figure: "picture",
  worked: "rich",
  readMore: "rich",
  stimulus: STIMULUS_FIELDS,
} as const;
/** Every presented question has these. */
export const PRESENTED_FIELDS = {
  text: "rich",
  figure: "picture",
  stimulus: STIMULUS_FIELDS,
  recording: RECORDING_FIELDS,
} as const;
/** What an option, a prompt or an item shows. */
export const CONTENT_FIELDS = { text: "rich", formula: "formula", picture: "picture" } as const;
/** An option as its author writes it. */
export const OPTION_FIELDS = { ...CONTENT_FIELDS, feedback: "rich" } as const;

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * The value with each declared text changed; everything else stays as it is.
 * @example mapFields({ text: "a", marks: 2 }, { text: "rich" }, (text) => `<p>${text}</p>`) → { text: "<p>a</p>", marks: 2 }
 */
export function mapFields<T>(value: T, uses: FieldUses, change: (text: string, use: TextUse) => string): T {
  if (!isObject(value)) return value;
  const changed: Record<string, unknown> = { ...value };
  for (const [field, use] of Object.entries(uses)) {
    if (!Object.hasOwn(value, field)) continue;
    const held = value[field];
    if (typeof use === "string") {
      if (typeof held === "string") changed[field] = change(held, use);
    } else if (Array.isArray(use)) {
      const [each] = use as readonly [FieldUses];
      if (Array.isArray(held)) changed[field] = held.map((item) => mapFields(item, each, change));
    } else changed[field] = mapFields(held, use as FieldUses, change);
  }
  return changed as T;
}

/**
 * The declared texts of one use, in their order.
 * @example fieldsOf({ text: "<p>a</p>", marks: 2 }, { text: "rich" }, "rich") → ["<p>a</p>"]
 */
export function fieldsOf(value: unknown, uses: FieldUses, wanted: TextUse): string[] {
  const found: string[] = [];
  mapFields(value, uses, (text, use) => {
    if (use === wanted) found.push(text);
    return text;
  });
  return found;
}
