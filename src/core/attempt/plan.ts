import type { PresentedQuestion } from "../kinds/answering";
import { present, type Question } from "../kinds/marking";
import { withPictureWords } from "../kinds/picks/options";
import { type Exact, exact, sum } from "../numbers/exact";
import { type AttemptSeed, shuffled } from "../numbers/seeded";
import type { QuizContent } from "../quiz/quiz-file";

/** One place of an attempt, numbered from 1, with its question. */
export interface Slot {
  readonly slot: number;
  readonly question: Question;
}

/**
 * The questions of an attempt in their order: a pure function of the quiz version and the attempt's seed, so the same
 * on every device, at every reload and at every re-marking.
 */
export function planAttempt(quiz: QuizContent, seed: AttemptSeed): Slot[] {
  const drawn = quiz.sections.flatMap((section, index) => {
    const next = seed.chance("section", String(index));
    if (section.draw === undefined) {
      return quiz.rules.shuffleQuestions ? shuffled(section.questions, next) : section.questions;
    }
    const taken = shuffled(section.questions, next).slice(0, section.draw);
    if (quiz.rules.shuffleQuestions) return taken;
    return section.questions.filter((question) => taken.includes(question));
  });
  const words = new Map(quiz.pictures?.map(({ id, alt }) => [id, alt]));
  return drawn.map((question, index) => ({
    slot: index + 1,
    question: words.size > 0 ? withPictureWords(question, words) : question,
  }));
}

/** What the student gets: the questions in order, without keys. Index 0 is slot 1. */
export const presentAttempt = (quiz: QuizContent, seed: AttemptSeed): PresentedQuestion[] =>
  planAttempt(quiz, seed).map(({ question }) => present(question, seed));

/** The marks that an attempt is out of. */
export const maximumOf = (plan: readonly Slot[]): Exact =>
  sum(plan.map(({ question }) => exact(question.marks)));
