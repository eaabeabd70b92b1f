import Papa from "papaparse";
import { type FiguredAttempt, quizFigures } from "@/core/figures/question-figures";
import { exact } from "@/core/numbers/exact";
import { t } from "@/words/t";
import { type Arguments, UsageProblem } from "./arguments";
import type { Outcome, World } from "./commands";

/** A number as it stands in a table, with a point or a comma; null: none. */
const numberIn = (cell: string): number | null => {
  const text = cell.trim().replace(",", ".");
  return /^-?\d+(\.\d+)?$/.test(text) ? Number(text) : null;
};

interface Table {
  readonly questions: readonly string[];
  readonly attempts: readonly FiguredAttempt[];
}

/** Students by questions: a first row of names, and perhaps a first column of them. @throws UsageProblem with every mistake */
function tableFrom(text: string, path: string): Table {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: "greedy" });
  const [head = [], ...rows] = data;
  const isNamed = rows.some(([first = ""]) => first.trim() !== "" && numberIn(first) === null);
  const from = isNamed ? 1 : 0;
  const questions = head.slice(from).map((name) => name.trim());
  const mistakes: string[] = [];
  const attempts = rows.map((row, line): FiguredAttempt => {
    const cells = row.slice(from);
    if (cells.length !== questions.length)
      mistakes.push(
        t("cli.figures.line-has-other-cells", {
          line: line + 2,
          cells: cells.length,
          questions: questions.length,
        }),
      );
    return cells.map((cell, i) => {
      const marks = numberIn(cell);
      if (marks === null && cell.trim() !== "")
        mistakes.push(t("cli.figures.is-no-number", { line: line + 2, question: questions[i] ?? "", cell }));
      return marks;
    });
  });
  if (questions.length === 0 || rows.length === 0)
    throw new UsageProblem(t("cli.figures.there-is-no-table", { path }));
  if (mistakes.length > 0)
    throw new UsageProblem(t("cli.figures.has-mistakes", { path, listed: mistakes.join("\n") }));
  return { questions, attempts };
}

function maximaFrom({ options }: Arguments, questions: readonly string[]): number[] {
  const given = (options.get("maxima") ?? "").split(",").map((each) => each.trim());
  const read = given.map((each) => {
    try {
      return exact(each).valueOf();
    } catch {
      return Number.NaN;
    }
  });
  if (read.length !== questions.length || read.some((each) => !(each > 0)))
    throw new UsageProblem(t("cli.figures.say-the-maxima", { questions: questions.length }));
  return read;
}

const rounded = (value: number | null): number | null => (value === null ? null : Number(value.toFixed(4)));

/** `figures marks.csv --maxima 2,1,3,1`: how the questions of a quiz behaved, of however few. */
export function figures(args: Arguments, world: World): Outcome {
  const [path] = args.words;
  if (!path) throw new UsageProblem(t("cli.figures.name-a-table"));
  const { questions, attempts } = tableFrom(world.readText(path), path);
  const maxima = maximaFrom(args, questions);
  const found = quizFigures(
    questions.map((id, i) => ({ id, maximum: maxima[i] ?? 0, section: "" })),
    attempts,
    2,
  );
  const [reliability] = found.reliability;
  return {
    code: 0,
    output: {
      attempts: found.attempts,
      mean: rounded(found.mean),
      deviation: rounded(found.deviation),
      alpha: rounded(reliability?.alpha ?? null),
      standardError: rounded(reliability?.error ?? null),
      questions: found.questions.map(({ id, attempts: had, facility, discrimination, remarkable }) => ({
        question: id,
        attempts: had,
        facility: rounded(facility),
        discrimination: rounded(discrimination),
        remarkable,
      })),
    },
  };
}
