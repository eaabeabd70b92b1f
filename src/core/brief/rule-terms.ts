import type { Allowance } from "../attempt/deadline";
import type { Prerequisite } from "../attempt/start-rules";
import type { Window } from "../attempt/window";
import type { KindName } from "../kinds/answering";
import { marking, scoringOf } from "../kinds/marking";
import { exact, written } from "../numbers/exact";
import {
  declarationCount,
  type QuizContent,
  questionCount,
  questionsByHand,
  quizMaximum,
} from "../quiz/quiz-file";
import type { QuizSettings } from "../quiz/rules";
import { type Said, said, saidTogether } from "../said";
import { capitalized } from "../text/capitalized";
import type { Instant } from "../time/instants";
import type { RuleTerms } from "./rule-sentences";

/** How marks are given, with the kinds of questions of which it is true, each way once. */
function waysOfScoring({ sections }: QuizContent, say: (said: Said) => string): Said[] {
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
    said("brief.rule-terms.way", {
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
  "one-of-several": said("brief.rule-terms.one-pick"),
  "several-of-several": said("brief.rule-terms.several-picks"),
  "short-text": said("brief.rule-terms.short-texts"),
  gaps: said("brief.rule-terms.gaps"),
  matching: said("brief.rule-terms.matching"),
  ordering: said("brief.rule-terms.ordering"),
  "point-on-picture": said("brief.rule-terms.points-on-a-picture"),
};

/** The marks of each question in its order; empty where they are drawn or shuffled, or a question has none. */
function marksEach({ sections, rules }: QuizContent): string[] {
  if (rules.shuffleQuestions || sections.some(({ draw }) => draw !== undefined)) return [];
  return sections.flatMap(({ questions }) =>
    questions.map(({ kind, marks }) => (kind === "declaration" ? "" : exact(marks).toFraction())),
  );
}

/** What the sentences about a quiz are made from, wherever they are said: before the start, at the desk, and while it is written. */
export const termsOfQuiz = (terms: {
  readonly content: QuizContent;
  readonly settings: QuizSettings;
  readonly window: Window;
  readonly allowance: Allowance;
  readonly used: number | null;
  readonly first: Prerequisite | undefined;
  readonly now: Instant;
  readonly zone: string;
  /** In the reader's language. */
  readonly say: (said: Said) => string;
}): RuleTerms => {
  const { content, settings, window, allowance, used, first, now, zone, say } = terms;
  return {
    rules: { ...content.rules, ...settings },
    window,
    allowance,
    used,
    now,
    questions: questionCount(content) - declarationCount(content),
    declarations: declarationCount(content),
    drawn: content.sections.some((section) => section.draw !== undefined),
    maximum: written(quizMaximum(content)),
    zone,
    first,
    reference: content.reference !== undefined,
    byHand: questionsByHand(content),
    scoring: waysOfScoring(content, say),
    marksEach: marksEach(content),
  };
};
