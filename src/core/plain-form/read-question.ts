import { FILE_KINDS } from "../kinds/upload/answer";
import { exact } from "../numbers/exact";
import { type Said, said } from "../said";
import { type Block, type Field, type FieldWord, jsonIn } from "./blocks";
import { nameAt } from "./names";
import { asRich } from "./plain-text";

/** Something in a text in the plain form that is to be put right. */
export interface LineMistake {
  /** The number of the line, from 1. */
  readonly line: number;
  readonly words: Said;
}

/** A question as far as its lines say it, and on which line each of its places is. */
export interface ReadQuestion {
  /** Null: it cannot be told what it is. */
  readonly question: object | null;
  /** By paths as a check of questions names them: "options[1]". */
  readonly lines: ReadonlyMap<string, number>;
  readonly mistakes: readonly LineMistake[];
}

type Kind =
  | "choice"
  | "true-or-false"
  | "short-text"
  | "gaps"
  | "matching"
  | "ordering"
  | "numeric"
  | "essay"
  | "upload"
  | "declaration"
  | "json";

/** Which kind of question a word belongs to, the first of which decides. */
const KIND_OF: { readonly [W in FieldWord]?: Kind } = {
  right: "choice",
  wrong: "choice",
  answer: "true-or-false",
  gap: "gaps",
  choose: "gaps",
  accept: "short-text",
  pair: "matching",
  order: "ordering",
  number: "numeric",
  essay: "essay",
  files: "upload",
  declare: "declaration",
  json: "json",
};

const COMMON: readonly FieldWord[] = ["marks", "worked", "more"];

/** The words that a question of a kind can have beside the common ones. */
const WORDS_OF: { readonly [K in Kind]: readonly FieldWord[] } = {
  choice: ["right", "wrong", "keep", "counts", "picks"],
  "true-or-false": ["answer", "said"],
  "short-text": ["accept", "compare"],
  gaps: ["gap", "choose", "compare"],
  matching: ["pair", "extra", "use", "keep"],
  ordering: ["order", "counts"],
  numeric: ["number", "value", "part", "within", "unit", "mistake", "comma"],
  essay: ["essay", "model"],
  upload: ["files", "most", "largest", "beside", "model"],
  declaration: ["declare"],
  json: [],
};

/** What may stand several times in one question. */
const REPEATED: ReadonlySet<FieldWord> = new Set<FieldWord>([
  "right",
  "wrong",
  "accept",
  "gap",
  "choose",
  "pair",
  "extra",
  "order",
  "value",
  "number",
  "declare",
  "part",
  "within",
  "unit",
  "mistake",
]);

/** What a line means to compare by. */
export const COMPARED = {
  capitals: "caseMatters",
  "no accents": "ignoreAccents",
  "typing mistakes": "typingMistake",
  hyphens: "hyphensMatter",
  articles: "articlesMatter",
} as const;

/**
 * A written number as the quiz file keeps it: whole and decimal ones as numbers, others as they are written.
 * @example asFigure("2.5") → 2.5
 * @example asFigure("1/3") → "1/3"
 */
export const asFigure = (text: string): number | string =>
  text !== "" && String(Number(text)) === text ? Number(text) : text;

const SAYS = " >> ";

class Reader {
  readonly lines = new Map<string, number>();
  readonly mistakes: LineMistake[] = [];

  wrong(line: number, words: Said): void {
    this.mistakes.push({ line, words });
  }

  /** "text >> what is said to who chose it". */
  withFeedback(field: Field): { readonly text: string; readonly feedback?: string } {
    const whole = field.lines.join("\n");
    const at = whole.indexOf(SAYS);
    if (at === -1) return { text: asRich(field.lines) };
    return {
      text: asRich(whole.slice(0, at).split("\n")),
      feedback: asRich(whole.slice(at + SAYS.length).split("\n")),
    };
  }

  /** The share in a qualifier: "1/2". */
  credit(field: Field, rest = field.qualifier): { readonly credit?: number | string } {
    return rest === "" ? {} : { credit: asFigure(rest) };
  }
}

const oneLine = (field: Field): string => field.lines.join(" ").trim();
const list = (text: string, by: string): string[] =>
  text
    .split(by)
    .map((each) => each.trim())
    .filter((each) => each !== "");

type Fields = readonly Field[];
const all = (fields: Fields, word: FieldWord): Field[] => fields.filter((each) => each.word === word);
const first = (fields: Fields, word: FieldWord): Field | undefined =>
  fields.find((each) => each.word === word);
const richOf = (fields: Fields, word: FieldWord): string | undefined => {
  const field = first(fields, word);
  return field && field.lines.length > 0 ? asRich(field.lines) : undefined;
};

/** One of a few words that a line can hold. */
function choiceOf<V>(
  reader: Reader,
  field: Field | undefined,
  values: { readonly [word: string]: V },
): V | undefined {
  if (!field) return undefined;
  const written = oneLine(field).toLowerCase();
  if (Object.hasOwn(values, written)) return values[written];
  reader.wrong(
    field.line,
    said("plain-form.read-question.must-be-one-of", {
      word: field.word,
      words: Object.keys(values).join(", "),
    }),
  );
  return undefined;
}

function options(reader: Reader, fields: Fields): object[] {
  return fields
    .filter(({ word }) => word === "right" || word === "wrong")
    .map((field, place) => {
      reader.lines.set(`options[${place}]`, field.line);
      const terms = list(field.qualifier, " ");
      const share = terms.filter((term) => term !== "last").join(" ");
      return {
        id: nameAt(place),
        ...reader.withFeedback(field),
        ...(field.word === "right" ? { right: true } : {}),
        ...(terms.includes("last") ? { last: true } : {}),
        ...reader.credit(field, share),
      };
    });
}

const RANGE = /^(?:(\d+) to (\d+)|at most (\d+)|at least (\d+))(?: words)?$/;

/** "100 to 200", "at most 200", "at least 100". */
function range(
  reader: Reader,
  field: Field | undefined,
): { readonly least?: number; readonly most?: number } | undefined {
  const written = field ? oneLine(field) : "";
  if (!field || written === "") return undefined;
  const [whole, from, to, most, least] = RANGE.exec(written) ?? [];
  if (whole === undefined) {
    reader.wrong(field.line, said("plain-form.read-question.must-be-a-range", { word: field.word }));
    return undefined;
  }
  const low = from ?? least;
  const high = to ?? most;
  return {
    ...(low === undefined ? {} : { least: Number(low) }),
    ...(high === undefined ? {} : { most: Number(high) }),
  };
}

function compared(reader: Reader, fields: Fields): object {
  const field = first(fields, "compare");
  if (!field) return {};
  const found: Record<string, true> = {};
  for (const term of list(oneLine(field).toLowerCase(), ",")) {
    if (Object.hasOwn(COMPARED, term)) found[COMPARED[term as keyof typeof COMPARED]] = true;
    else
      reader.wrong(
        field.line,
        said("plain-form.read-question.must-be-one-of", {
          word: field.word,
          words: Object.keys(COMPARED).join(", "),
        }),
      );
  }
  return found;
}

function gaps(reader: Reader, fields: Fields): object[] {
  return fields
    .filter(({ word }) => word === "gap" || word === "choose")
    .map((field, place) => {
      reader.lines.set(`gaps[${place}]`, field.line);
      const texts = list(oneLine(field), "|");
      if (field.word === "gap") return { id: field.qualifier, accepted: texts.map((text) => ({ text })) };
      return {
        id: field.qualifier,
        options: texts.map((text, i) => ({
          id: nameAt(i),
          text: asRich([text]),
          ...(i === 0 ? { right: true } : {}),
        })),
      };
    });
}

function pairs(reader: Reader, fields: Fields): object {
  const targets: { id: string; text: string }[] = [];
  const targetOf = (text: string): string => {
    const known = targets.find((each) => each.text === text);
    if (known) return known.id;
    const id = nameAt(targets.length);
    targets.push({ id, text });
    return id;
  };
  const prompts = all(fields, "pair").map((field, place) => {
    reader.lines.set(`prompts[${place}]`, field.line);
    const whole = field.lines.join("\n");
    const at = whole.indexOf(" = ");
    if (at === -1) reader.wrong(field.line, said("plain-form.read-question.a-pair-has-a-sign"));
    const [left, right] = at === -1 ? [whole, ""] : [whole.slice(0, at), whole.slice(at + 3)];
    const target = targetOf(asRich([right]));
    reader.lines.set(`targets[${targets.findIndex(({ id }) => id === target)}]`, field.line);
    return { id: nameAt(place), text: asRich([left]), target };
  });
  for (const field of all(fields, "extra")) {
    reader.lines.set(`targets[${targets.length}]`, field.line);
    targets.push({ id: nameAt(targets.length), text: asRich(field.lines) });
  }
  return { prompts, targets };
}

const FIGURES = /^(\d+) figures?(?: ± (\d+))?$/;

/** "0.05", "1 %", "3 figures". */
function tolerance(reader: Reader, field: Field | undefined): object {
  if (!field) return { rule: "figures", figures: 3 };
  const written = oneLine(field).replace(/^±\s*/, "");
  const [, figures, units] = FIGURES.exec(written) ?? [];
  if (figures !== undefined)
    return {
      rule: "figures",
      figures: Number(figures),
      ...(units === undefined ? {} : { units: Number(units) }),
    };
  const [, share] = /^(\S+) ?%$/.exec(written) ?? [];
  try {
    if (share === undefined) {
      exact(written);
      return { rule: "absolute", within: asFigure(written) };
    }
    const part = exact(share).div(100);
    const decimal = part.valueOf();
    return { rule: "relative", within: exact(decimal).equals(part) ? decimal : part.toFraction() };
  } catch {
    reader.wrong(field.line, said("plain-form.read-question.within-is"));
    return { rule: "figures", figures: 3 };
  }
}

function values(reader: Reader, fields: Fields): object[] {
  return all(fields, "value").map((field, place) => {
    reader.lines.set(`variables[${place}]`, field.line);
    const written = oneLine(field);
    const [, from, to, step] = /^(\S+) to (\S+) by (\S+)$/.exec(written) ?? [];
    if (from !== undefined && to !== undefined && step !== undefined)
      return { name: field.qualifier, from: asFigure(from), to: asFigure(to), step: asFigure(step) };
    return { name: field.qualifier, list: list(written, ";").map(asFigure) };
  });
}

const UNIT_RULES: readonly string[] = ["needed", "printed"];

/** The fields from one `number` line to the next belong to that number. */
function numbers(reader: Reader, fields: Fields): object {
  const begins = fields.flatMap(({ word }, i) => (word === "number" ? [i] : []));
  for (const field of fields.slice(0, begins[0] ?? 0))
    if (["part", "within", "unit", "mistake", "marks"].includes(field.word))
      reader.wrong(
        field.line,
        said("plain-form.read-question.stands-after-its-number", { word: field.word }),
      );
  const parts = begins.map((begin, place) => {
    const own = fields.slice(begin, begins[place + 1] ?? fields.length);
    const field = own[0] as Field;
    reader.lines.set(`parts[${place}]`, field.line);
    for (const word of ["part", "within", "unit", "marks"] as const)
      for (const again of all(own, word).slice(1))
        reader.wrong(again.line, said("plain-form.read-question.stands-once", { word }));
    const text = richOf(own, "part");
    const marks = first(own, "marks");
    const unit = first(own, "unit");
    const [symbol, rule] = unit ? list(oneLine(unit), ",") : [];
    if (unit && rule !== undefined && !UNIT_RULES.includes(rule))
      reader.wrong(
        unit.line,
        said("plain-form.read-question.must-be-one-of", {
          word: unit.word,
          words: UNIT_RULES.join(", "),
        }),
      );
    const mistakes = all(own, "mistake").map((each) => {
      const { text: value, feedback = "" } = reader.withFeedback(each);
      return { value: asFigure(value), feedback, ...reader.credit(each) };
    });
    return {
      id: field.qualifier === "" ? nameAt(place) : field.qualifier,
      ...(text === undefined ? {} : { text }),
      marks: marks ? asFigure(oneLine(marks)) : 1,
      key: asFigure(oneLine(field)),
      tolerance: tolerance(reader, first(own, "within")),
      ...(symbol === undefined ? {} : { unit: symbol }),
      ...(rule === undefined ? {} : { unitRule: rule }),
      ...(mistakes.length === 0 ? {} : { mistakes }),
    };
  });
  const drawn = values(reader, fields);
  const comma = choiceOf(reader, first(fields, "comma"), { thousands: true });
  return {
    marks: sumOf(parts.map(({ marks }) => marks)),
    parts,
    ...(drawn.length === 0 ? {} : { variables: drawn }),
    ...(comma === undefined ? {} : { commaIsThousands: true }),
  };
}

/** What parts are worth together; what is no number is told by the check of questions. */
function sumOf(marks: readonly (number | string)[]): number | string {
  try {
    return asFigure(marks.reduce((total, each) => total.add(exact(each)), exact(0)).toFraction());
  } catch {
    return 1;
  }
}

const DEFAULT_MARKS: { readonly [K in Kind]?: number } = { essay: 6, upload: 4, declaration: 0 };

/** A question of a kind, as its fields say it. */
function ofKind(reader: Reader, kind: Kind, fields: Fields): object {
  const field = first(fields, "marks");
  const marks = field ? asFigure(oneLine(field)) : (DEFAULT_MARKS[kind] ?? 1);
  if (field && kind !== "numeric") reader.lines.set("marks", field.line);
  const keep = choiceOf(reader, first(fields, "keep"), { order: true }) ? { keepOrder: true } : {};
  switch (kind) {
    case "choice": {
      const credit = choiceOf(reader, first(fields, "counts"), { each: "by-option", all: "all-or-nothing" });
      const picks = range(reader, first(fields, "picks"));
      const isSeveral = all(fields, "right").length > 1 || credit !== undefined || picks !== undefined;
      return {
        kind: isSeveral ? "several-of-several" : "one-of-several",
        marks,
        options: options(reader, fields),
        ...keep,
        ...(isSeveral ? { credit: credit ?? "by-option", ...picks } : {}),
      };
    }
    case "true-or-false": {
      const feedback = richOf(fields, "said");
      const right = choiceOf(reader, first(fields, "answer"), { true: true, false: false });
      return { kind, marks, right, ...(feedback === undefined ? {} : { feedback }) };
    }
    case "short-text":
      return {
        kind,
        marks,
        accepted: all(fields, "accept").map((each, place) => {
          reader.lines.set(`accepted[${place}]`, each.line);
          const [text = "", ...feedback] = each.lines.join("\n").split(SAYS);
          return {
            text: text.trim(),
            ...reader.credit(each),
            ...(feedback.length === 0 ? {} : { feedback: asRich(feedback.join(SAYS).split("\n")) }),
          };
        }),
        ...compared(reader, fields),
      };
    case "gaps":
      return { kind, marks, gaps: gaps(reader, fields), ...compared(reader, fields) };
    case "matching": {
      const once = choiceOf(reader, first(fields, "use"), { once: true });
      return { kind, marks, ...pairs(reader, fields), ...(once ? { once } : {}), ...keep };
    }
    case "ordering": {
      const credit = choiceOf(reader, first(fields, "counts"), { neighbours: "neighbours", all: "exact" });
      const items = all(fields, "order").map((each, place) => {
        reader.lines.set(`items[${place}]`, each.line);
        return { id: nameAt(place), text: asRich(each.lines) };
      });
      return { kind, marks, items, credit: credit ?? "neighbours" };
    }
    case "numeric":
      return { kind, ...numbers(reader, fields) };
    case "essay": {
      const words = range(reader, first(fields, "essay"));
      const model = richOf(fields, "model");
      return {
        kind,
        marks,
        ...(words === undefined ? {} : { words }),
        ...(model === undefined ? {} : { model }),
      };
    }
    case "upload": {
      const files = first(fields, "files") as Field;
      reader.lines.set("allows", files.line);
      const allows = list(oneLine(files).toLowerCase(), ",");
      for (const each of allows)
        if (!(FILE_KINDS as readonly string[]).includes(each))
          reader.wrong(
            files.line,
            said("plain-form.read-question.must-be-one-of", {
              word: files.word,
              words: FILE_KINDS.join(", "),
            }),
          );
      const most = first(fields, "most");
      const largest = first(fields, "largest");
      const model = richOf(fields, "model");
      const beside = choiceOf(reader, first(fields, "beside"), { text: true });
      return {
        kind,
        marks,
        allows,
        ...(most ? { mostFiles: asFigure(oneLine(most)) } : {}),
        ...(largest ? { largestMegabytes: asFigure(oneLine(largest)) } : {}),
        ...(beside ? { textBeside: true } : {}),
        ...(model === undefined ? {} : { model }),
      };
    }
    case "declaration":
      return {
        kind,
        marks,
        options: all(fields, "declare").map((each, place) => {
          reader.lines.set(`options[${place}]`, each.line);
          return { id: nameAt(place), text: asRich(each.lines) };
        }),
      };
    case "json":
      return {};
  }
}

/** A question that stands as in a quiz file. */
function fromJson(reader: Reader, field: Field): object | null {
  const value = jsonIn(field);
  if (value === null) reader.wrong(field.line, said("plain-form.read-question.json-holds-a-question"));
  return value;
}

/** A block as a question. What is wrong in the question itself is for the check of questions to say. */
export function readQuestion({ text, fields, line, doubtful }: Block): ReadQuestion {
  const reader = new Reader();
  for (const { line: at, word } of doubtful)
    reader.wrong(at, said("plain-form.read-question.is-that-meant", { word }));
  const decides = fields.find(({ word }) => KIND_OF[word] !== undefined);
  const kind = decides && KIND_OF[decides.word];
  if (!decides || kind === undefined) {
    if (doubtful.length === 0) reader.wrong(line, said("plain-form.read-question.say-what-is-right"));
    return { question: null, lines: reader.lines, mistakes: reader.mistakes };
  }
  const known: readonly FieldWord[] = kind === "json" ? ["json"] : [...COMMON, ...WORDS_OF[kind]];
  const seen = new Set<FieldWord>();
  for (const field of fields) {
    if (!known.includes(field.word))
      reader.wrong(
        field.line,
        said("plain-form.read-question.does-not-belong-here", { word: field.word, of: decides.word }),
      );
    else if (
      seen.has(field.word) &&
      !REPEATED.has(field.word) &&
      !(kind === "numeric" && field.word === "marks")
    )
      reader.wrong(field.line, said("plain-form.read-question.stands-once", { word: field.word }));
    seen.add(field.word);
  }
  reader.lines.set("text", line);
  const worked = richOf(fields, "worked");
  const more = richOf(fields, "more");
  const whole =
    kind === "json"
      ? fromJson(reader, decides)
      : {
          id: "",
          text: text.length === 0 ? "" : asRich(text),
          ...ofKind(reader, kind, fields),
          ...(worked === undefined ? {} : { worked }),
          ...(more === undefined ? {} : { readMore: more }),
        };
  if (kind === "json" && text.length > 0)
    reader.wrong(line, said("plain-form.read-question.json-stands-alone"));
  return { question: whole, lines: reader.lines, mistakes: reader.mistakes };
}
