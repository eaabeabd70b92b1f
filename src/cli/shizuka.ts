import { readFileSync } from "node:fs";
import { said } from "@/core/said";
import { isLanguage, speakerOf } from "@/words/languages";
import { saidInJson, say, speakBy, t } from "@/words/t";
import { readArguments, UsageProblem } from "./arguments";
import { check, deadline, draw, gradebook, mark, schema, tryOut, type World } from "./commands";
import { figures } from "./figures";
import { plain, quizOfText } from "./plain";

const asked = process.env.SHIZUKA_LANGUAGE;
const language = isLanguage(asked) ? asked : "en";
speakBy(() => speakerOf(language));

const HELP = said("cli.shizuka.for-people-who-check-a-quiz");

function readText(path: string): string {
  try {
    return readFileSync(path, "utf8");
  } catch {
    throw new UsageProblem(t("cli.shizuka.cannot-be-read", { path }));
  }
}

const world: World = {
  readText,
  readJson(path) {
    const text = readText(path);
    try {
      return JSON.parse(text);
    } catch (error) {
      throw new UsageProblem(t("cli.shizuka.is-no-json", { path, message: (error as Error).message }));
    }
  },
};

const COMMANDS = {
  check,
  draw,
  mark,
  try: tryOut,
  deadline,
  gradebook,
  figures,
  plain,
  quiz: quizOfText,
  schema,
} as const;

/** The command line over the core. Returns the exit code. */
export function run(
  args: readonly string[],
  print: (text: string) => void,
  complain: (text: string) => void,
): number {
  const [name = "", ...rest] = args;
  if (name === "" || name === "help" || name === "--help") {
    print(say(HELP));
    return 0;
  }
  if (!Object.hasOwn(COMMANDS, name)) {
    complain(t("cli.shizuka.there-is-no-command", { name, help: HELP }));
    return 2;
  }
  try {
    const outcome = COMMANDS[name as keyof typeof COMMANDS](readArguments(rest), world);
    print(
      typeof outcome.output === "string" ? outcome.output : JSON.stringify(outcome.output, saidInJson, 2),
    );
    return outcome.code;
  } catch (error) {
    if (!(error instanceof UsageProblem)) throw error;
    complain(error.message);
    return 2;
  }
}
