import { readFileSync } from "node:fs";
import { readArguments, UsageProblem } from "./arguments";
import { check, deadline, draw, gradebook, mark, schema, type World } from "./commands";

const HELP = `For people who check a quiz before class.

  shizuka check quiz.json                          all mistakes of a quiz file
  shizuka draw quiz.json --seed N                  the attempt as its student would get it
  shizuka mark quiz.json answers.json              the marked paper
  shizuka mark quiz.json --right --seed N          the same, with every answer right
  shizuka deadline --start 10:00 --limit 20        when an attempt ends
           [--factor 1.5] [--extra 5] [--closes 12:00] [--whole-time]
  shizuka gradebook course.json                    the standing in a course
           [--need "Item" --target 80]             and what an item needs for it
  shizuka schema                                   the JSON Schema of a quiz file

Ends with 0 when all is right, 1 when something is not, 2 when the command cannot be understood.`;

const world: World = {
  readJson(path) {
    let text: string;
    try {
      text = readFileSync(path, "utf8");
    } catch {
      throw new UsageProblem(`${path} cannot be read.`);
    }
    try {
      return JSON.parse(text);
    } catch (error) {
      throw new UsageProblem(`${path} is no JSON: ${(error as Error).message}`);
    }
  },
};

const COMMANDS = { check, draw, mark, deadline, gradebook, schema } as const;

/** The command line over the core. Answers the exit code. */
export function run(
  args: readonly string[],
  print: (text: string) => void,
  complain: (text: string) => void,
): number {
  const [name = "", ...rest] = args;
  if (name === "" || name === "help" || name === "--help") {
    print(HELP);
    return 0;
  }
  if (!Object.hasOwn(COMMANDS, name)) {
    complain(`There is no command “${name}”.\n\n${HELP}`);
    return 2;
  }
  try {
    const outcome = COMMANDS[name as keyof typeof COMMANDS](
      readArguments(rest, ["right", "whole-time"]),
      world,
    );
    print(typeof outcome.output === "string" ? outcome.output : JSON.stringify(outcome.output, null, 2));
    return outcome.code;
  } catch (error) {
    if (!(error instanceof UsageProblem)) throw error;
    complain(error.message);
    return 2;
  }
}
