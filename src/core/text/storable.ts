/** Control characters that no text has a use for: all but tab, line feed and carriage return. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: they are what is looked for
const CONTROL = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/g;
/** Half of a surrogate pair, which is no character. */
const HALF = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
/** Marks that turn the direction of writing, or cannot be seen: in a name they only mislead. */
const UNSEEN = /[\u00ad\u061c\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff]/g;

/**
 * A text as it can be stored and sent on: without control characters, and with U+FFFD for what is half a character.
 * @example storable("a\u0000b") → "ab"
 */
export const storable = (text: string): string => text.replace(CONTROL, "").replace(HALF, "\ufffd");

/**
 * A name as it can be shown among others: storable, on one line, and with nothing in it that cannot be seen.
 * @example nameText("a\u202Eb") → "ab"
 */
export const nameText = (text: string): string =>
  storable(text).replace(UNSEEN, "").replace(/\s+/g, " ").trim();

/**
 * Anything that came as JSON, with every text in it, also the names of fields, storable.
 * @example storableValue({ text: "a\u0000b" }) → { text: "ab" }
 */
export function storableValue(value: unknown): unknown {
  if (typeof value === "string") return storable(value);
  if (Array.isArray(value)) return value.map(storableValue);
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([name, each]) => [storable(name), storableValue(each)]),
  );
}
