import type { Correction, QuestionCorrection } from "../kinds/correction";
import { marking, type Question } from "../kinds/marking";
import type { QuizContent } from "../quiz/quiz-file";
import { questionIn } from "./mark-attempt";

const withQuestion = (quiz: QuizContent, question: Question): QuizContent => ({
  ...quiz,
  sections: quiz.sections.map((section) => ({
    ...section,
    questions: section.questions.map((each) => (each.id === question.id ? question : each)),
  })),
});

const withOwn = (quiz: QuizContent, id: string, own: QuestionCorrection): QuizContent => ({
  ...quiz,
  corrections: { ...quiz.corrections, [id]: own },
});

/**
 * A quiz as its next version is, with the marking of a question put right; null where that cannot be done. What was given
 * credit before stays; a question that was dropped is there again once its key is changed.
 */
export function correctedContent(
  quiz: QuizContent,
  questionId: string,
  correction: Exclude<Correction, { readonly kind: "undo" }>,
): QuizContent | null {
  const question = questionIn(quiz, questionId);
  if (!question) return null;
  const own = quiz.corrections?.[questionId] ?? {};
  switch (correction.kind) {
    case "drop":
      return withOwn(quiz, questionId, { ...own, dropped: correction.dropped });
    case "credit": {
      const isNew = ({ part, identity }: { part: number; identity: string }) =>
        correction.grants.some((grant) => grant.part === part && grant.identity === identity);
      const kept = (own.grants ?? []).filter((grant) => !isNew(grant));
      return withOwn(quiz, questionId, { ...own, grants: [...kept, ...correction.grants] });
    }
    case "as-now":
      return quiz;
    case "key": {
      const keyed = marking(question.kind).keyedBy?.(question, correction);
      if (!keyed) return null;
      const { dropped: _, ...rest } = own;
      return withOwn(withQuestion(quiz, keyed), questionId, rest);
    }
  }
}

/** A quiz in which the marking of a question is again as it was in an earlier version; all else stays as it is. */
export function contentBefore(quiz: QuizContent, earlier: QuizContent, questionId: string): QuizContent {
  const question = questionIn(earlier, questionId);
  const own = earlier.corrections?.[questionId];
  const { [questionId]: _, ...others } = quiz.corrections ?? {};
  const restored = question ? withQuestion(quiz, question) : quiz;
  return { ...restored, corrections: own ? { ...others, [questionId]: own } : others };
}
