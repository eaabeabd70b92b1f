import * as yup from "yup";
import { deadlineOf } from "@/core/attempt/deadline";
import { planAttempt } from "@/core/attempt/plan";
import { warningsFor } from "@/core/attempt/time-warnings";
import { needIn } from "@/core/gradebook/needed-marks";
import { rangeOnScale, type Scale } from "@/core/gradebook/scales";
import { type Category, courseStanding } from "@/core/gradebook/standing";
import { present, rightAnswerTo } from "@/core/kinds/marking";
import { exactNumber, exactObject } from "@/core/kinds/shapes";
import { type MarkedAttempt, markAttempt, type SlotWork } from "@/core/marking/mark-attempt";
import { type Exact, exact, shown, written } from "@/core/numbers/exact";
import { openSeed } from "@/core/numbers/seeded";
import { quizFileSchema } from "@/core/quiz/json-schema";
import {
  type Mistake,
  type QuizFile,
  questionCount,
  quizMaximum,
  quizWithMeanings,
  readQuizFile,
} from "@/core/quiz/quiz-file";
import { quizWarnings } from "@/core/quiz/quiz-warnings";
import { said } from "@/core/said";
import { MINUTE } from "@/core/time/instants";
import { say, t } from "@/words/t";
import { clockDigits } from "@/words/times";
import { type Arguments, numberOption, UsageProblem } from "./arguments";
import { triedFrom, tryAnswers } from "./try-answers";

/** What a command gets of the world: files. */
export interface World {
  /** @throws UsageProblem when the file cannot be read or is not JSON. */
  readonly readJson: (path: string) => unknown;
  /** @throws UsageProblem when the file cannot be read. */
  readonly readText: (path: string) => string;
}

export interface Outcome {
  readonly code: 0 | 1;
  /** Text, or something to print as JSON. */
  readonly output: unknown;
}

export const listed = (mistakes: readonly Mistake[]) =>
  mistakes.map(({ path, message }) => `${path || t("cli.commands.the-file")}: ${say(message)}`).join("\n");

/** A quiz file that is right, as it is written. @throws UsageProblem with all its mistakes. */
export function quizFileFrom(world: World, path: string | undefined): QuizFile {
  if (!path) throw new UsageProblem(t("cli.commands.name-a-quiz-file"));
  const reading = readQuizFile(world.readJson(path));
  if (!reading.ok)
    throw new UsageProblem(t("cli.commands.has-mistakes", { path, listed: listed(reading.mistakes) }));
  return reading.quiz;
}

/** A quiz file that is right, with what its units mean. @throws UsageProblem with all its mistakes. */
const quizFrom = (world: World, path: string | undefined): QuizFile =>
  quizWithMeanings(quizFileFrom(world, path));

/** `check quiz.json`: all mistakes of a quiz file, and what is right and yet worth another look. */
export function check({ words }: Arguments, world: World): Outcome {
  const [path] = words;
  if (!path) throw new UsageProblem(t("cli.commands.name-a-quiz-file"));
  const reading = readQuizFile(world.readJson(path));
  if (!reading.ok) {
    return {
      code: 1,
      output: t("cli.commands.other-in", {
        mistakesCount: reading.mistakes.length,
        path,
        listed: listed(reading.mistakes),
      }),
    };
  }
  const { quiz } = reading;
  const right = t("cli.commands.is-right-other-marks", {
    path,
    title: quiz.title,
    questionCount: questionCount(quiz),
    quizMaximum: shown(quizMaximum(quiz)),
  });
  const warnings = quizWarnings(quiz);
  return {
    code: 0,
    output:
      warnings.length === 0
        ? right
        : t("cli.commands.worth-a-look", { right, count: warnings.length, listed: listed(warnings) }),
  };
}

/** `schema`: the JSON Schema of a quiz file. */
export const schema = (): Outcome => ({ code: 0, output: quizFileSchema() });

/** `draw quiz.json --seed N`: the attempt as its student would get it. */
export function draw(args: Arguments, world: World): Outcome {
  const quiz = quizFrom(world, args.words[0]);
  const text = args.options.get("seed") ?? "1";
  const seed = openSeed(text);
  const questions = planAttempt(quiz, seed).map(({ slot, question }) => ({
    slot,
    ...present(question, seed),
  }));
  return { code: 0, output: { title: quiz.title, seed: text, questions } };
}

const answersShape = exactObject({
  seed: yup
    .mixed<string | number>((value): value is string | number => ["string", "number"].includes(typeof value))
    .required(said("cli.commands.is-missing-the-seed-that-the")),
  answers: yup.object().required(said("cli.commands.is-missing-an-answer-for-each")),
  checks: yup.object().default(undefined).optional(),
});

function workFrom(value: unknown, slots: number): { seed: string; work: Map<number, SlotWork> } {
  let read: {
    seed: string | number;
    answers: Record<string, unknown>;
    checks?: Record<string, unknown> | undefined;
  };
  try {
    read = answersShape.validateSync(value, { strict: true }) as typeof read;
  } catch (error) {
    throw new UsageProblem(
      t("cli.commands.the-answers-cannot-be-read", { message: (error as Error).message }),
    );
  }
  const work = new Map<number, SlotWork>();
  for (const [key, answer] of Object.entries(read.answers)) {
    const slot = Number(key);
    if (!Number.isInteger(slot) || slot < 1 || slot > slots)
      throw new UsageProblem(t("cli.commands.there-is-no-slot-they-are", { key, slots }));
    const checks = read.checks?.[key];
    work.set(slot, {
      answer,
      ...(Array.isArray(checks)
        ? { checks: checks.map((each: unknown) => ({ answer: each, part: null })) }
        : {}),
    });
  }
  return { seed: String(read.seed), work };
}

/** The marked paper as JSON: figures as people see them, and exact. */
function paperOf(quiz: QuizFile, seed: string, marked: MarkedAttempt) {
  const figure = (value: Exact) => ({ shown: shown(value), exact: written(value) });
  return {
    title: quiz.title,
    seed,
    total: {
      earned: figure(marked.earned),
      awaited: figure(marked.awaited),
      maximum: figure(marked.maximum),
      range: `${shown(marked.earned)} to ${shown(marked.earned.add(marked.awaited))}`,
    },
    questions: marked.slots.map(({ slot, question, refused, marked: each }) => ({
      slot,
      id: question.id,
      kind: question.kind,
      ...(refused ? { refused } : {}),
      state: each.state,
      marks: figure(exact(each.marks)),
      maximum: figure(exact(each.maximum)),
      awaited: figure(exact(each.awaiting)),
      parts: each.parts.map(({ label, written: text, right, state, why, marks, maximum }) => ({
        label,
        written: text,
        right,
        state,
        why,
        marks: shown(marks),
        maximum: shown(maximum),
      })),
    })),
  };
}

/** `mark quiz.json answers.json`, or `mark quiz.json --right --seed N`: the marked paper. */
export function mark(args: Arguments, world: World): Outcome {
  const quiz = quizFrom(world, args.words[0]);
  if (args.options.has("right")) {
    const text = args.options.get("seed") ?? "1";
    const seed = openSeed(text);
    const work = new Map(
      planAttempt(quiz, seed).map(({ slot, question }) => [slot, { answer: rightAnswerTo(question, seed) }]),
    );
    return { code: 0, output: paperOf(quiz, text, markAttempt(quiz, seed, work)) };
  }
  const path = args.words[1];
  if (!path) throw new UsageProblem(t("cli.commands.name-a-file-with-answers-or"));
  const { seed, work } = workFrom(world.readJson(path), questionCount(quiz));
  const marked = markAttempt(quiz, openSeed(seed), work);
  return { code: marked.slots.some(({ refused }) => refused) ? 1 : 0, output: paperOf(quiz, seed, marked) };
}

/** `try quiz.json answers.json`: how answers to single questions are marked; 1 where one earns other marks than it says. */
export function tryOut(args: Arguments, world: World): Outcome {
  const [path, answersPath] = args.words;
  const quiz = quizFrom(world, path);
  if (!answersPath) throw new UsageProblem(t("cli.commands.name-a-file-with-answers"));
  const marks = tryAnswers(quiz, triedFrom(world.readJson(answersPath)));
  return {
    code: marks.some(({ expected }) => expected !== undefined) ? 1 : 0,
    output: { title: quiz.title, marks },
  };
}

/** An instant: ISO, or a time of day such as 10:00 on a nominal day in UTC. */
function instantOption({ options }: Arguments, name: string): number | null {
  const text = options.get(name);
  if (text === undefined) return null;
  const ofDay = /^(\d{1,2})(:\d{2}(?::\d{2})?)$/.exec(text);
  const time = ofDay ? `2000-01-01T${ofDay[1]?.padStart(2, "0")}${ofDay[2]}Z` : text;
  const instant = Date.parse(time);
  if (Number.isNaN(instant)) throw new UsageProblem(t("cli.commands.must-be-a-time-such-as", { name }));
  return instant;
}

/** `deadline --start 10:00 --limit 20 ...`: when an attempt ends, and its time warnings. */
export function deadline(args: Arguments): Outcome {
  const start = instantOption(args, "start");
  if (start === null) throw new UsageProblem(t("cli.commands.say-when-it-starts-start-10"));
  const limitMinutes = args.options.has("limit") ? numberOption(args, "limit", 0) : null;
  const allowance = { factor: numberOption(args, "factor", 1), extraMinutes: numberOption(args, "extra", 0) };
  if (allowance.factor < 1) throw new UsageProblem(t("cli.commands.factor-must-be-1-or-more"));
  if (limitMinutes !== null && limitMinutes <= 0)
    throw new UsageProblem(t("cli.commands.limit-must-be-more-than-0"));
  const ends = deadlineOf({
    start,
    limitMinutes,
    allowance,
    closes: instantOption(args, "closes"),
    closingCuts: !args.options.has("whole-time"),
  });
  const nominal = /^\d{1,2}:/.test(args.options.get("start") ?? "");
  const text = (instant: number) =>
    nominal ? new Date(instant).toISOString().slice(11, 19) : new Date(instant).toISOString();
  const allowed =
    limitMinutes === null ? null : (limitMinutes * allowance.factor + allowance.extraMinutes) * MINUTE;
  return {
    code: 0,
    output: {
      deadline: ends === null ? null : text(ends),
      timeWarnings: allowed === null ? [] : warningsFor(allowed).map(clockDigits),
    },
  };
}

const itemShape = exactObject({
  title: yup.string().strict().min(1).required(),
  maximum: exactNumber(0, 1e9).required(),
  earned: exactNumber(0, 1e9),
  awaited: exactNumber(0, 1e9),
  excused: yup.boolean().strict(),
  over: yup.boolean().strict(),
});

const courseShape = exactObject({
  title: yup.string().strict(),
  missingCountsZero: yup.boolean().strict(),
  scale: yup.mixed<Scale>(),
  categories: yup
    .array()
    .of(
      exactObject({
        title: yup.string().strict().min(1).required(),
        weight: exactNumber(0, 1e6).required(),
        mean: yup.string().strict().oneOf(["by-points", "equal"]),
        dropLowest: yup.number().strict().integer().min(0),
        items: yup.array().of(itemShape).required(),
      }),
    )
    .min(1)
    .required(),
});

type CourseFile = yup.InferType<typeof courseShape>;

function courseFrom(value: unknown): CourseFile {
  try {
    return courseShape.validateSync(value, { strict: true, abortEarly: false });
  } catch (error) {
    const { inner = [], message } = error as yup.ValidationError;
    const said = inner.length > 0 ? inner.map((each) => `${each.path}: ${each.message}`).join("\n") : message;
    throw new UsageProblem(t("cli.commands.the-course-has-mistakes", { said }));
  }
}

const categoriesOf = (course: CourseFile): Category[] =>
  course.categories.map((category) => ({
    id: category.title,
    weight: exact(category.weight),
    mean: category.mean === "equal" ? "equal" : "by-points",
    dropLowest: category.dropLowest ?? 0,
    items: category.items.map((item) => ({
      id: item.title,
      maximum: exact(item.maximum),
      excused: item.excused ?? false,
      over: item.over ?? false,
      mark:
        item.earned === undefined && item.awaited === undefined
          ? null
          : { earned: exact(item.earned ?? 0), awaited: exact(item.awaited ?? 0) },
    })),
  }));

/** `gradebook course.json [--need ITEM --target 80]`: the standing in a course, and what an item needs. */
export function gradebook(args: Arguments, world: World): Outcome {
  const [path] = args.words;
  if (!path) throw new UsageProblem(t("cli.commands.name-a-course-file"));
  const course = courseFrom(world.readJson(path));
  const categories = categoriesOf(course);
  const scale: Scale = course.scale ?? { kind: "per-cent" };
  const options = { missingCountsZero: course.missingCountsZero ?? false };
  const standing = courseStanding(categories, options);
  const said = (low: Exact | null, high: Exact | null) =>
    low && high ? rangeOnScale(low, high, scale) : null;
  const needed = args.options.get("need");
  let need: unknown;
  if (needed !== undefined) {
    if (!categories.some((category) => category.items.some((item) => item.id === needed))) {
      throw new UsageProblem(t("cli.commands.the-course-has-no-item", { needed }));
    }
    const answer = needIn(categories, needed, exact(numberOption(args, "target", 50)).div(100), options);
    need =
      answer.answer === "mark" ? { answer: "mark", marks: shown(answer.marks) } : { answer: answer.answer };
  }
  return {
    code: 0,
    output: {
      markedSoFar: said(standing.markedSoFar, standing.markedSoFar),
      whenEverythingIsMarked: said(standing.low, standing.high),
      stillToCome: `${shown(standing.stillToCome.mul(100))} %`,
      categories: standing.categories.map((each) => ({
        title: each.id,
        markedSoFar: said(each.markedSoFar, each.markedSoFar),
        whenEverythingIsMarked: said(each.low, each.high),
        dropped: [...each.dropped],
      })),
      ...(need === undefined ? {} : { need }),
    },
  };
}
