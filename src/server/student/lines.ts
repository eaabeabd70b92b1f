import { attemptsLeft as leftOf } from "@/core/attempt/attempts-left";
import { hasMoreTime, timeAllowed } from "@/core/attempt/deadline";
import type { CountingTotals } from "@/core/attempt/late";
import { type CountedMark, countedMark } from "@/core/gradebook/counts";
import { markFigure } from "@/core/marking/mark-words";
import { type Exact, exact } from "@/core/numbers/exact";
import type { Instant } from "@/core/time/instants";
import { fromNow, lengthInWords, nearDay } from "@/core/time/words";
import { countingOf } from "./counting";
import { type QuizOfPerson, revelationsOf } from "./quizzes-of";

export const COUNTS_WORDS = {
  best: "best counts",
  latest: "latest counts",
  first: "first counts",
  mean: "their mean counts",
} as const;

const COUNTED = { best: "best", latest: "latest", first: "first", mean: "mean" } as const;

/** "20 min", "30 min for you", "no time limit". */
export function limitWords({ quiz, allowance }: Pick<QuizOfPerson, "quiz" | "allowance">): string {
  const allowed = timeAllowed(quiz.settings.timeLimit ?? null, allowance);
  if (allowed === null) return "no time limit";
  return `${lengthInWords(allowed)}${hasMoreTime(allowance) ? " for you" : ""}`;
}

/** "1 attempt", "best of 2", "unlimited attempts". */
export function attemptsWords({ quiz, allowed }: Pick<QuizOfPerson, "quiz" | "allowed">): string {
  if (allowed === null) return "unlimited";
  return allowed === 1 ? "1 attempt" : `${COUNTED[quiz.settings.counts]} of ${allowed}`;
}

/** Until when an attempt can still be started, which is not how long one lasts; null where none can be started now. */
export function startUntilWords(
  { standing, window }: Pick<QuizOfPerson, "standing" | "window">,
  now: Instant,
  zone: string,
): string | null {
  if (!standing.mayStart) return null;
  return window.closes === null
    ? "can be started at any time"
    : `can be started until ${nearDay(window.closes, now, zone)}, ${fromNow(window.closes, now)}`;
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
  if (!reveal.total.visible) return { figure: null, words: `mark: ${reveal.total.when}` };
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
