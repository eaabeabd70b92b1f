/** A passage of a rich text that something is said about. */
export interface Passage {
  /** Its words, as they were written. */
  readonly words: string;
  /** Where they stand in the text, in characters; absent: at the first place where the words stand. */
  readonly from?: number | undefined;
}

const ENTITY = /^&(#\d{1,7}|#x[\da-f]{1,6}|[a-z]{1,8});/i;
const NAMED: Readonly<Record<string, string>> = {
  amp: "&",
  lt: "<",
  gt: ">",
  quot: '"',
  nbsp: "\u00a0",
  apos: "'",
};

function decoded(entity: string): string {
  const name = entity.slice(1, -1);
  if (!name.startsWith("#")) return NAMED[name] ?? entity;
  const code =
    name[1] === "x" || name[1] === "X" ? Number.parseInt(name.slice(2), 16) : Number(name.slice(1));
  return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : entity;
}

/** A run of rich text that is no tag: where it lies, and what it says. */
interface Run {
  readonly at: number;
  /** As it stands in the rich text, unit by unit: a character, or an entity that says one. */
  readonly units: readonly string[];
  readonly text: string;
}

const FORMULA = "<!--formula ";
const FORMULA_END = "<!--/formula-->";

/** The text of rich text without its tags and drawn formulas, run by run. Goes through it once. */
function runsOf(rich: string): Run[] {
  const runs: Run[] = [];
  let at = 0;
  while (at < rich.length) {
    const open = rich.indexOf("<", at);
    const close = open === -1 ? -1 : rich.indexOf(">", open);
    const end = close === -1 ? rich.length : open;
    if (end > at) {
      const units: string[] = [];
      let text = "";
      for (let i = at; i < end; ) {
        const entity = rich[i] === "&" ? ENTITY.exec(rich.slice(i, Math.min(end, i + 12)))?.[0] : undefined;
        const says = entity ? decoded(entity) : (rich[i] ?? "");
        // Offsets count as the browser counts: a character beyond the first plane is two.
        units.push(entity ?? says);
        for (let more = 1; more < says.length; more += 1) units.push("");
        text += says;
        i += entity?.length ?? 1;
      }
      runs.push({ at, units, text });
    }
    at = close === -1 ? rich.length : close + 1;
    // Drawn or not, a formula is no text: offsets are the same in both.
    if (open !== -1 && rich.startsWith(FORMULA, open)) {
      const ended = rich.indexOf(FORMULA_END, at);
      if (ended !== -1) at = ended + FORMULA_END.length;
    }
  }
  return runs;
}

/**
 * The text of rich text as offsets count in it: every character that is no tag, none left out and none put together.
 * @example passageText("<p>one &amp; </p><p>two</p>") → "one & two"
 */
export const passageText = (rich: string): string =>
  runsOf(rich)
    .map(({ text }) => text)
    .join("");

/** Where a passage stands in a text; null: nowhere. */
function placeOf(text: string, { words, from }: Passage): { from: number; to: number } | null {
  if (words.trim() === "") return null;
  if (from !== undefined && text.startsWith(words, from)) return { from, to: from + words.length };
  const wanted = words.trim();
  const found = text.indexOf(wanted);
  return found === -1 ? null : { from: found, to: found + wanted.length };
}

/**
 * Rich text with the passages marked that something is said about, each with its number, and which of them were found. A
 * passage may run over changes of look and over paragraphs; where passages overlap, what they share carries both numbers.
 * @example withPassages("<p>one two</p>", []) → { rich: "<p>one two</p>", found: [] }
 */
export function withPassages(
  rich: string,
  passages: readonly Passage[],
): { readonly rich: string; readonly found: readonly boolean[] } {
  const runs = runsOf(rich);
  const text = runs.map((run) => run.text).join("");
  const places = passages.map((passage) => placeOf(text, passage));
  if (places.every((place) => place === null)) return { rich, found: places.map(() => false) };
  const pieces: string[] = [];
  let copied = 0;
  let offset = 0;
  for (const run of runs) {
    pieces.push(rich.slice(copied, run.at));
    const raw = run.units.join("");
    pieces.push(markedRun(run, offset, places));
    copied = run.at + raw.length;
    offset += run.text.length;
  }
  pieces.push(rich.slice(copied));
  return { rich: pieces.join(""), found: places.map((place) => place !== null) };
}

type Places = readonly ({ readonly from: number; readonly to: number } | null)[];

/** A run with what of the passages lies in it. @param offset where it begins in the text */
function markedRun({ units, text }: Run, offset: number, places: Places): string {
  const end = offset + text.length;
  const edges = new Set([offset, end]);
  for (const place of places) {
    if (!place || place.to <= offset || place.from >= end) continue;
    edges.add(Math.max(offset, place.from));
    edges.add(Math.min(end, place.to));
  }
  const sorted = [...edges].sort((a, b) => a - b);
  return sorted
    .slice(0, -1)
    .map((from, i) => {
      const to = sorted[i + 1] ?? end;
      const raw = units.slice(from - offset, to - offset).join("");
      const inside = places.flatMap((place, number) =>
        place && place.from <= from && place.to >= to ? [number + 1] : [],
      );
      if (inside.length === 0) return raw;
      const ends = inside.filter((number) => places[number - 1]?.to === to);
      const numbers = ends.map((number) => `<sup>${number}</sup>`).join("");
      return `<mark data-passage="${inside.join(" ")}">${raw}${numbers}</mark>`;
    })
    .join("");
}
