import type { Allowance } from "@/core/attempt/deadline";
import type { Prerequisite } from "@/core/attempt/start-rules";
import type { Window } from "@/core/attempt/window";
import { written } from "@/core/numbers/exact";
import { type QuizContent, questionCount, questionsByHand, quizMaximum } from "@/core/quiz/quiz-file";
import type { QuizSettings } from "@/core/quiz/rules";
import type { RuleTerms } from "@/core/quiz/sentences";
import { config } from "../config";

/** What the sentences about a quiz are made from, wherever they are said: before the start and at the desk alike. */
export const ruleTerms = (terms: {
  readonly content: QuizContent;
  readonly settings: QuizSettings;
  readonly window: Window;
  readonly allowance: Allowance;
  readonly used: number;
  readonly first: Prerequisite | undefined;
}): RuleTerms => {
  const { content, settings, window, allowance, used, first } = terms;
  return {
    rules: { ...content.rules, ...settings },
    window,
    allowance,
    used,
    questions: questionCount(content),
    drawn: content.sections.some((section) => section.draw !== undefined),
    maximum: written(quizMaximum(content)),
    zone: config.zone,
    first,
    reference: content.reference !== undefined,
    byHand: questionsByHand(content),
  };
};
