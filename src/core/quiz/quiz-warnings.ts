import { type Question, warningsOf, withMeanings } from "../kinds/marking";
import type { UnitMeanings } from "../numbers/unit-names";
import { type Said, said } from "../said";
import type { Mistake, QuizFile } from "./quiz-file";

/** From so many questions on it is said that the right one always stands first. */
const SEVERAL = 4;

/**
 * What the author of a question should look at again: it is right, and yet likely to be unfair, to give an answer away, or
 * not to say what is meant.
 * @param meanings what units mean in its quiz and course
 * @example questionWarnings({ id: "q", kind: "essay", text: "Why?", marks: 6 }, {}) → []
 */
export const questionWarnings = (question: Question, meanings: UnitMeanings): Said[] =>
  warningsOf(Object.keys(meanings).length === 0 ? question : withMeanings(question, meanings));

/** What should be looked at again in all questions together. */
export function paperWarnings(questions: readonly Question[]): Said[] {
  const picked = questions.flatMap((question) => (question.kind === "one-of-several" ? [question] : []));
  const first = picked.filter(({ options }) => options[0]?.right).length;
  return first >= SEVERAL && first === picked.length
    ? [said("quiz.quiz-warnings.the-right-one-stands-first", { first })]
    : [];
}

/** What the author of a quiz should look at again, with its place. */
export function quizWarnings(quiz: QuizFile): Mistake[] {
  return [
    ...quiz.sections.flatMap(({ questions }, i) =>
      questions.flatMap((question, j) =>
        questionWarnings(question, quiz.unitMeanings ?? {}).map((message) => ({
          path: `sections[${i}].questions[${j}] (${question.id})`,
          message,
        })),
      ),
    ),
    ...paperWarnings(quiz.sections.flatMap(({ questions }) => questions)).map((message) => ({
      path: "sections",
      message,
    })),
  ];
}
