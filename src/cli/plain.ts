import { quizOfPlain, readPlain, writtenQuiz } from "@/core/plain-form/plain-form";
import { asFile } from "@/core/quiz/as-file";
import { readQuizFile } from "@/core/quiz/quiz-file";
import { t } from "@/words/t";
import { type Arguments, UsageProblem } from "./arguments";
import { listed, type Outcome, quizFileFrom, type World } from "./commands";

/** `plain quiz.json`: a quiz file in the plain form. */
export const plain = ({ words }: Arguments, world: World): Outcome => ({
  code: 0,
  output: writtenQuiz(quizFileFrom(world, words[0])).trimEnd(),
});

/** `quiz questions.txt`: a text in the plain form as a quiz file, or its mistakes by their lines. */
export function quizOfText({ words }: Arguments, world: World): Outcome {
  const [path] = words;
  if (!path) throw new UsageProblem(t("cli.commands.name-a-quiz-file"));
  const reading = readPlain(world.readText(path));
  const { mistakes } = reading;
  if (mistakes.length > 0) {
    const lines = mistakes
      .map((each) => t("cli.commands.plain-line", { line: each.line, words: each.words }))
      .join("\n");
    return {
      code: 1,
      output: t("cli.commands.plain-has-mistakes", { count: mistakes.length, path, listed: lines }),
    };
  }
  if (reading.questions === 0) throw new UsageProblem(t("cli.commands.plain-is-empty", { path }));
  if (!reading.head) throw new UsageProblem(t("cli.commands.plain-needs-title", { path }));
  const quiz = quizOfPlain(reading);
  // What stands above the questions is checked as in any quiz file.
  const whole = readQuizFile(quiz);
  return whole.ok
    ? { code: 0, output: asFile(whole.quiz) }
    : { code: 1, output: t("cli.commands.has-mistakes", { path, listed: listed(whole.mistakes) }) };
}
