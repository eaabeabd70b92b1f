import type { Allowance } from "@/core/attempt/deadline";
import type { Prerequisite } from "@/core/attempt/start-rules";
import type { Window } from "@/core/attempt/window";
import type { RuleTerms } from "@/core/brief/rule-sentences";
import type { KindName } from "@/core/kinds/answering";
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
import { type Said, said, saidTogether } from "@/core/said";
import { capitalized } from "@/core/text/capitalized";
import { say } from "@/words/t";
import { now } from "../base/clock";
import { config } from "../base/config";

/** What the sentences about a quiz are made from, wherever they are said: before the start and at the desk alike. */
/** How marks are given, with the kinds of questions of which it is true, each way once. */
function waysOfScoring({ sections }: QuizContent): Said[] {
  const ways = new Map<string, { readonly words: Said; readonly kinds: Set<KindName> }>();
  for (const question of sections.flatMap(({ questions }) => questions)) {
    const words = scoringOf(question);
    if (words === "" || marking(question.kind).byHand) continue;
    const name = JSON.stringify(words);
    const way = ways.get(name) ?? { words, kinds: new Set() };
    way.kinds.add(question.kind);
    ways.set(name, way);
  }
  return [...ways.values()].map(({ words, kinds }) =>
    said("server.quizzes.rule-terms.way", {
      kinds: capitalized(
        say(
          saidTogether(
            [...kinds].map((kind) => KIND_WORDS[kind] ?? ""),
            "and",
          ),
        ),
      ),
      words,
    }),
  );
}

/** What questions of a kind are called where their scoring is told. */
const KIND_WORDS: Readonly<Partial<Record<KindName, Said>>> = {
  "one-of-several": said("server.quizzes.rule-terms.one-pick"),
  "several-of-several": said("server.quizzes.rule-terms.several-picks"),
  "short-text": said("server.quizzes.rule-terms.short-texts"),
  gaps: said("server.quizzes.rule-terms.gaps"),
  matching: said("server.quizzes.rule-terms.matching"),
  ordering: said("server.quizzes.rule-terms.ordering"),
  "point-on-picture": said("server.quizzes.rule-terms.points-on-a-picture"),
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
  readonly used: number | null;
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
