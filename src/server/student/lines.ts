import { timeAllowed } from "@/core/attempt/deadline";
import { markFigure } from "@/core/marking/mark-words";
import { lengthInWords } from "@/core/time/words";
import type { GroupEnds, QuizOfPerson } from "./quizzes-of";
import { revelationsOf } from "./quizzes-of";

const COUNTED = { best: "best", latest: "latest", first: "first", mean: "mean" } as const;

/** "20 min", "30 min for you", "no time limit". */
export function limitWords({ facts, allowance }: Pick<QuizOfPerson, "facts" | "allowance">): string {
  const allowed = timeAllowed(facts.timeLimit, allowance);
  if (allowed === null) return "no time limit";
  const own = allowance.factor > 1 || allowance.extraMinutes > 0;
  return `${lengthInWords(allowed)}${own ? " for you" : ""}`;
}

/** "1 attempt", "best of 2", "unlimited attempts". */
export function attemptsWords({ facts, allowance }: Pick<QuizOfPerson, "facts" | "allowance">): string {
  if (facts.attempts === null) return "unlimited";
  const allowed = facts.attempts + allowance.extraAttempts;
  return allowed === 1 ? "1 attempt" : `${COUNTED[facts.counts]} of ${allowed}`;
}

/** How many attempts are left to this student; null: as many as one likes. */
export function attemptsLeft({ facts, allowance, attempts }: QuizOfPerson): number | null {
  return facts.attempts === null
    ? null
    : Math.max(0, facts.attempts + allowance.extraAttempts - attempts.length);
}

/** Whether this student could start another attempt, now or later. */
export function attemptsRemain(item: QuizOfPerson): boolean {
  const { facts, allowance, attempts, standing } = item;
  const left = facts.attempts === null || attempts.length < facts.attempts + allowance.extraAttempts;
  return left && (standing.mayStart || ["not-open-yet", "locked", "running"].includes(standing.state));
}

/** The total of an attempt as its student may see it now: a figure, or when it will be shown. */
export function totalOf(
  item: QuizOfPerson & { ends: GroupEnds },
  row: QuizOfPerson["attempts"][number],
): { readonly figure: string | null; readonly words: string } {
  const reveal = revelationsOf(row, item.facts, item.ends, attemptsRemain(item));
  if (!reveal.total.visible) return { figure: null, words: `mark: ${reveal.total.when}` };
  const { earned, awaited, maximum } = row;
  return { figure: markFigure({ earned: earned ?? "0", awaited: awaited ?? "0", maximum }), words: "" };
}
