import { type Question, withMeanings } from "../kinds/marking";
import type { UnitMeanings } from "../numbers/unit-names";
import type { QuizContent } from "../quiz/quiz-file";
import { sameValue } from "../same-value";
import { asOwn, linkedPiece } from "./bank";
import { asWritten } from "./blank";
import { type DraftPiece, headOf, type Pieces, questionsOf } from "./pieces";

const questionsIn = (quiz: QuizContent): Map<string, Question> =>
  new Map(quiz.sections.flatMap(({ questions }) => questions.map((each) => [each.id, each] as const)));

/**
 * What a draft has to take in of its quiz's questions that were put right elsewhere since: those that the draft itself has not
 * changed, as the quiz has them now. A question that both changed stays as the draft has it.
 * @param base the version that the draft was written on
 * @param now the quiz's version as it is now
 * @param meanings what units mean in the course
 */
export function keysFollowed(
  pieces: Pieces,
  base: QuizContent,
  now: QuizContent,
  meanings: UnitMeanings,
): Map<number, DraftPiece> {
  const [then, since] = [questionsIn(base), questionsIn(now)];
  const all = { ...meanings, ...headOf(pieces).unitMeanings };
  const changed = new Map<number, DraftPiece>();
  for (const { slot, question } of questionsOf(pieces)) {
    const [before, after] = [then.get(question.id), since.get(question.id)];
    if (!before || !after || sameValue(before, after)) continue;
    // A version says what units mean in each question; a draft says it once.
    const whole = Object.keys(all).length === 0 ? question : withMeanings(question, all);
    const isUnchanged = [question, whole].some((each) => sameValue(asWritten(each), asWritten(before)));
    const held = pieces.get(slot);
    const bank = held?.piece === "question" ? asOwn(held.bank) : undefined;
    if (isUnchanged) changed.set(slot, linkedPiece(after, bank));
  }
  return changed;
}
