import { warningsOf } from "../kinds/marking";
import { said } from "../said";
import { type Mistake, type QuizFile, quizWithMeanings } from "./quiz-file";

/** From so many questions on it is said that the right one always stands first. */
const SEVERAL = 4;

/**
 * What the author of a quiz should look at again, with its place: the file is right, and yet likely to be unfair, to give
 * an answer away, or not to say what is meant.
 */
export function quizWarnings(file: QuizFile): Mistake[] {
  const quiz = quizWithMeanings(file);
  const warnings = quiz.sections.flatMap(({ questions }, i) =>
    questions.flatMap((question, j) =>
      warningsOf(question).map((message) => ({
        path: `sections[${i}].questions[${j}] (${question.id})`,
        message,
      })),
    ),
  );
  const picked = quiz.sections.flatMap(({ questions }) =>
    questions.flatMap((question) => (question.kind === "one-of-several" ? [question] : [])),
  );
  const first = picked.filter(({ options }) => options[0]?.right).length;
  if (first >= SEVERAL && first === picked.length)
    warnings.push({
      path: "sections",
      message: said("quiz.quiz-warnings.the-right-one-stands-first", { first }),
    });
  return warnings;
}
