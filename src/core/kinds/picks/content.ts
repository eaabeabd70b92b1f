import type { AttemptSeed } from "../../numbers/seeded";
import { type Said, said, saidTogether } from "../../said";
import { formulaInWords } from "../../text/formula-words";
import { textInWords } from "../../text/plain-text";

/** What an option shows: a text, a formula or a picture, or some of them. */
export interface OptionContent {
  /** Rich text; "" where a formula or a picture says it all. */
  readonly text: string;
  /** TeX, without dollar signs. */
  readonly formula?: string | undefined;
  /** The id of one of the quiz's pictures. */
  readonly picture?: string | undefined;
  /** What the picture shows, in words: put beside it when an attempt is planned, never part of a question's file. */
  readonly alt?: string | undefined;
  /** The formula as HTML: added by the server to what a student gets, never part of a quiz. */
  readonly drawn?: string | undefined;
}

/** An option as a student gets it: its name says nothing about where or how it was written. */
export interface PresentedOption extends OptionContent {
  readonly id: string;
}

/** What a student sees of a content, field by field; its picture by the name that it has in the attempt. */
export const presentContent = (
  { text, formula, picture, alt }: OptionContent,
  seed: AttemptSeed,
): OptionContent => ({
  text,
  ...(formula === undefined ? {} : { formula }),
  ...(picture === undefined ? {} : { picture: seed.picture(picture) }),
  ...(alt === undefined ? {} : { alt }),
});

/**
 * A content in one line: its text and its formula in words, else what its picture shows.
 * @example contentInWords({ text: "<p>ebb</p>" }) → "ebb"
 */
export const contentInWords = ({ text, formula, picture, alt }: OptionContent): Said =>
  saidTogether([textInWords(text), formula === undefined ? "" : formulaInWords(formula)], "spaces") ||
  alt ||
  (picture ? said("kinds.picks.options.a-picture") : "");

/**
 * A question of any kind, with what each picture shows beside the picture, wherever an option, a prompt or an item has
 * one.
 */
export function withPictureWords<T>(shown: T, words: ReadonlyMap<string, string>): T {
  if (Array.isArray(shown)) return shown.map((each) => withPictureWords(each, words)) as T;
  if (typeof shown !== "object" || shown === null) return shown;
  const inside = Object.entries(shown).map(([field, value]) => [field, withPictureWords(value, words)]);
  const alt = "text" in shown && "picture" in shown ? words.get(String(shown.picture)) : undefined;
  return Object.fromEntries(alt ? [...inside, ["alt", alt]] : inside);
}
