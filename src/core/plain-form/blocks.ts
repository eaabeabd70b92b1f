import { isRecord } from "../kinds/answer-reading";
import { oneTypoApart } from "../text/matching";

/** The words with which a line can begin that is no text. */
export const FIELD_WORDS = [
  "quiz",
  "language",
  "brief",
  "reference",
  "section",
  "draw",
  "about",
  "marks",
  "worked",
  "more",
  "right",
  "wrong",
  "keep",
  "counts",
  "picks",
  "answer",
  "said",
  "accept",
  "compare",
  "gap",
  "choose",
  "pair",
  "extra",
  "use",
  "order",
  "value",
  "number",
  "part",
  "within",
  "unit",
  "mistake",
  "comma",
  "essay",
  "model",
  "files",
  "most",
  "largest",
  "beside",
  "declare",
  "json",
] as const;

export type FieldWord = (typeof FIELD_WORDS)[number];

/** A field: `wrong 1/2: the flood` is the word "wrong", with "1/2", and the lines ["the flood"]. */
export interface Field {
  readonly word: FieldWord;
  /** What stands between the word and the colon. */
  readonly qualifier: string;
  readonly lines: readonly string[];
  /** The number of its first line, from 1. */
  readonly line: number;
}

/** Lines that no empty line parts: a text, then fields. */
export interface Block {
  readonly text: readonly string[];
  readonly fields: readonly Field[];
  readonly line: number;
  /** Lines after a field that are no field and go on with none. */
  readonly stray: readonly number[];
  /** Lines of text below the first that begin with a word of the form, mistyped. */
  readonly doubtful: readonly { readonly line: number; readonly word: FieldWord }[];
}

const FIELD = new RegExp(`^(${FIELD_WORDS.join("|")})((?: [^:]{1,60})?):(?:[ \\t](.*))?$`, "i");

/** What a `json:` line holds; null: it is no object. */
export function jsonIn({ lines }: Field): object | null {
  try {
    const value: unknown = JSON.parse(lines.join("\n"));
    return isRecord(value) ? value : null;
  } catch {
    return null;
  }
}

/** @example isField("marks: 2") → true */
export const isField = (line: string): boolean => FIELD.test(line);

/** The word that a line seems to begin with, mistyped. */
function mistyped(line: string): FieldWord | undefined {
  const [, word] = /^([a-z]{3,12})(?: [^:]{1,20})?:(?:\s|$)/i.exec(line) ?? [];
  return word === undefined ? undefined : FIELD_WORDS.find((each) => oneTypoApart(word.toLowerCase(), each));
}

/** A backslash in front says: this is text, whatever it looks like. */
const unescaped = (line: string): string => (line.startsWith("\\") ? line.slice(1) : line);

/**
 * A text in the plain form as its blocks.
 * @example blocksIn("Which?\nright: this").map(({ text }) => text) → [["Which?"]]
 */
export function blocksIn(text: string): Block[] {
  const blocks: Block[] = [];
  let words: string[] = [];
  let fields: { word: FieldWord; qualifier: string; lines: string[]; line: number }[] = [];
  let stray: number[] = [];
  let doubtful: { line: number; word: FieldWord }[] = [];
  let begun = 0;
  const end = () => {
    if (begun > 0) blocks.push({ text: words, fields, line: begun, stray, doubtful });
    words = [];
    fields = [];
    stray = [];
    doubtful = [];
    begun = 0;
  };
  for (const [i, raw] of text.replace(/\r\n?/g, "\n").split("\n").entries()) {
    const number = i + 1;
    if (raw.trim() === "") {
      end();
      continue;
    }
    if (begun === 0) begun = number;
    const isFurther = /^(?: {2}|\t)/.test(raw);
    const line = raw.trim();
    const last = fields.at(-1);
    const [, word, qualifier = "", value = ""] = isFurther ? [] : (FIELD.exec(line) ?? []);
    if (word !== undefined) {
      const lines = value.trim() === "" ? [] : [unescaped(value.trim())];
      fields.push({
        word: word.toLowerCase() as FieldWord,
        qualifier: qualifier.trim(),
        lines,
        line: number,
      });
    } else if (last && isFurther) last.lines.push(unescaped(line));
    else if (last) stray.push(number);
    else {
      const meant = words.length > 0 ? mistyped(line) : undefined;
      if (meant) doubtful.push({ line: number, word: meant });
      words.push(unescaped(line));
    }
  }
  end();
  return blocks;
}

/**
 * Lines of a text as they can stand in a block.
 * @example escapedLine("marks: none") → "\\marks: none"
 */
export const escapedLine = (line: string): string =>
  isField(line) || mistyped(line) !== undefined || line.startsWith("\\") ? `\\${line}` : line;

/** A field as its lines. */
export const fieldLines = (word: FieldWord, qualifier: string, lines: readonly string[]): string[] => {
  const [first = "", ...rest] = lines;
  const head = `${word}${qualifier === "" ? "" : ` ${qualifier}`}:`;
  const value = first.startsWith("\\") ? `\\${first}` : first;
  return [
    value === "" ? head : `${head} ${value}`,
    ...rest.map((line) => `  ${line.startsWith("\\") ? `\\${line}` : line}`),
  ];
};
