import { parseArgs } from "node:util";
import { t } from "@/words/t";

/** What went wrong in the use of the command, said in one line. */
export class UsageProblem extends Error {}

export interface Arguments {
  readonly words: readonly string[];
  readonly options: ReadonlyMap<string, string>;
}

/** Every option of any command: with a value, or a flag alone. */
const OPTIONS = {
  seed: { type: "string" },
  start: { type: "string" },
  limit: { type: "string" },
  factor: { type: "string" },
  extra: { type: "string" },
  closes: { type: "string" },
  need: { type: "string" },
  target: { type: "string" },
  maxima: { type: "string" },
  right: { type: "boolean" },
  "whole-time": { type: "boolean" },
} as const;

/**
 * `--name value` and `--name=value` as options, `--flag` alone as "", the rest as words.
 * @throws UsageProblem for an option that is not known, or that lacks its value
 */
export function readArguments(args: readonly string[]): Arguments {
  const { positionals, tokens } = parseArgs({
    args: [...args],
    options: OPTIONS,
    allowPositionals: true,
    strict: false,
    tokens: true,
  });
  const options = new Map<string, string>();
  for (const token of tokens) {
    if (token.kind !== "option") continue;
    const { name, value = "" } = token;
    if (!Object.hasOwn(OPTIONS, name)) throw new UsageProblem(t("cli.arguments.is-not-known", { name }));
    const isFlag = OPTIONS[name as keyof typeof OPTIONS].type === "boolean";
    if (!isFlag && (value === "" || value.startsWith("--")))
      throw new UsageProblem(t("cli.arguments.needs-a-value", { name }));
    options.set(name, value);
  }
  return { words: positionals, options };
}

/** A number of an option, or the fallback when it is not there. @throws UsageProblem when it is not a number. */
export function numberOption({ options }: Arguments, name: string, fallback: number): number {
  const text = options.get(name);
  if (text === undefined) return fallback;
  const value = Number(text);
  if (text.trim() === "" || !Number.isFinite(value))
    throw new UsageProblem(t("cli.arguments.must-be-a-number-not", { name, text }));
  return value;
}
