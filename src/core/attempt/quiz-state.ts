import { type Said, said } from "../said";
import type { Instant } from "../time/instants";
import { fromNow } from "../time/said-times";
import { attemptsLeft } from "./attempts-left";
import { type Window, windowState } from "./window";

/** The one plain state that a quiz is in for one student. */
export type QuizState =
  | "running"
  | "ready"
  | "locked"
  | "not-assigned"
  | "not-open-yet"
  | "handed-in"
  | "marked"
  | "returned"
  | "no-attempts-left"
  | "closed";

export interface QuizStatus {
  readonly state: QuizState;
  /** Another attempt may start now. */
  readonly mayStart: boolean;
  readonly words: Said;
}

/** What a student may do with a quiz now, in one state and a few words. */
export function quizStatus(terms: {
  readonly window: Window;
  readonly now: Instant;
  readonly allowed: number | null;
  readonly attempts: readonly {
    readonly number: number;
    readonly handedInAt: Instant | null;
    readonly returnedAt: Instant | null;
    readonly awaiting: boolean;
  }[];
  /** What has to be done first, as a sentence; null: nothing, or it is done. */
  readonly locked?: Said | null;
  /** Whether this student is among those who may take it. */
  readonly assigned?: boolean;
  /** Who marks what no rule does. */
  readonly waitsFor?: Said;
}): QuizStatus {
  const {
    window,
    now,
    allowed,
    attempts,
    locked = null,
    assigned = true,
    waitsFor = said("attempt.quiz-state.marking"),
  } = terms;
  const running = attempts.find((attempt) => attempt.handedInAt === null);
  if (running)
    return {
      state: "running",
      mayStart: false,
      words: said("attempt.quiz-state.attempt-running", { number: running.number }),
    };
  const place = windowState(window, now);
  const open = place === "open" || place === "late";
  const left = attemptsLeft(allowed, attempts.length) !== 0;
  const mayStart = assigned && open && left && locked === null;
  const latest = attempts.at(-1);
  if (latest) {
    const again = mayStart
      ? said("attempt.quiz-state.another-attempt-is-open")
      : open && !left
        ? said("attempt.quiz-state.no-attempts-left")
        : "";
    if (latest.returnedAt !== null)
      return { state: "returned", mayStart, words: said("attempt.quiz-state.returned", { again }) };
    if (latest.awaiting)
      return {
        state: "handed-in",
        mayStart,
        words: said("attempt.quiz-state.handed-in-waits-for", { waitsFor, again }),
      };
    return { state: "marked", mayStart, words: said("attempt.quiz-state.marked", { again }) };
  }
  if (!assigned)
    return { state: "not-assigned", mayStart, words: said("attempt.quiz-state.not-assigned-to-you") };
  if (place === "before") {
    return {
      state: "not-open-yet",
      mayStart,
      words: said("attempt.quiz-state.opens", { when: fromNow(window.opens ?? now, now) }),
    };
  }
  if (place === "closed")
    return { state: "closed", mayStart, words: said("attempt.quiz-state.closed-without-an-attempt") };
  if (left && locked !== null)
    return {
      state: "locked",
      mayStart,
      words: said("attempt.quiz-state.locked", { why: said("joined.clause", { sentence: locked }) }),
    };
  if (!left)
    return { state: "no-attempts-left", mayStart, words: said("attempt.quiz-state.no-attempts-left-2") };
  return {
    state: "ready",
    mayStart,
    words:
      place === "late" ? said("attempt.quiz-state.ready-and-late-by-now") : said("attempt.quiz-state.ready"),
  };
}
