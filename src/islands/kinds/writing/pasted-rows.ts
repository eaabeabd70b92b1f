import { escaped } from "@/core/text/plain-text";

/**
 * The cells of lines that were copied from a spreadsheet or a list; null: it is one line.
 * @example rowsIn("N\tnorth\nE\teast") → [["N", "north"], ["E", "east"]]
 */
export const rowsIn = (text: string): string[][] | null => {
  const lines = text
    .replace(/\r/g, "")
    .split("\n")
    .filter((line) => line.trim() !== "");
  return lines.length > 1 || text.includes("\t")
    ? lines.map((line) => line.split("\t").map((cell) => cell.trim()))
    : null;
};

/**
 * Items with the first cells of pasted rows as their texts, from one of them on: those that stand there take them, more are
 * made, and of what follows only what was written stays.
 */
export function withPasted<I extends { readonly text: string }>(
  items: readonly I[],
  place: number,
  rows: readonly (readonly string[])[],
  made: () => Omit<I, "text">,
): I[] {
  const texts = rows.map(([text = ""]) => text).filter((text) => text !== "");
  const pasted = texts.map((text, i) => ({ ...(items[place + i] ?? made()), text: escaped(text) }) as I);
  return [
    ...items.slice(0, place),
    ...pasted,
    ...items.slice(place + texts.length).filter(({ text }) => text !== ""),
  ];
}
