import { attemptsLeft as leftOf } from "@/core/attempt/attempts-left";
import type { CountingTotals } from "@/core/attempt/late";
import { type CountedMark, countedMark } from "@/core/gradebook/counts";
import { markFigure } from "@/core/marking/mark-words";
import { type Exact, exact } from "@/core/numbers/exact";
import { t } from "@/words/t";
import { countingOf } from "./counting-totals";
import { type QuizOfPerson, revelationsOf } from "./quizzes-of-person";

/** How many attempts are left to this student; null: as many as one likes. */
export const attemptsLeft = ({ allowed, attempts }: Pick<QuizOfPerson, "allowed" | "attempts">) =>
  leftOf(allowed, attempts.length);

/** The total of an attempt as its student may see it now: a figure, or when it will be shown. */
export function totalOf(
  item: QuizOfPerson,
  row: QuizOfPerson["attempts"][number],
): { readonly figure: string | null; readonly words: string } {
  const reveal = revelationsOf(item, row);
  if (!reveal.total.visible)
    return { figure: null, words: t("server.reveal.counting-attempts.mark", { when: reveal.total.when }) };
  return { figure: markFigure({ ...countingOf(item, row), maximum: row.maximum }), words: "" };
}

/** Which of the handed-in attempts make the mark, as far as it may be shown now. */
export interface Counting {
  /** Handed-in attempts whose total is shown, in the order of their numbers. */
  readonly visible: readonly QuizOfPerson["attempts"][number][];
  readonly totals: readonly CountingTotals[];
  /** Null while a total is not shown, or without an attempt. */
  readonly counted: CountedMark | null;
}

/** @param maximum what the mark is out of: that of the gradebook's item, or else the quiz's own. */
export function countingAttempts(item: QuizOfPerson, maximum: Exact = exact(item.facts.maximum)): Counting {
  const handedIn = item.attempts.filter((each) => each.handedInAt !== null);
  const visible = handedIn.filter((each) => revelationsOf(item, each).total.visible);
  const totals = visible.map((each) => countingOf(item, each));
  const counted =
    visible.length === handedIn.length ? countedMark(item.quiz.settings.counts, totals, maximum) : null;
  return { visible, totals, counted };
}
