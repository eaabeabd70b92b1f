import { t } from "@/words/t";
/** What went wrong in the use of the command, said in one line. */
export class UsageProblem extends Error {}

export interface Arguments {
  readonly words: readonly string[];
  readonly options: ReadonlyMap<string, string>;
}

/** `--name value` and `--name=value` as options, `--flag` alone as "", the rest as words. */
export function readArguments(args: readonly string[], flags: readonly string[] = []): Arguments {
  const words: string[] = [];
  const options = new Map<string, string>();
  for (let i = 0; i < args.length; i += 1) {
    const arg = args[i] ?? "";
    if (!arg.startsWith("--")) {
      words.push(arg);
      continue;
    }
    const [name = "", inline] = arg.slice(2).split(/=(.*)/s);
    if (inline !== undefined) options.set(name, inline);
    else if (flags.includes(name)) options.set(name, "");
    else {
      const value = args[i + 1];
      if (value === undefined || value.startsWith("--"))
        throw new UsageProblem(t("cli.arguments.needs-a-value", { name }));
      options.set(name, value);
      i += 1;
    }
  }
  return { words, options };
}

/** A number of an option, or the fallback when it is not there. @throws UsageProblem when it is no number. */
export function numberOption({ options }: Arguments, name: string, fallback: number): number {
  const text = options.get(name);
  if (text === undefined) return fallback;
  const value = Number(text);
  if (text.trim() === "" || !Number.isFinite(value))
    throw new UsageProblem(t("cli.arguments.must-be-a-number-not", { name, text }));
  return value;
}
