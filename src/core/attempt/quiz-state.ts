import type { Instant } from "../time/instants";
import { fromNow } from "../time/words";
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

export interface QuizStanding {
  readonly state: QuizState;
  /** Another attempt may start now. */
  readonly mayStart: boolean;
  readonly words: string;
}

/** A sentence as it stands behind a colon. */
const uncapitalized = (sentence: string) =>
  `${sentence.charAt(0).toLowerCase()}${sentence.slice(1).replace(/\.$/, "")}`;

/** What a student may do with a quiz now, in one state and a few words. */
export function quizStanding(terms: {
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
  readonly locked?: string | null;
  /** Whether this student is among those who may take it. */
  readonly assigned?: boolean;
  /** Who marks what no rule does. */
  readonly waitsFor?: string;
}): QuizStanding {
  const { window, now, allowed, attempts, locked = null, assigned = true, waitsFor = "marking" } = terms;
  const running = attempts.find((attempt) => attempt.handedInAt === null);
  if (running) return { state: "running", mayStart: false, words: `attempt ${running.number} running` };
  const place = windowState(window, now);
  const open = place === "open" || place === "late";
  const left = attemptsLeft(allowed, attempts.length) !== 0;
  const mayStart = assigned && open && left && locked === null;
  const latest = attempts.at(-1);
  if (latest) {
    const again = mayStart ? ", another attempt is open" : open && !left ? ", no attempts left" : "";
    if (latest.returnedAt !== null) return { state: "returned", mayStart, words: `returned${again}` };
    if (latest.awaiting)
      return { state: "handed-in", mayStart, words: `handed in, waits for ${waitsFor}${again}` };
    return { state: "marked", mayStart, words: `marked${again}` };
  }
  if (!assigned) return { state: "not-assigned", mayStart, words: "not assigned to you" };
  if (place === "before") {
    return { state: "not-open-yet", mayStart, words: `opens ${fromNow(window.opens ?? now, now)}` };
  }
  if (place === "closed") return { state: "closed", mayStart, words: "closed without an attempt" };
  if (left && locked !== null)
    return { state: "locked", mayStart, words: `locked: ${uncapitalized(locked)}` };
  if (!left) return { state: "no-attempts-left", mayStart, words: "no attempts left" };
  return { state: "ready", mayStart, words: place === "late" ? "ready, and late by now" : "ready" };
}
