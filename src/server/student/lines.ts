import { attemptsLeft as leftOf } from "@/core/attempt/attempts-left";
import { hasMoreTime, timeAllowed } from "@/core/attempt/deadline";
import type { CountingTotals } from "@/core/attempt/late";
import { type CountedMark, countedMark } from "@/core/gradebook/counts";
import { markFigure } from "@/core/marking/mark-words";
import { type Exact, exact } from "@/core/numbers/exact";
import { said } from "@/core/said";
import type { Instant } from "@/core/time/instants";
import { t } from "@/words/t";
import { fromNow, lengthInWords, nearDay } from "@/words/times";
import { countingOf } from "./counting";
import { type QuizOfPerson, revelationsOf } from "./quizzes-of";

export const COUNTS_WORDS = {
  best: said("student.lines.best-counts"),
  latest: said("student.lines.latest-counts"),
  first: said("student.lines.first-counts"),
  mean: said("student.lines.their-mean-counts"),
} as const;

/** "20 min", "30 min for you", "no time limit". */
export function limitWords({ quiz, allowance }: Pick<QuizOfPerson, "quiz" | "allowance">): string {
  const allowed = timeAllowed(quiz.settings.timeLimit ?? null, allowance);
  if (allowed === null) return t("student.lines.no-time-limit");
  const limit = lengthInWords(allowed);
  return hasMoreTime(allowance) ? t("student.lines.limit-for-you", { limit }) : limit;
}

/** "1 attempt", "best of 2", "unlimited attempts". */
export function attemptsWords({ quiz, allowed }: Pick<QuizOfPerson, "quiz" | "allowed">): string {
  if (allowed === null) return t("student.lines.unlimited");
  return allowed === 1
    ? t("student.lines.1-attempt")
    : t(`student.lines.of-${quiz.settings.counts}`, { allowed });
}

/** Until when an attempt can still be started, which is not how long one lasts; null where none can be started now. */
export function startUntilWords(
  { standing, window }: Pick<QuizOfPerson, "standing" | "window">,
  now: Instant,
  zone: string,
): string | null {
  if (!standing.mayStart) return null;
  return window.closes === null
    ? t("student.lines.can-be-started-at-any-time")
    : t("student.lines.can-be-started-until", {
        nearDay: nearDay(window.closes, now, zone),
        fromNow: fromNow(window.closes, now),
      });
}

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
    return { figure: null, words: t("student.lines.mark", { when: reveal.total.when }) };
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
