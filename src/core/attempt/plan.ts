import type { PresentedQuestion } from "../kinds/answering";
import type { Recording } from "../kinds/kind";
import { present, type Question } from "../kinds/marking";
import { withPictureWords } from "../kinds/picks/content";
import { type Exact, exact, sum } from "../numbers/exact";
import { type AttemptSeed, shuffled } from "../numbers/seeded";
import type { QuizContent, QuizRecording, Section } from "../quiz/quiz-file";

/** One place of an attempt, numbered from 1, with its question. */
export interface Slot {
  readonly slot: number;
  readonly question: Question;
}

/**
 * The questions of an attempt in their order: a pure function of the quiz version and the attempt's seed, so the same
 * on every device, at every reload and at every re-marking.
 */
export function planAttempt(quiz: QuizContent, seed: AttemptSeed): Slot[] {
  const words = new Map(quiz.pictures?.map(({ id, alt }) => [id, alt]));
  const recordings = new Map(quiz.recordings?.map((each) => [each.id, each]));
  const whole = (section: number, question: Question): Question => {
    const stimulus = quiz.sections[section]?.stimulus;
    const recording = recordings.get(question.recording ?? "");
    // A question that nothing is put beside stays itself: what is worked out for it is remembered by it.
    if (words.size === 0 && !stimulus && !recording) return question;
    return {
      ...(words.size > 0 ? withPictureWords(question, words) : question),
      ...(stimulus ? { stimulus: { id: String(section), ...stimulus } } : {}),
      ...(recording ? { recorded: recordedOf(recording) } : {}),
    };
  };
  const drawn = quiz.sections.flatMap((section, index) => {
    const next = seed.chance("section", String(index));
    const { draw, questions } = section;
    if (draw === undefined && !quiz.rules.shuffleQuestions)
      return questions.map((each) => whole(index, each));
    const mixed =
      drawnFrom(section, index, seed) ?? shuffled(questions, next).slice(0, draw ?? questions.length);
    const taken = quiz.rules.shuffleQuestions
      ? mixed
      : questions.filter((question) => mixed.includes(question));
    return taken.map((each) => whole(index, each));
  });
  return drawn.map((question, index) => ({ slot: index + 1, question }));
}

/**
 * The questions of a section in which none shall come twice within some attempts: all of them in an order of the person's
 * own, from which each attempt takes the next ones. So one comes again only once all others have been there. Null: it is
 * drawn by itself.
 */
function drawnFrom(
  { draw, apart, questions }: Section,
  index: number,
  { series }: AttemptSeed,
): Question[] | null {
  if (draw === undefined || apart === undefined || !series || questions.length === 0) return null;
  // By each question's own chance: where one is added or taken out, the order of the others stays.
  const order = questions
    .map((question) => ({ question, at: series.chance("apart", String(index), question.id)() }))
    .sort((a, b) => a.at - b.at);
  return Array.from({ length: Math.min(draw, order.length) }, (_, nth) => {
    const found = order[(series.turn * draw + nth) % order.length];
    return found ? [found.question] : [];
  }).flat();
}

/** What a student gets of a recording besides its bytes. */
const recordedOf = ({ id, kind, title, transcript, aspect }: QuizRecording): Recording => ({
  id,
  kind,
  title,
  transcript,
  ...(aspect === undefined ? {} : { aspect }),
});

/** What the student gets: the questions in order, without keys. Index 0 is slot 1. */
export const presentAttempt = (quiz: QuizContent, seed: AttemptSeed): PresentedQuestion[] =>
  planAttempt(quiz, seed).map(({ question }) => present(question, seed));

/** The marks that an attempt is out of. */
export const maximumOf = (plan: readonly Slot[]): Exact =>
  sum(plan.map(({ question }) => exact(question.marks)));
