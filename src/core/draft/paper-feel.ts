import { answering, type KindName } from "../kinds/answering";
import { fieldsOf, STIMULUS_FIELDS } from "../kinds/fields";
import { isSound, present, type Question } from "../kinds/marking";
import { exact } from "../numbers/exact";
import { openSeed } from "../numbers/seeded";
import { type QuizContent, quizMaximum } from "../quiz/quiz-file";
import { type Said, said } from "../said";
import { countWords } from "../text/word-count";
import { MINUTE, SECOND } from "../time/instants";

/** Words that are read in a minute, with care. */
const READ_A_MINUTE = 180;
/** Words that are written in a minute, with thinking. */
const WRITTEN_A_MINUTE = 15;
/** What is expected takes more of the given time than this: who looks things up will not finish. */
const TIGHT = 0.7;
/** Less than this of the given time is expected to be needed: it could be shorter. */
const ROOMY = 0.4;

/** How long is thought about a question beside reading it, where no sitting has told yet; in seconds. */
function thinking(question: Question): number {
  switch (question.kind) {
    case "one-of-several":
      return 30;
    case "several-of-several":
      return 12 * question.options.length;
    case "true-or-false":
      return 20;
    case "short-text":
      return 35;
    case "gaps":
      return 25 * Math.max(1, question.gaps.length);
    case "matching":
      return 18 * question.prompts.length;
    case "ordering":
      return 15 * question.items.length;
    case "numeric":
      return 100 * question.parts.length;
    case "point-on-picture":
      return 25 * Math.max(1, question.regions.length);
    case "essay": {
      const { least, most } = question.words ?? {};
      const words = most !== undefined && least !== undefined ? (least + most) / 2 : (most ?? least ?? 100);
      return (words / WRITTEN_A_MINUTE) * 60;
    }
    case "upload":
      return 8 * 60;
    case "declaration":
      return 5;
  }
}

const SEED = openSeed("feel");

/** The words of a question that a student reads. */
function wordsIn(question: Question): number {
  if (!isSound(question, SEED)) return countWords(question.text);
  // What is presented, so that no word of a key or of feedback is counted.
  const presented = present(question, SEED);
  const { fields } = answering(presented.kind);
  return ["rich" as const, "plain" as const]
    .flatMap((use) => fieldsOf(presented, fields, use))
    .reduce((sum, text) => sum + countWords(text), 0);
}

/** How a paper will feel to who takes it: times in milliseconds, pace, and of what it is made. */
export interface PaperFeel {
  /** Of one attempt, as everything here. */
  readonly questions: number;
  readonly words: number;
  readonly reading: number;
  /** From past sittings where there were some, else by kind. */
  readonly expected: number;
  /** How many of the questions are expected by past sittings. */
  readonly fromPast: number;
  /** What is given to everyone; null: no limit. */
  readonly given: number | null;
  /** Null: no limit. */
  readonly marksPerMinute: number | null;
  /** The share of all marks that each kind has, the greatest first. */
  readonly kinds: readonly { readonly kind: KindName; readonly questions: number; readonly share: number }[];
  /** What is to be thought of; null: nothing. */
  readonly warning: Said | null;
}

/** What one question adds: its words, and how long it takes, reading included. */
const once = new WeakMap<Question, { readonly words: number; readonly thinking: number }>();

function addedBy(question: Question) {
  const known = once.get(question) ?? { words: wordsIn(question), thinking: thinking(question) };
  once.set(question, known);
  return known;
}

/**
 * How a paper will feel. Of a section that is drawn from, a question counts as often as it will be drawn.
 * @param limit the time limit in minutes; undefined: none
 * @param past of each question that was taken before, the median time in milliseconds
 */
export function paperFeel(
  content: QuizContent,
  limit: number | undefined,
  past: ReadonlyMap<string, number> = new Map(),
): PaperFeel {
  let words = 0;
  let expected = 0;
  let questions = 0;
  let fromPast = 0;
  const maximum = quizMaximum(content).valueOf();
  const kinds = new Map<KindName, { questions: number; marks: number }>();
  for (const section of content.sections) {
    const { draw, stimulus } = section;
    const often = draw === undefined ? 1 : draw / Math.max(1, section.questions.length);
    const above = stimulus
      ? fieldsOf(stimulus, STIMULUS_FIELDS, "rich").reduce((sum, text) => sum + countWords(text), 0)
      : 0;
    words += above;
    expected += (above / READ_A_MINUTE) * MINUTE;
    for (const question of section.questions) {
      const added = addedBy(question);
      const known = past.get(question.id);
      words += added.words * often;
      expected += (known ?? (added.words / READ_A_MINUTE) * MINUTE + added.thinking * SECOND) * often;
      if (question.kind === "declaration") continue;
      questions += often;
      if (known !== undefined) fromPast += often;
      const own = kinds.get(question.kind) ?? { questions: 0, marks: 0 };
      own.questions += often;
      own.marks += exact(question.marks).valueOf() * often;
      kinds.set(question.kind, own);
    }
  }
  const given = limit === undefined ? null : limit * MINUTE;
  const total = [...kinds.values()].reduce((sum, { marks }) => sum + marks, 0);
  return {
    questions: Math.round(questions),
    words: Math.round(words),
    reading: (words / READ_A_MINUTE) * MINUTE,
    expected,
    fromPast: Math.round(fromPast),
    given,
    marksPerMinute: given === null || given === 0 ? null : maximum / (given / MINUTE),
    kinds: [...kinds]
      .map(([kind, own]) => ({
        kind,
        questions: Math.round(own.questions),
        share: total === 0 ? 0 : own.marks / total,
      }))
      .sort((a, b) => b.share - a.share),
    warning: warningOf(Math.round(questions), expected, given),
  };
}

function warningOf(questions: number, expected: number, given: number | null): Said | null {
  if (given === null || questions === 0) return null;
  const terms = { questions, minutes: Math.round(given / MINUTE), expected: Math.round(expected / MINUTE) };
  if (expected > given) return said("draft.paper-feel.most-will-not-finish", terms);
  if (expected > given * TIGHT) return said("draft.paper-feel.who-looks-things-up-will-not-finish", terms);
  if (expected < given * ROOMY) return said("draft.paper-feel.there-is-much-time-left", terms);
  return null;
}
