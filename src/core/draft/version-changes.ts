import { isSound, present, type Question } from "../kinds/marking";
import { openSeed } from "../numbers/seeded";
import type { QuizContent } from "../quiz/quiz-file";
import { sameValue } from "../same-value";

/** What becomes of one question from one version of a quiz to the next. */
export type QuestionChange =
  /** Students see the same, and it is marked, or explained, otherwise. */
  | "marked-otherwise"
  /** Students see something else. */
  | "rewritten"
  | "added"
  | "taken-out";

export interface ChangedQuestion {
  readonly id: string;
  readonly change: QuestionChange;
  /** As it is now, or, taken out, as it was. */
  readonly question: Question;
}

const SEEDS = ["one", "two", "three"].map(openSeed);

/** A question as students see it in a few attempts; null where it cannot be shown. */
const seen = (question: Question) =>
  SEEDS.map((seed) => (isSound(question, seed) ? present(question, seed) : null));

const questionsIn = (quiz: QuizContent): Map<string, Question> =>
  new Map(quiz.sections.flatMap(({ questions }) => questions.map((each) => [each.id, each] as const)));

/** What a new version of a quiz changes in its questions, in the order of the new paper; what was taken out comes last. */
export function changedQuestions(before: QuizContent, after: QuizContent): ChangedQuestion[] {
  const then = questionsIn(before);
  const now = questionsIn(after);
  const changed = [...now].flatMap(([id, question]): ChangedQuestion[] => {
    const old = then.get(id);
    if (!old) return [{ id, change: "added", question }];
    if (sameValue(old, question)) return [];
    const isSame = old.kind === question.kind && sameValue(seen(old), seen(question));
    return [{ id, change: isSame ? "marked-otherwise" : "rewritten", question }];
  });
  const gone = [...then]
    .filter(([id]) => !now.has(id))
    .map(([id, question]): ChangedQuestion => ({ id, change: "taken-out", question }));
  return [...changed, ...gone];
}

/** What was put right in the marking since, as far as it is about questions that the new version leaves as they are. */
export function keptCorrections(before: QuizContent, after: QuizContent): QuizContent["corrections"] {
  if (!before.corrections) return undefined;
  const changed = new Set(changedQuestions(before, after).map(({ id }) => id));
  const kept = Object.entries(before.corrections).filter(([id]) => !changed.has(id));
  return kept.length === 0 ? undefined : Object.fromEntries(kept);
}
