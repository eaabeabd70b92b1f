import * as yup from "yup";
import { KIND_NAMES, type KindName } from "../kinds/answering";
import type { Corrections } from "../kinds/correction";
import { fieldsOf } from "../kinds/fields";
import type { Recording } from "../kinds/kind";
import { marking, type Question, withMeanings } from "../kinds/marking";
import { exactObject, identifier, languageTag, richText, uniqueBy } from "../kinds/shapes";
import { unitMeaningsShape } from "../kinds/unit-meanings-shape";
import { type Exact, exact, sum, ZERO } from "../numbers/exact";
import type { UnitMeanings } from "../numbers/unit-names";
import { type Said, said } from "../said";
import { asWorkedWith } from "./file-versions";
import { type DeskRules, type QuizRules, type QuizSettings, splitRules } from "./rules";
import { rulesShape } from "./rules-shape";

/** Some questions under one title; with `draw`, that many of them are taken for each attempt. */
export interface Section {
  readonly title?: string | undefined;
  /** What all its questions are about: shown with each of them. */
  readonly stimulus?: { readonly text: string; readonly figure?: string | undefined } | undefined;
  readonly draw?: number | undefined;
  /** Within so many attempts of one person no question is drawn twice, where there are enough. */
  readonly apart?: number | undefined;
  readonly questions: readonly Question[];
}

/** A picture of the quiz, embedded or beside the file. */
export interface Picture {
  readonly id: string;
  /** For who does not see it; must not give an answer away. */
  readonly alt: string;
  /** A data address: data:image/png;base64,... */
  readonly data?: string | undefined;
  /** The name of a file beside this one. */
  readonly file?: string | undefined;
}

/** A sound or a film of the quiz, embedded or beside the file. */
export interface QuizRecording extends Recording {
  /** A data address: data:audio/wav;base64,... */
  readonly data?: string | undefined;
  /** The name of a file beside this one. */
  readonly file?: string | undefined;
}

/** Everything of a quiz but where and when it is set, as it is worked with: `file-versions.ts` reads what is in the file, `as-file.ts` writes it. */
export interface QuizFile {
  readonly format: "shizuka-quiz";
  readonly version: 1;
  readonly title: string;
  /** The language of its texts, as a tag (BCP 47): "en", "ja"; absent: the institution's own. */
  readonly language?: string | undefined;
  /** The instructor's words before the start; rich text. */
  readonly brief?: string | undefined;
  readonly rules: QuizRules;
  /** The reference sheet beside the question; rich text. */
  readonly reference?: string | undefined;
  readonly pictures?: readonly Picture[] | undefined;
  readonly recordings?: readonly QuizRecording[] | undefined;
  /** What unit symbols mean in all its questions beyond the usual, before what the course says. */
  readonly unitMeanings?: UnitMeanings | undefined;
  readonly sections: readonly Section[];
}

/** The content of one version: the questions with their keys, and how they are taken. The quiz's settings are its own. */
export type QuizContent = Omit<QuizFile, "rules" | "unitMeanings"> & {
  readonly rules: DeskRules;
  /** What was put right in the marking since it was assigned; never part of its file. */
  readonly corrections?: Corrections | undefined;
};

/**
 * A quiz file as it is kept: what belongs to a version, and what belongs to the quiz. What units mean is fixed here, so
 * that a version is marked alike for ever, whatever its course says later.
 * @param meanings what units mean in the course
 */
export function splitFile(
  file: QuizFile,
  meanings: UnitMeanings = {},
): {
  readonly content: QuizContent;
  readonly settings: QuizSettings;
} {
  const { settings, desk } = splitRules(file.rules);
  const { unitMeanings: _, ...fixed } = quizWithMeanings(file, meanings);
  return { content: { ...fixed, rules: desk }, settings };
}

/** A quiz whose questions each say what their units mean: the question before the quiz, the quiz before the course. */
export function quizWithMeanings(file: QuizFile, meanings: UnitMeanings = {}): QuizFile {
  const all = { ...meanings, ...file.unitMeanings };
  if (Object.keys(all).length === 0) return file;
  return {
    ...file,
    sections: file.sections.map((section) => ({
      ...section,
      questions: section.questions.map((question) => withMeanings(question, all)),
    })),
  };
}

export interface Mistake {
  /** Where: "sections[0].questions[2].marks". */
  readonly path: string;
  /** What would be right. */
  readonly message: Said;
}

export type QuizReading =
  | { readonly ok: true; readonly quiz: QuizFile }
  | { readonly ok: false; readonly mistakes: readonly Mistake[] };

const pictureShape = exactObject({
  id: identifier(),
  alt: yup.string().strict().max(1000).defined(said("quiz.quiz-file.is-missing-what-the-picture-shows")),
  data: yup
    .string()
    .strict()
    .max(8_000_000)
    .matches(/^data:image\/(png|jpeg|gif|webp|svg\+xml);base64,[A-Za-z0-9+/]+=*$/, {
      message: said("quiz.quiz-file.must-be-a-data-address-of"),
    }),
  file: yup
    .string()
    .strict()
    .matches(/^[\w][\w .-]{0,199}\.(png|jpe?g|gif|webp|svg)$/i, {
      message: said("quiz.quiz-file.must-be-the-plain-name-of"),
    }),
}).test(
  "one",
  said("quiz.quiz-file.must-have-either-data-or-file"),
  ({ data, file }) => (data === undefined) !== (file === undefined),
);

const recordingShape = exactObject({
  id: identifier(),
  kind: yup.string().strict().oneOf(["sound", "film"]).required(),
  title: yup.string().strict().trim().min(1).max(200).required(),
  transcript: richText().required(said("quiz.quiz-file.is-missing-what-is-heard")),
  aspect: yup.number().strict().min(0.1).max(10),
  data: yup
    .string()
    .strict()
    .max(12_000_000)
    .matches(/^data:(audio\/(wav|mpeg|ogg|mp4)|video\/(webm|mp4));base64,[A-Za-z0-9+/]+=*$/, {
      message: said("quiz.quiz-file.must-be-a-data-address-of-a-recording"),
    }),
  file: yup
    .string()
    .strict()
    .matches(/^[\w][\w .-]{0,199}\.(wav|mp3|ogg|m4a|webm|mp4)$/i, {
      message: said("quiz.quiz-file.must-be-the-plain-name-of-a-recording"),
    }),
})
  .test(
    "one",
    said("quiz.quiz-file.must-have-either-data-or-file"),
    ({ data, file }) => (data === undefined) !== (file === undefined),
  )
  .test(
    "aspect",
    said("quiz.quiz-file.must-have-the-aspect-of-a-film"),
    ({ kind, aspect }) => kind !== "film" || aspect !== undefined,
  );

/** Everything but the questions, whose shapes belong to their kinds. */
export const quizFrame = exactObject({
  format: yup
    .string()
    .strict()
    .oneOf(["shizuka-quiz"], said("quiz.quiz-file.must-be-shizuka-quiz"))
    .required(),
  version: yup.number().strict().oneOf([1], said("quiz.quiz-file.must-be-1-or-2")).required(),
  title: yup.string().strict().trim().min(1).max(200).required(),
  language: languageTag().optional(),
  brief: richText(),
  rules: rulesShape.required(),
  reference: richText(),
  unitMeanings: unitMeaningsShape(),
  pictures: yup
    .array()
    .of(pictureShape)
    .max(500)
    .test("ids", said("quiz.quiz-file.must-be-pictures-with-different-ids"), uniqueBy("id")),
  recordings: yup
    .array()
    .of(recordingShape)
    .max(100)
    .test("ids", said("quiz.quiz-file.must-be-recordings-with-different-ids"), uniqueBy("id")),
  sections: yup
    .array()
    .of(
      exactObject({
        title: yup.string().strict().max(200),
        stimulus: exactObject({
          text: richText().required(said("quiz.quiz-file.is-missing-its-text")),
          figure: identifier().optional(),
        })
          .default(undefined)
          .optional(),
        draw: yup.number().strict().integer().min(1),
        apart: yup.number().strict().integer().min(2).max(100),
        questions: yup
          .array()
          .min(1, said("quiz.quiz-file.must-have-at-least-one-question"))
          .max(1000)
          .required(),
      })
        .test(
          "draw",
          said("quiz.quiz-file.draw-must-not-be-more-than"),
          (section) => section.draw === undefined || section.draw <= (section.questions ?? []).length,
        )
        .test(
          "apart",
          said("quiz.quiz-file.apart-goes-with-a-draw"),
          (section) => section.apart === undefined || section.draw !== undefined,
        )
        .test(
          "same-marks",
          said("quiz.quiz-file.the-questions-of-a-section-with"),
          (section) =>
            section.draw === undefined ||
            new Set(
              (section.questions ?? []).map((question) => String((question as { marks?: unknown })?.marks)),
            ).size <= 1,
        ),
    )
    .min(1, said("quiz.quiz-file.must-have-at-least-one-section"))
    .max(100)
    .required(),
});

/** What a mistake says: a sentence of ours, or what its author's program said. */
const messageOf = ({ errors }: yup.ValidationError): Said => (errors[0] as Said | undefined) ?? "";

function mistakesOf(schema: yup.AnySchema, value: unknown, at = ""): Mistake[] {
  try {
    schema.validateSync(value, { abortEarly: false, strict: true });
    return [];
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    const errors = error.inner.length > 0 ? error.inner : [error];
    return errors.map((each) => ({
      path: [at, each.path].filter(Boolean).join("."),
      message: messageOf(each),
    }));
  }
}

/** What is wrong with a question by itself. @param at where it stands, to begin each path with; "": by itself */
export function questionMistakes(question: unknown, at: string): Mistake[] {
  const kind = (question as { kind?: unknown } | null)?.kind;
  if (typeof kind !== "string" || !KIND_NAMES.includes(kind as KindName)) {
    return [
      {
        path: [at, "kind"].filter(Boolean).join("."),
        message: said("quiz.quiz-file.must-be-one-of", { names: KIND_NAMES.join(", ") }),
      },
    ];
  }
  return mistakesOf(marking(kind as KindName).shape, question, at);
}

/** Every picture in a question must be the id of one of the quiz's pictures. */
function pictureMistakes(question: unknown, at: string, pictures: ReadonlySet<unknown>): Mistake[] {
  const kind = (question as { kind?: unknown } | null)?.kind;
  if (typeof kind !== "string" || !KIND_NAMES.includes(kind as KindName)) return [];
  return fieldsOf(question, marking(kind as KindName).fields, "picture")
    .filter((id) => !pictures.has(id))
    .map((id) => ({
      path: at,
      message: said("quiz.quiz-file.must-show-pictures-by-the-ids", { id }),
    }));
}

/** The ids of what is listed in a field of the file, as far as there are any. */
function namesOf(value: unknown, field: "pictures" | "recordings"): unknown[] {
  const listed = (value as Record<string, unknown> | null)?.[field];
  return (Array.isArray(listed) ? listed : []).map((each) => (each as { id?: unknown } | null)?.id);
}

/**
 * Everything that is wrong with a quiz file, each with its place.
 * @param ofQuestion what is wrong with a question by itself, with its place; for who remembers it
 */
export function quizMistakes(value: unknown, ofQuestion = questionMistakes): Mistake[] {
  const mistakes = mistakesOf(quizFrame, value);
  const sections = (value as { sections?: unknown } | null)?.sections;
  const pictures = new Set(namesOf(value, "pictures"));
  const recorded = new Set(namesOf(value, "recordings"));
  const seen = new Set<string>();
  for (const [i, section] of (Array.isArray(sections) ? sections : []).entries()) {
    const { questions, stimulus } = (section ?? {}) as {
      questions?: unknown;
      stimulus?: { figure?: unknown };
    };
    if (stimulus?.figure !== undefined && !pictures.has(stimulus.figure))
      mistakes.push({
        path: `sections[${i}].stimulus.figure`,
        message: said("quiz.quiz-file.must-show-pictures-by-the-ids", { id: String(stimulus.figure) }),
      });
    for (const [j, question] of (Array.isArray(questions) ? questions : []).entries()) {
      const at = `sections[${i}].questions[${j}]`;
      mistakes.push(...ofQuestion(question, at));
      const id = String((question as { id?: unknown } | null)?.id);
      if (seen.has(id))
        mistakes.push({
          path: `${at}.id`,
          message: said("quiz.quiz-file.must-be-different-from-every-other", { id }),
        });
      seen.add(id);
      mistakes.push(...pictureMistakes(question, at, pictures));
      const recording = (question as { recording?: unknown } | null)?.recording;
      if (recording !== undefined && !recorded.has(recording))
        mistakes.push({
          path: `${at}.recording`,
          message: said("quiz.quiz-file.must-name-one-of-the-recordings", { id: String(recording) }),
        });
    }
  }
  return mistakes;
}

/**
 * Reads a quiz file of either version. It is taken whole or refused with every mistake and its place; nothing is half-read.
 * @example readQuizFile(7).ok → false
 */
export function readQuizFile(value: unknown): QuizReading {
  const { file, misplaced, placeOf } = asWorkedWith(value);
  const mistakes = [
    ...misplaced,
    ...quizMistakes(file).map(({ path, message }) => ({ path: placeOf(path), message })),
  ];
  return mistakes.length > 0 ? { ok: false, mistakes } : { ok: true, quiz: file as QuizFile };
}

/** How many declarations every attempt has: they stand apart from questions, marks and paces. */
export const declarationCount = (quiz: QuizContent): number =>
  quiz.sections.reduce(
    (count, { draw, questions }) =>
      count + (draw === undefined ? questions.filter(({ kind }) => kind === "declaration").length : 0),
    0,
  );

/** How many slots an attempt has: its questions, and its declarations. */
export function questionCount(quiz: QuizContent): number {
  return quiz.sections.reduce((count, section) => count + (section.draw ?? section.questions.length), 0);
}

/** The marks that every attempt is out of: those of the drawn questions, which are worth the same within a section. */
export function quizMaximum(quiz: QuizContent): Exact {
  return sum(
    quiz.sections.map(({ draw, questions }) => {
      const all = questions.map((question) => exact(question.marks));
      return draw === undefined ? sum(all) : (all[0] ?? ZERO).mul(draw);
    }),
  );
}

/** How many questions of an attempt a person marks; of a section that is drawn from, the most that it can be. */
export function questionsByHand(quiz: QuizContent): number {
  return quiz.sections.reduce((count, { draw, questions }) => {
    const byHand = questions.filter(({ kind }) => marking(kind).byHand).length;
    return count + Math.min(byHand, draw ?? byHand);
  }, 0);
}
