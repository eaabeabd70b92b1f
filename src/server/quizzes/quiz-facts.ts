import { written } from "@/core/numbers/exact";
import { declarationCount, type QuizContent, questionCount, quizMaximum } from "@/core/quiz/quiz-file";
import type { QuizFacts } from "@/data/schema/quizzes";

/** What lists need of a version's content, to be kept beside it. */
export function factsOf(content: QuizContent): QuizFacts {
  return {
    questions: questionCount(content) - declarationCount(content),
    maximum: written(quizMaximum(content)),
    ...(content.language === undefined ? {} : { language: content.language }),
  };
}
