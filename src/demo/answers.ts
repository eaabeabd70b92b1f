import { planAttempt } from "@/core/attempt/plan";
import type { Answer } from "@/core/kinds/answering";
import { type Question, rightAnswerTo } from "@/core/kinds/marking";
import { worksOut } from "@/core/kinds/numeric/question";
import { readFormula } from "@/core/numbers/formula";
import { plainWriting } from "@/core/numbers/read-number";
import type { AttemptSeed } from "@/core/numbers/seeded";
import { inFigures } from "@/core/numbers/significant-figures";
import type { QuizContent } from "@/core/quiz/quiz-file";

/** Which questions a sample student gets wrong or leaves empty, by question id; the rest is right. */
export interface Slips {
  readonly wrong?: readonly string[];
  readonly empty?: readonly string[];
  /** Numeric answers, part by part: letter for letter, or behind "=" a formula of what was drawn and of the right values; behind "≈" the same in two figures. */
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

/** What is written in each part, its formulas worked out and written in as many figures as a student would write. */
function workedOut(
  question: Question,
  seed: AttemptSeed,
  written: Readonly<Record<string, string>>,
): Record<string, string> {
  if (question.kind !== "numeric") return {};
  const { values } = worksOut(question, seed);
  return Object.fromEntries(
    Object.entries(written).map(([part, text]) => {
      if (!/^[=≈]/.test(text)) return [part, text];
      const reading = readFormula(text.slice(1));
      if (!reading.ok) throw new Error(`The demo cannot work out ${text}.`);
      const value = reading.formula.value(values);
      return [part, text.startsWith("≈") ? inFigures(value, 2) : plainWriting(value)];
    }),
  );
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
      ? { parts: workedOut(question, seed, written) }
      : isWrong
        ? wrongAnswerTo(question, seed)
        : rightAnswerTo(question, seed);
    if (answer) answers.set(slot, answer);
  }
  return answers;
}
