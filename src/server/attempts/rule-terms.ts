import type { Allowance } from "@/core/attempt/deadline";
import type { Prerequisite } from "@/core/attempt/start-rules";
import type { Window } from "@/core/attempt/window";
import { marking, scoringOf } from "@/core/kinds/marking";
import { exact, written } from "@/core/numbers/exact";
import {
  declarationCount,
  type QuizContent,
  questionCount,
  questionsByHand,
  quizMaximum,
} from "@/core/quiz/quiz-file";
import type { QuizSettings } from "@/core/quiz/rules";
import type { RuleTerms } from "@/core/quiz/sentences";
import { capitalized } from "@/core/text/words";
import { now } from "../clock";
import { config } from "../config";

/** What the sentences about a quiz are made from, wherever they are said: before the start and at the desk alike. */
/** How marks are given, with the kinds of questions of which it is true, each way once. */
function waysOfScoring({ sections }: QuizContent): string[] {
  const ways = new Map<string, Set<string>>();
  for (const question of sections.flatMap(({ questions }) => questions)) {
    const words = scoringOf(question);
    if (words === "" || marking(question.kind).byHand) continue;
    ways.set(words, (ways.get(words) ?? new Set()).add(KIND_WORDS[question.kind] ?? ""));
  }
  return [...ways].map(
    ([words, kinds]) => `${capitalized([...kinds].filter(Boolean).join(" and "))}: ${words}`,
  );
}

/** What questions of a kind are called where their scoring is told. */
const KIND_WORDS: Readonly<Record<string, string>> = {
  "one-of-several": "one pick",
  "several-of-several": "several picks",
  "short-text": "short texts",
  gaps: "gaps",
  matching: "matching",
  ordering: "ordering",
  "point-on-picture": "points on a picture",
};

/** The marks of each question in its order; empty where they are drawn or shuffled, or a question has none. */
function marksEach({ sections, rules }: QuizContent): string[] {
  if (rules.shuffleQuestions || sections.some(({ draw }) => draw !== undefined)) return [];
  return sections.flatMap(({ questions }) =>
    questions.map(({ kind, marks }) => (kind === "declaration" ? "" : exact(marks).toFraction())),
  );
}

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
    now: now(),
    questions: questionCount(content) - declarationCount(content),
    declarations: declarationCount(content),
    drawn: content.sections.some((section) => section.draw !== undefined),
    maximum: written(quizMaximum(content)),
    zone: config.zone,
    first,
    reference: content.reference !== undefined,
    byHand: questionsByHand(content),
    scoring: waysOfScoring(content),
    marksEach: marksEach(content),
  };
};
