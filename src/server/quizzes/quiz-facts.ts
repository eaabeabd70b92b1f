import { written } from "@/core/numbers/exact";
import { type QuizFile, questionCount, quizMaximum } from "@/core/quiz/quiz-file";
import type { QuizFacts } from "@/data/schema/quizzes";

/** What lists need of a version's content, to be kept beside it. */
export function factsOf(content: QuizFile): QuizFacts {
  const { rules } = content;
  return {
    timeLimit: rules.timeLimit ?? null,
    attempts: rules.attempts ?? null,
    counts: rules.counts,
    practice: rules.practice ?? false,
    reveal: rules.reveal,
    lateCostPerDay: rules.lateCostPerDay ?? null,
    questions: questionCount(content),
    maximum: written(quizMaximum(content)),
  };
}
