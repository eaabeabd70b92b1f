import { planAttempt } from "@/core/attempt/plan";
import type { Answer } from "@/core/kinds/answering";
import type { Question } from "@/core/kinds/marking";
import { presentedName } from "@/core/kinds/picks/options";
import type { QuizFile } from "@/core/quiz/quiz-file";

/** Which questions a sample student gets wrong or leaves empty, by question id; the rest is right. */
export interface Slips {
  readonly wrong?: readonly string[];
  readonly empty?: readonly string[];
  /** Numeric answers written letter for letter, part by part. */
  readonly written?: Readonly<Record<string, Readonly<Record<string, string>>>>;
}

function answerTo(question: Question, seed: string, wrong: boolean): Answer {
  const named = (id: string) => presentedName(seed, question.id, id);
  if (question.kind === "numeric") {
    const parts = question.parts.map((part) => [part.id, wrong ? "999" : inFiguresAsked(part)] as const);
    return { parts: Object.fromEntries(parts) };
  }
  const right = question.options.filter((option) => option.right);
  const others = question.options.filter((option) => !option.right);
  if (question.kind === "one-of-several") {
    return { pick: named((wrong ? others : right)[0]?.id ?? "") };
  }
  const picks = wrong ? [...right.slice(1), ...others.slice(0, 1)] : right;
  return { picks: picks.map((option) => named(option.id)) };
}

function inFiguresAsked(part: Extract<Question, { kind: "numeric" }>["parts"][number]): string {
  const key = String(part.key);
  return part.tolerance.rule === "figures" && !key.includes(".") && key.length < part.tolerance.figures
    ? `${key}.${"0".repeat(part.tolerance.figures - key.length)}`
    : key;
}

/** The answers of a sample attempt, by slot. */
export function sampleAnswers(quiz: QuizFile, seed: string, slips: Slips): Map<number, Answer> {
  const answers = new Map<number, Answer>();
  for (const { slot, question } of planAttempt(quiz, seed)) {
    if (slips.empty?.includes(question.id)) continue;
    const written = slips.written?.[question.id];
    answers.set(
      slot,
      written ? { parts: written } : answerTo(question, seed, slips.wrong?.includes(question.id) ?? false),
    );
  }
  return answers;
}
