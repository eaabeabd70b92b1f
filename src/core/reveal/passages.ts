/** A passage of a rich text that something is said about. */
export interface Passage {
  /** Its words, as they were written. */
  readonly words: string;
}

const escaped = (text: string): string =>
  text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;");

/** Where words stand in rich text, outside of its tags; -1: nowhere, or only across tags. */
function placeIn(rich: string, words: string): number {
  const wanted = escaped(words.trim());
  if (wanted === "") return -1;
  for (let from = rich.indexOf(wanted); from !== -1; from = rich.indexOf(wanted, from + 1)) {
    // Within a tag, the last thing before it that opens or closes one is an opening.
    if (rich.lastIndexOf("<", from) <= rich.lastIndexOf(">", from)) return from;
  }
  return -1;
}

/**
 * Rich text with the passages marked that something is said about, each with its number, and which of them were found. What
 * was written with a change of its look in between is not found, and nothing is marked for it.
 * @example withPassages("<p>one two</p>", []) → { rich: "<p>one two</p>", found: [] }
 */
export function withPassages(
  rich: string,
  passages: readonly Passage[],
): { readonly rich: string; readonly found: readonly boolean[] } {
  const places = passages.map(({ words }, i) => {
    const from = placeIn(rich, words);
    return { i, from, to: from + escaped(words.trim()).length };
  });
  const taken: { i: number; from: number; to: number }[] = [];
  for (const place of places) {
    const isFree = taken.every(({ from, to }) => place.to <= from || place.from >= to);
    if (place.from !== -1 && isFree) taken.push(place);
  }
  let marked = rich;
  for (const { i, from, to } of [...taken].sort((a, b) => b.from - a.from)) {
    const passage = `<mark data-passage="${i + 1}">${marked.slice(from, to)}<sup>${i + 1}</sup></mark>`;
    marked = marked.slice(0, from) + passage + marked.slice(to);
  }
  return { rich: marked, found: passages.map((_, i) => taken.some((place) => place.i === i)) };
}
