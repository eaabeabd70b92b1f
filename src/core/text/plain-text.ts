import { type Said, saidTogether } from "../said";
import { formulaInWords } from "./formula-words";

const ENTITIES: Record<string, string> = {
  amp: "&",
  lt: "<",
  gt: ">",
  quot: '"',
  "#39": "'",
  nbsp: "\u00a0",
};

const FORMULA = "<!--formula ";
const FORMULA_END = "<!--/formula-->";
/** Tags after which another line or cell begins. */
const BREAKS = /^<(\/(p|li|tr|t[dh]|caption|h\d|div)|br\s*\/?)>$/i;

/**
 * A text without its tags, and with each drawn formula as its TeX. Goes through it once, whatever it holds: a pattern that
 * looks for an end from every beginning takes minutes for a text of nothing but beginnings.
 */
function withoutTags(rich: string): string {
  const pieces: string[] = [];
  let at = 0;
  let hasFormulas = rich.includes(FORMULA_END);
  for (;;) {
    const from = rich.indexOf("<", at);
    const to = from === -1 ? -1 : rich.indexOf(">", from);
    // What is never closed is not a tag.
    if (to === -1) return pieces.join("") + rich.slice(at);
    pieces.push(rich.slice(at, from));
    at = to + 1;
    if (hasFormulas && rich.startsWith(FORMULA, from)) {
      const end = rich.indexOf(FORMULA_END, to);
      hasFormulas = end !== -1;
      if (end !== -1) {
        pieces.push(rich.slice(from + FORMULA.length, rich.indexOf("-->", from)));
        at = end + FORMULA_END.length;
      }
    } else if (to - from < 12 && BREAKS.test(rich.slice(from, at))) pieces.push(" ");
  }
}

/**
 * Rich text as one line in words: its formulas as they are said.
 * @example textInWords("<p>one</p><p>two</p>") → "one two"
 */
export const textInWords = (rich: string): Said =>
  rich.includes(FORMULA_END)
    ? saidTogether(
        rich.split(FORMULA_END).flatMap((piece, i, pieces): Said[] => {
          const from = i < pieces.length - 1 ? piece.indexOf(FORMULA) : -1;
          if (from === -1) return [plainText(piece)];
          const tex = piece.slice(from + FORMULA.length, piece.indexOf("-->", from));
          return [plainText(piece.slice(0, from)), formulaInWords(plainText(tex))];
        }),
        "spaces",
      )
    : plainText(rich);

/**
 * Rich text as one line of plain text, for summaries, titles and speech.
 * @example plainText("<p>one &amp; <b>two</b></p>") → "one & two"
 */
export function plainText(rich: string): string {
  // Most options and many answers are plain already.
  if (!/[<&]|[^\S ]| {2}|^ | $/.test(rich)) return rich;
  return withoutTags(rich)
    .replace(/&(#39|[a-z]{1,8});/g, (whole, name: string) => ENTITIES[name] ?? whole)
    .replace(/\s+/g, " ")
    .trim();
}

/**
 * A plain text as rich text that says just that.
 * @example escaped("a < b") → "a &lt; b"
 */
export const escaped = (text: string): string =>
  text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;");

/**
 * Rich text as one line that still has its formulas drawn: HTML of escaped words and of formulas, nothing else.
 * @example lineWithFormulas("<p>one</p><p>two</p>") → "one two"
 */
export function lineWithFormulas(rich: string): string {
  if (!rich.includes(FORMULA_END)) return escaped(plainText(rich));
  return rich
    .split(FORMULA_END)
    .map((piece, i, pieces) => {
      const from = i < pieces.length - 1 ? piece.indexOf(FORMULA) : -1;
      const before = escaped(plainText(from === -1 ? piece : piece.slice(0, from)));
      if (from === -1) return before;
      const drawn = piece.slice(piece.indexOf("-->", from) + 3);
      return `${before} ${drawn} `;
    })
    .join("")
    .trim();
}

/**
 * The first words of a text, cut at a space, with an ellipsis when something is left out.
 * @example firstWords("one two three", 8) → "one two …"
 */
export function firstWords(text: string, length: number): string {
  if (text.length <= length) return text;
  const cut = text.slice(0, length);
  const space = cut.lastIndexOf(" ");
  return `${cut.slice(0, space > length / 2 ? space : length).trimEnd()} …`;
}
