import { planAttempt } from "@/core/attempt/plan";
import { isMissed, type MarkedQuestion } from "@/core/kinds/kind";
import { marking } from "@/core/kinds/marking";
import { exact, ZERO } from "@/core/numbers/exact";
import type { AttemptSeed } from "@/core/numbers/seeded";
import type { QuizContent } from "@/core/quiz/quiz-file";
import type { QuizSettings } from "@/core/quiz/rules";
import type { Revelations } from "@/core/reveal/reveal";

/**
 * Whether what was missed may be practised: where the quiz allows it, and once marks, right answers and worked answers
 * are shown anyway. Practising tells all three at once.
 */
export const mayPractise = (rules: Pick<QuizSettings, "practiseMissed">, reveal: Revelations): boolean =>
  (rules.practiseMissed ?? false) &&
  (["marks", "written", "right", "worked"] as const).every((what) => reveal[what].visible);

/** The questions of an attempt that lost marks and that a rule can mark again, in order. */
export const practisable = (
  content: QuizContent,
  seed: AttemptSeed,
  marks: ReadonlyMap<number, MarkedQuestion>,
) =>
  planAttempt(content, seed).filter(({ slot, question }) => {
    return (
      isMissed(marks.get(slot)?.state) &&
      !marking(question.kind).byHand &&
      exact(question.marks).compare(ZERO) > 0
    );
  });
