import type { PresentedQuestion } from "../kinds/answering";
import type { Recording } from "../kinds/kind";
import { present, type Question } from "../kinds/marking";
import { withPictureWords } from "../kinds/picks/content";
import { type Exact, exact, sum } from "../numbers/exact";
import { type AttemptSeed, shuffled } from "../numbers/seeded";
import type { QuizContent, QuizRecording } from "../quiz/quiz-file";

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
    const mixed = shuffled(questions, next).slice(0, draw ?? questions.length);
    const taken = quiz.rules.shuffleQuestions
      ? mixed
      : questions.filter((question) => mixed.includes(question));
    return taken.map((each) => whole(index, each));
  });
  return drawn.map((question, index) => ({ slot: index + 1, question }));
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
