import { planAttempt } from "@/core/attempt/plan";
import type { Answer } from "@/core/kinds/answering";
import { type Question, rightAnswerTo } from "@/core/kinds/marking";
import type { AttemptSeed } from "@/core/numbers/seeded";
import type { QuizContent } from "@/core/quiz/quiz-file";

/** Which questions a sample student gets wrong or leaves empty, by question id; the rest is right. */
export interface Slips {
  readonly wrong?: readonly string[];
  readonly empty?: readonly string[];
  /** Numeric answers written letter for letter, part by part. */
  readonly written?: Readonly<Record<string, Readonly<Record<string, string>>>>;
  /** Whole answers, where the right one is nothing that a rule knows, or another one is wanted. */
  readonly given?: Readonly<Record<string, Given>>;
}

/** An answer, or what is made of the right one. */
type Given = Answer | ((right: Answer | null) => Answer | null);

function wrongAnswerTo(question: Question, seed: AttemptSeed): Answer | null {
  const named = (id: string) => seed.name(question.id, id);
  switch (question.kind) {
    case "numeric":
      return { parts: Object.fromEntries(question.parts.map((part) => [part.id, "999"])) };
    case "one-of-several":
      return { pick: named(question.options.find((option) => !option.right)?.id ?? "") };
    case "several-of-several": {
      const right = question.options.filter((option) => option.right);
      const others = question.options.filter((option) => !option.right);
      return { picks: [...right.slice(1), ...others.slice(0, 1)].map((option) => named(option.id)) };
    }
    case "true-or-false":
      return { value: !question.right };
    default:
      return null;
  }
}

/** The answers of a sample attempt, by slot. */
export function sampleAnswers(quiz: QuizContent, seed: AttemptSeed, slips: Slips): Map<number, Answer> {
  const answers = new Map<number, Answer>();
  for (const { slot, question } of planAttempt(quiz, seed)) {
    if (slips.empty?.includes(question.id)) continue;
    const given = slips.given?.[question.id];
    if (given) {
      const answer = typeof given === "function" ? given(rightAnswerTo(question, seed)) : given;
      if (answer) answers.set(slot, answer);
      continue;
    }
    const written = slips.written?.[question.id];
    const isWrong = slips.wrong?.includes(question.id) ?? false;
    const answer = written
      ? { parts: written }
      : isWrong
        ? wrongAnswerTo(question, seed)
        : rightAnswerTo(question, seed);
    if (answer) answers.set(slot, answer);
  }
  return answers;
}
