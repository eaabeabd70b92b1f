import { attemptsLeft as leftOf, attemptsRemain as mayWrite } from "@/core/attempt/attempts-left";
import { hasMoreTime, timeAllowed } from "@/core/attempt/deadline";
import { type CountingTotals, countingTotals } from "@/core/attempt/late";
import type { Window } from "@/core/attempt/window";
import { type CountedMark, countedMark } from "@/core/gradebook/counts";
import { markFigure } from "@/core/marking/mark-words";
import type { Instant } from "@/core/time/instants";
import { fromNow, lengthInWords, nearDay } from "@/core/time/words";
import { instantOf, now } from "../clock";
import type { GroupEnds } from "../quizzes/group-ends";
import type { QuizOfPerson } from "./quizzes-of";
import { revelationsOf } from "./quizzes-of";

export const COUNTS_WORDS = {
  best: "best counts",
  latest: "latest counts",
  first: "first counts",
  mean: "their mean counts",
} as const;

const COUNTED = { best: "best", latest: "latest", first: "first", mean: "mean" } as const;

/** "20 min", "30 min for you", "no time limit". */
export function limitWords({ facts, allowance }: Pick<QuizOfPerson, "facts" | "allowance">): string {
  const allowed = timeAllowed(facts.timeLimit, allowance);
  if (allowed === null) return "no time limit";
  return `${lengthInWords(allowed)}${hasMoreTime(allowance) ? " for you" : ""}`;
}

/** "1 attempt", "best of 2", "unlimited attempts". */
export function attemptsWords({ facts, allowed }: Pick<QuizOfPerson, "facts" | "allowed">): string {
  if (allowed === null) return "unlimited";
  return allowed === 1 ? "1 attempt" : `${COUNTED[facts.counts]} of ${allowed}`;
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

/** Whether this student may still write in it: in a running attempt, or in another one, now or later. */
export const attemptsRemain = (item: QuizOfPerson): boolean =>
  mayWrite({
    running: item.attempts.some(({ handedInAt }) => handedInAt === null),
    left: attemptsLeft(item),
    assigned: item.assigned,
    closes: item.window.closes,
    now: now(),
  });

/** The total of an attempt as its student may see it now: a figure, or when it will be shown. */
export function totalOf(
  item: QuizOfPerson & { ends: GroupEnds },
  row: QuizOfPerson["attempts"][number],
): { readonly figure: string | null; readonly words: string } {
  const reveal = revelationsOf(row, item.facts, item.ends, attemptsRemain(item));
  if (!reveal.total.visible) return { figure: null, words: `mark: ${reveal.total.when}` };
  return { figure: markFigure({ ...countingOf(item, row), maximum: row.maximum }), words: "" };
}

/** The totals of a handed-in attempt as they count: what lateness costs is taken off. */
export const countingOf = (
  {
    window,
    facts,
  }: {
    readonly window: Pick<Window, "due">;
    readonly facts: Pick<QuizOfPerson["facts"], "lateCostPerDay">;
  },
  { earned, awaited, maximum, handedInAt }: QuizOfPerson["attempts"][number],
): CountingTotals =>
  countingTotals({
    earned: earned ?? "0",
    awaited: awaited ?? "0",
    maximum,
    handedInAt: instantOf(handedInAt) ?? 0,
    due: window.due,
    costPerDay: facts.lateCostPerDay,
  });

/** Which of the handed-in attempts make the mark, as far as it may be shown now. */
export interface Counting {
  /** Handed-in attempts whose total is shown, in the order of their numbers. */
  readonly visible: readonly QuizOfPerson["attempts"][number][];
  readonly totals: readonly CountingTotals[];
  /** Null while a total is not shown, or without an attempt. */
  readonly counted: CountedMark | null;
}

export function countingAttempts(item: QuizOfPerson & { ends: GroupEnds }): Counting {
  const handedIn = item.attempts.filter((each) => each.handedInAt !== null);
  const visible = handedIn.filter(
    (each) => revelationsOf(each, item.facts, item.ends, attemptsRemain(item)).total.visible,
  );
  const totals = visible.map((each) => countingOf(item, each));
  const counted = visible.length === handedIn.length ? countedMark(item.facts.counts, totals) : null;
  return { visible, totals, counted };
}
