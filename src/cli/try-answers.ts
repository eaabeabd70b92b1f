import * as yup from "yup";
import { type Answer, answering } from "@/core/kinds/answering";
import { markQuestion, present, type Question } from "@/core/kinds/marking";
import { exactObject } from "@/core/kinds/shapes";
import { exact, shown } from "@/core/numbers/exact";
import { type AttemptSeed, openSeed } from "@/core/numbers/seeded";
import type { QuizFile } from "@/core/quiz/quiz-file";
import { said } from "@/core/said";
import { say, t } from "@/words/t";
import { UsageProblem } from "./arguments";

/** A file of answers to single questions, by the questions' ids; options, prompts, targets and items by theirs. */
export interface TriedAnswers {
  readonly questions: Readonly<Record<string, TriedQuestion>>;
}

export interface TriedQuestion {
  /** The values of its variables; those that are not given are drawn. */
  readonly given?: Readonly<Record<string, string>> | undefined;
  readonly answers: readonly {
    readonly answer: unknown;
    /** What it should earn. */
    readonly marks?: number | string | undefined;
  }[];
}

const triedShape = exactObject({
  questions: yup.object().required(said("cli.try-answers.is-missing-the-questions")),
});
const questionShape = exactObject({
  given: yup.object(),
  answers: yup
    .array()
    .of(exactObject({ answer: yup.mixed().nullable().defined(), marks: yup.mixed() }))
    .min(1)
    .required(said("cli.try-answers.is-missing-the-answers")),
});

/** @throws UsageProblem when the file is not one of tried answers. */
export function triedFrom(value: unknown): TriedAnswers {
  try {
    triedShape.validateSync(value, { strict: true });
    const { questions } = value as TriedAnswers;
    for (const question of Object.values(questions)) questionShape.validateSync(question, { strict: true });
    return { questions };
  } catch (error) {
    throw new UsageProblem(
      t("cli.commands.the-answers-cannot-be-read", { message: (error as Error).message }),
    );
  }
}

/** A seed with which everything keeps the name that its author gave it. */
const plainSeed: AttemptSeed = { ...openSeed("1"), name: (_, thing) => thing };

/** A question whose variables have these values. */
const withValues = (question: Question, given: Readonly<Record<string, string>>): Question =>
  "variables" in question && question.variables
    ? {
        ...question,
        variables: question.variables.map((each) =>
          given[each.name] === undefined ? each : { name: each.name, list: [given[each.name] ?? ""] },
        ),
      }
    : question;

/** How one answer was marked. */
export interface TriedMark {
  readonly question: string;
  readonly answer: unknown;
  readonly marks: string;
  readonly maximum: string;
  /** What it should earn, where that is something else. */
  readonly expected?: string;
  readonly parts: readonly { readonly written: string; readonly why: string; readonly feedback?: string }[];
}

function tryAnswer(question: Question, raw: unknown, expected: number | string | undefined): TriedMark {
  const reading = answering(question.kind).readAnswer(present(question, plainSeed), raw);
  if (!reading.ok)
    throw new UsageProblem(
      t("cli.try-answers.does-not-fit", { id: question.id, problem: say(reading.problem) }),
    );
  const marked = markQuestion(question, plainSeed, reading.answer as Answer | null);
  const isOther = expected !== undefined && !exact(marked.marks).equals(exact(expected));
  return {
    question: question.id,
    answer: raw,
    marks: shown(marked.marks),
    maximum: shown(marked.maximum),
    ...(isOther ? { expected: shown(exact(expected)) } : {}),
    parts: marked.parts.map(({ written, why, feedback }) => ({
      written: say(written),
      why: say(why),
      ...(feedback ? { feedback } : {}),
    })),
  };
}

/**
 * How answers to single questions are marked.
 * @throws UsageProblem for a question that the quiz has not, and for an answer that does not fit its question
 */
export function tryAnswers(quiz: QuizFile, tried: TriedAnswers): TriedMark[] {
  const questions = new Map(
    quiz.sections.flatMap((section) => section.questions.map((each) => [each.id, each] as const)),
  );
  return Object.entries(tried.questions).flatMap(([id, { given = {}, answers }]) => {
    const found = questions.get(id);
    if (!found) throw new UsageProblem(t("cli.try-answers.there-is-no-question", { id }));
    const question = withValues(found, given);
    return answers.map(({ answer, marks }) => tryAnswer(question, answer, marks));
  });
}
