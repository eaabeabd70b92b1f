const ENTITIES: Record<string, string> = {
  amp: "&",
  lt: "<",
  gt: ">",
  quot: '"',
  "#39": "'",
  nbsp: "\u00a0",
};

/** Rich text as one line of plain text, for summaries, titles and speech. */
export function plainText(rich: string): string {
  // Most options and many answers are plain already.
  if (!/[<&]|[^\S ]| {2}|^ | $/.test(rich)) return rich;
  return rich
    .replace(/<!--formula (.*?)-->.*?<!--\/formula-->/gs, "$1")
    .replace(/<\/(p|li|tr|h\d|div)>|<br\s*\/?>/gi, " ")
    .replace(/<[^>]*>/g, "")
    .replace(/&(#39|[a-z]+);/g, (whole, name: string) => ENTITIES[name] ?? whole)
    .replace(/\s+/g, " ")
    .trim();
}

/** The first words of a text, cut at a space, with an ellipsis when something is left out. */
export function firstWords(text: string, length: number): string {
  if (text.length <= length) return text;
  const cut = text.slice(0, length);
  const space = cut.lastIndexOf(" ");
  return `${cut.slice(0, space > length / 2 ? space : length).trimEnd()} …`;
}
