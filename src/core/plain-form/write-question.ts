import type { Question } from "../kinds/marking";
import { exact } from "../numbers/exact";
import { sameValue } from "../same-value";
import { blocksIn, escapedLine, type FieldWord, fieldLines } from "./blocks";
import { namedByPlace } from "./names";
import { asLines } from "./plain-text";
import { asFigure, COMPARED, readQuestion } from "./read-question";

type Line = readonly [word: FieldWord, qualifier: string, lines: readonly string[]];

const plain = (word: FieldWord, value: unknown, qualifier = ""): Line[] =>
  value === undefined ? [] : [[word, qualifier, [String(value)]]];

const rich = (word: FieldWord, text: string | undefined, qualifier = ""): Line[] =>
  text === undefined ? [] : [[word, qualifier, asLines(text)]];

/** "text >> what is said". */
const withFeedback = (text: readonly string[], feedback: string | undefined): string[] =>
  feedback === undefined ? [...text] : `${text.join("\n")} >> ${asLines(feedback).join("\n")}`.split("\n");

const joined = (...terms: readonly unknown[]): string =>
  terms.filter((term) => term !== undefined && term !== false && term !== "").join(" ");

const rangeOf = ({ least, most }: { least?: number | undefined; most?: number | undefined }): string =>
  least !== undefined && most !== undefined
    ? `${least} to ${most}`
    : most !== undefined
      ? `at most ${most}`
      : least !== undefined
        ? `at least ${least}`
        : "";

function comparedOf(question: object): Line[] {
  const terms = Object.entries(COMPARED)
    .filter(([, field]) => (question as Record<string, unknown>)[field])
    .map(([term]) => term);
  return terms.length === 0 ? [] : plain("compare", terms.join(", "));
}

type Numeric = Extract<Question, { kind: "numeric" }>;

function toleranceOf({ tolerance }: Numeric["parts"][number]): string {
  if (tolerance.rule === "absolute") return String(tolerance.within);
  if (tolerance.rule === "figures")
    return `${tolerance.figures} figures${tolerance.units === undefined ? "" : ` ± ${tolerance.units}`}`;
  const share = exact(tolerance.within).mul(100);
  return `${exact(share.valueOf()).equals(share) ? share.valueOf() : share.toFraction()} %`;
}

function numericLines({ parts, variables, commaIsThousands }: Numeric): Line[] {
  return [
    ...(variables ?? []).flatMap((each) =>
      plain(
        "value",
        "list" in each ? each.list.join("; ") : `${each.from} to ${each.to} by ${each.step}`,
        each.name,
      ),
    ),
    ...(commaIsThousands ? plain("comma", "thousands") : []),
    ...parts.flatMap((part) => [
      ...plain("number", part.key, part.id),
      ...rich("part", part.text),
      ...plain("within", toleranceOf(part)),
      ...plain(
        "unit",
        part.unit === undefined ? undefined : [part.unit, part.unitRule ?? ""].filter(Boolean).join(", "),
      ),
      ...plain("marks", part.marks),
      ...(part.mistakes ?? []).map(
        ({ value, feedback, credit }): Line => [
          "mistake",
          joined(credit),
          withFeedback([String(value)], feedback),
        ],
      ),
    ]),
  ];
}

/** What a question has by its kind; null: the plain form has no words for it. */
function linesOf(question: Question): Line[] | null {
  switch (question.kind) {
    case "one-of-several":
    case "several-of-several":
      return [
        ...question.options.map(
          (option): Line => [
            option.right ? "right" : "wrong",
            joined("credit" in option && option.credit, option.last && "last"),
            withFeedback(asLines(option.text), option.feedback),
          ],
        ),
        ...(question.keepOrder ? plain("keep", "order") : []),
        ...(question.kind === "several-of-several"
          ? [
              ...plain("counts", question.credit === "by-option" ? "each" : "all"),
              ...plain("picks", rangeOf(question) || undefined),
            ]
          : []),
      ];
    case "true-or-false":
      return [...plain("answer", question.right), ...rich("said", question.feedback)];
    case "short-text":
      return [
        ...question.accepted.map(
          ({ text, credit, feedback }): Line => ["accept", joined(credit), withFeedback([text], feedback)],
        ),
        ...comparedOf(question),
      ];
    case "gaps":
      return [
        ...question.gaps.map(
          ({ id, accepted, options }): Line =>
            options
              ? ["choose", id, [options.map(({ text }) => asLines(text).join(" ")).join(" | ")]]
              : ["gap", id, [(accepted ?? []).map(({ text }) => text).join(" | ")]],
        ),
        ...comparedOf(question),
      ];
    case "matching": {
      const { prompts, targets, once, keepOrder } = question;
      const used = new Set(prompts.map(({ target }) => target));
      return [
        ...prompts.map(({ text, target }): Line => {
          const right = targets.find(({ id }) => id === target);
          return ["pair", "", [`${asLines(text).join(" ")} = ${asLines(right?.text ?? "").join(" ")}`]];
        }),
        ...targets.filter(({ id }) => !used.has(id)).flatMap(({ text }) => rich("extra", text)),
        ...(once ? plain("use", "once") : []),
        ...(keepOrder ? plain("keep", "order") : []),
      ];
    }
    case "ordering":
      return [
        ...question.items.flatMap(({ text }) => rich("order", text)),
        ...plain("counts", question.credit === "exact" ? "all" : "neighbours"),
      ];
    case "numeric":
      return numericLines(question);
    case "essay":
      return [["essay", "", [rangeOf(question.words ?? {})]], ...rich("model", question.model)];
    case "upload":
      return [
        ...plain("files", question.allows.join(", ")),
        ...plain("most", question.mostFiles),
        ...plain("largest", question.largestMegabytes),
        ...(question.textBeside ? plain("beside", "text") : []),
        ...rich("model", question.model),
      ];
    case "declaration":
      return question.options.flatMap(({ text }) => rich("declare", text));
    case "point-on-picture":
      return null;
  }
}

const asBlock = (text: readonly string[], lines: readonly Line[]): string =>
  [...text.map(escapedLine), ...lines.flatMap((line) => fieldLines(...line))].join("\n");

/**
 * A question with its figures as the plain form reads them: "65" is 65, and a tolerance of "1/200" is 0.5 %. Fields that are
 * undefined are not there.
 */
export const withFigures = <Q>(question: Q): Q =>
  JSON.parse(
    JSON.stringify(question, (field, value) =>
      typeof value !== "string"
        ? value
        : field === "within"
          ? asFigure(exact(value).valueOf().toString())
          : asFigure(value),
    ),
  );

/**
 * A question in the plain form. What the form has no words for (a picture, a rubric, a language of its own) stands as in
 * the quiz file, in one line: so nothing is ever lost.
 * @example writtenQuestion({ id: "q", kind: "true-or-false", text: "It ebbs.", marks: 1, right: true }) → "It ebbs.\nanswer: true\nmarks: 1"
 */
export function writtenQuestion(question: Question): string {
  const named = namedByPlace(question);
  return inWords(named) ?? asBlock([], [["json", "", [JSON.stringify(named)]]]);
}

/** Null: it has something for which there are no words, or that is not written out yet. */
function inWords(named: Question): string | null {
  try {
    const own = linesOf(named);
    if (!own) return null;
    const block = asBlock(named.text === "" ? [] : asLines(named.text), [
      ...own,
      ...(named.kind === "numeric" ? [] : plain("marks", named.marks)),
      ...rich("worked", named.worked),
      ...rich("more", named.readMore),
    ]);
    const [read, ...further] = blocksIn(block);
    if (!read || further.length > 0 || read.stray.length > 0) return null;
    const again = readQuestion(read);
    const isSame = sameValue(withFigures(again.question), withFigures(named));
    return again.mistakes.length === 0 && isSame ? block : null;
  } catch {
    // A draft may hold a figure that is none yet.
    return null;
  }
}
