import type { Allowance } from "@/core/attempt/deadline";
import { hasMoreTime, timeAllowed } from "@/core/attempt/deadline";
import type { Window } from "@/core/attempt/window";
import type { QuizSettings } from "@/core/quiz/rules";
import { said } from "@/core/said";
import type { Instant } from "@/core/time/instants";
import { t } from "@/words/t";
import { fromNow, lengthInWords, nearDay } from "@/words/times";

/** Which of several attempts makes the mark. */
export const COUNTS_WORDS = {
  best: said("server.quizzes.rule-words.best-counts"),
  latest: said("server.quizzes.rule-words.latest-counts"),
  first: said("server.quizzes.rule-words.first-counts"),
  mean: said("server.quizzes.rule-words.their-mean-counts"),
} as const;

/** "20 min", "30 min for you", "no time limit". */
export function limitWords({
  quiz,
  allowance,
}: {
  readonly quiz: { readonly settings: QuizSettings };
  readonly allowance: Allowance;
}): string {
  const allowed = timeAllowed(quiz.settings.timeLimit ?? null, allowance);
  if (allowed === null) return t("server.quizzes.rule-words.no-time-limit");
  const limit = lengthInWords(allowed);
  return hasMoreTime(allowance) ? t("server.quizzes.rule-words.limit-for-you", { limit }) : limit;
}

/** "1 attempt", "best of 2", "unlimited attempts". */
export function attemptsWords({
  quiz,
  allowed,
}: {
  readonly quiz: { readonly settings: QuizSettings };
  readonly allowed: number | null;
}): string {
  if (allowed === null) return t("server.quizzes.rule-words.unlimited");
  return allowed === 1
    ? t("server.quizzes.rule-words.1-attempt")
    : t(`server.quizzes.rule-words.of-${quiz.settings.counts}`, { allowed });
}

/** Until when an attempt can still be started, which is not how long one lasts; null where none can be started now. */
export function startUntilWords(
  { status, window }: { readonly status: { readonly mayStart: boolean }; readonly window: Window },
  now: Instant,
  zone: string,
): string | null {
  if (!status.mayStart) return null;
  return window.closes === null
    ? t("server.quizzes.rule-words.can-be-started-at-any-time")
    : t("server.quizzes.rule-words.can-be-started-until", {
        nearDay: nearDay(window.closes, now, zone),
        fromNow: fromNow(window.closes, now),
      });
}
