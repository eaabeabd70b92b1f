import { NEW_RULES } from "../draft/pieces";
import { given } from "../given";
import type { Question } from "../kinds/marking";
import { agreed } from "../kinds/trusted-type";
import { type Mistake, type QuizFile, questionMistakes, type Section } from "../quiz/quiz-file";
import { said } from "../said";
import { sameValue } from "../same-value";
import { type Block, blocksIn, type Field, type FieldWord, fieldLines, jsonIn } from "./blocks";
import { asLines, asRich } from "./plain-text";
import { type LineMistake, readQuestion } from "./read-question";
import { writtenQuestion } from "./write-question";

/** What stands above the questions of a text in the plain form. */
export type PlainHead = Partial<Omit<QuizFile, "format" | "version" | "sections">>;

/** A text in the plain form as it was read. It may be used where there are no mistakes. */
export interface PlainReading {
  /** Null: there is none. */
  readonly head: PlainHead | null;
  /** Its questions are named "q1", "q2" and so on. */
  readonly sections: readonly Section[];
  readonly questions: number;
  readonly mistakes: readonly LineMistake[];
}

const HEAD_WORDS: readonly FieldWord[] = ["quiz", "language", "brief", "reference", "json"];
const SECTION_WORDS: readonly FieldWord[] = ["section", "draw", "about", "json"];
/** Who pastes more has pasted something else. */
export const MOST_QUESTIONS = 500;

interface Frame {
  readonly mistakes: LineMistake[];
  readonly value: (word: FieldWord) => string | undefined;
  readonly rich: (word: FieldWord) => string | undefined;
  readonly json: () => object;
}

/** A block of which every line is one of a few fields. */
function frameOf({ text, fields, line }: Block, words: readonly FieldWord[], of: FieldWord): Frame {
  const mistakes: LineMistake[] = [];
  const known = new Map<FieldWord, Field>();
  if (text.length > 0)
    mistakes.push({ line, words: said("plain-form.plain-form.an-empty-line-comes-first", { word: of }) });
  for (const field of fields) {
    if (!words.includes(field.word))
      mistakes.push({
        line: field.line,
        words: said("plain-form.read-question.does-not-belong-here", { word: field.word, of }),
      });
    else if (known.has(field.word))
      mistakes.push({
        line: field.line,
        words: said("plain-form.read-question.stands-once", { word: field.word }),
      });
    known.set(field.word, field);
  }
  const filled = (word: FieldWord) => {
    const field = known.get(word);
    return field && field.lines.length > 0 ? field : undefined;
  };
  return {
    mistakes,
    value: (word) => filled(word)?.lines.join(" "),
    rich: (word) => {
      const field = filled(word);
      return field && asRich(field.lines);
    },
    json: () => {
      const field = known.get("json");
      if (!field) return {};
      const value = jsonIn(field);
      if (value === null)
        mistakes.push({ line: field.line, words: said("plain-form.plain-form.json-holds-fields") });
      return value ?? {};
    },
  };
}

/** The line that a mistake of a question is on: of the longest place that is known. */
function lineOf({ path }: Mistake, lines: ReadonlyMap<string, number>, otherwise: number): number {
  let [found, length] = [otherwise, -1];
  for (const [place, line] of lines)
    if (path.startsWith(place) && place.length > length) [found, length] = [line, place.length];
  return found;
}

/**
 * Reads a text in the plain form (`docs/plain-form.md`), with every mistake by its line: those of the form, and those that a
 * check of quiz files finds in each question.
 * @example readPlain("It ebbs.\nanswer: true").questions → 1
 */
export function readPlain(text: string): PlainReading {
  const mistakes: LineMistake[] = [];
  const sections: { frame: Omit<Section, "questions">; questions: Question[]; line: number }[] = [];
  let head: PlainHead | null = null;
  let count = 0;
  for (const [i, block] of blocksIn(text).entries()) {
    for (const line of block.stray)
      mistakes.push({ line, words: said("plain-form.plain-form.goes-on-with-nothing") });
    const [begins] = block.fields;
    if (begins?.word === "quiz") {
      const frame = frameOf(block, HEAD_WORDS, "quiz");
      if (i > 0)
        mistakes.push({ line: begins.line, words: said("plain-form.plain-form.the-head-stands-first") });
      head = {
        title: frame.value("quiz") ?? "",
        ...given({
          language: frame.value("language"),
          brief: frame.rich("brief"),
          reference: frame.rich("reference"),
        }),
        ...frame.json(),
      };
      mistakes.push(...frame.mistakes);
    } else if (begins?.word === "section") {
      const frame = frameOf(block, SECTION_WORDS, "section");
      const about = frame.rich("about");
      const drawn = frame.value("draw");
      if (drawn !== undefined && !/^[1-9]\d{0,3}$/.test(drawn))
        frame.mistakes.push({ line: block.line, words: said("plain-form.plain-form.draw-is-a-number") });
      sections.push({
        frame: {
          ...given({
            title: frame.value("section"),
            stimulus: about === undefined ? undefined : { text: about },
            draw: drawn === undefined ? undefined : Number(drawn),
          }),
          ...frame.json(),
        },
        questions: [],
        line: block.line,
      });
      mistakes.push(...frame.mistakes);
    } else {
      count += 1;
      const read = readQuestion(block);
      mistakes.push(...read.mistakes);
      const question = { ...read.question, id: `q${count}` };
      // A line that could not be read is told once.
      const told = new Set(read.mistakes.map(({ line }) => line));
      if (read.question !== null && block.doubtful.length === 0)
        for (const each of questionMistakes(question, "")) {
          const line = lineOf(each, read.lines, block.line);
          if (!told.has(line)) mistakes.push({ line, words: each.message });
        }
      if (sections.length === 0) sections.push({ frame: {}, questions: [], line: block.line });
      sections.at(-1)?.questions.push(agreed<Question>(question));
    }
  }
  if (count > MOST_QUESTIONS)
    mistakes.push({
      line: 1,
      words: said("plain-form.plain-form.too-many", { most: MOST_QUESTIONS, count }),
    });
  for (const { frame, questions, line } of sections) {
    if (questions.length === 0)
      mistakes.push({ line, words: said("plain-form.plain-form.a-section-without-questions") });
    else if (frame.draw !== undefined && frame.draw > questions.length)
      mistakes.push({ line, words: said("quiz.quiz-file.draw-must-not-be-more-than") });
  }
  return {
    head,
    sections: sections.map(({ frame, questions }) => ({ ...frame, questions })),
    questions: count,
    mistakes: mistakes.sort((a, b) => a.line - b.line),
  };
}

/** Lines of fields, with what they have no word for as JSON. */
function writtenFrame(
  fields: readonly (readonly [FieldWord, string | undefined, isRich?: boolean])[],
  rest: object,
): string {
  const left = JSON.parse(JSON.stringify(rest)) as object;
  return [
    ...fields.flatMap(([word, value, isRich]) =>
      value === undefined ? [] : fieldLines(word, "", isRich ? asLines(value) : [value]),
    ),
    ...(Object.keys(left).length === 0 ? [] : fieldLines("json", "", [JSON.stringify(left)])),
  ].join("\n");
}

/** Questions in the plain form, an empty line between them. */
export const writtenQuestions = (questions: readonly Question[]): string =>
  questions.map(writtenQuestion).join("\n\n");

function writtenSection({ questions, title, draw, stimulus, ...rest }: Section): string {
  const isPlain =
    stimulus === undefined || (Object.keys(given(stimulus)).length === 1 && stimulus.text !== "");
  const frame = writtenFrame(
    [
      ["section", title ?? ""],
      ["draw", draw === undefined ? undefined : String(draw)],
      ["about", isPlain ? stimulus?.text : undefined, true],
    ],
    isPlain ? rest : { ...rest, stimulus },
  );
  return [frame, writtenQuestions(questions)].join("\n\n");
}

/** A whole quiz in the plain form, of which `quizOfPlain` makes the same again. */
export function writtenQuiz(quiz: QuizFile): string {
  const { format: _, version: __, title, language, brief, reference, rules, sections, ...rest } = quiz;
  const head = writtenFrame(
    [
      ["quiz", title],
      ["language", language],
      ["brief", brief, true],
      ["reference", reference, true],
    ],
    sameValue(rules, NEW_RULES) ? rest : { rules, ...rest },
  );
  const [only] = sections;
  const isBare = sections.length === 1 && only && Object.keys(given(only)).length === 1;
  const body = isBare ? [writtenQuestions(only.questions)] : sections.map(writtenSection);
  return `${[head, ...body].join("\n\n")}\n`;
}

/** What was read as a quiz file, with the usual rules where it names none. */
export const quizOfPlain = ({ head, sections }: PlainReading): QuizFile => ({
  format: "shizuka-quiz",
  version: 1,
  title: "",
  rules: NEW_RULES,
  ...head,
  sections,
});
