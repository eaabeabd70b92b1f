import type { Instant } from "../time/instants";
import { fromNow } from "../time/words";
import { type Window, windowState } from "./window";

/** The one plain state that a quiz is in for one student. */
export type QuizState =
  | "running"
  | "ready"
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
}): QuizStanding {
  const { window, now, allowed, attempts } = terms;
  const running = attempts.find((attempt) => attempt.handedInAt === null);
  if (running) return { state: "running", mayStart: false, words: `attempt ${running.number} running` };
  const place = windowState(window, now);
  const open = place === "open" || place === "late";
  const left = allowed === null || attempts.length < allowed;
  const mayStart = open && left;
  const latest = attempts.at(-1);
  if (latest) {
    const again = mayStart ? ", another attempt is open" : "";
    if (latest.returnedAt !== null) return { state: "returned", mayStart, words: `returned${again}` };
    if (latest.awaiting)
      return { state: "handed-in", mayStart, words: `handed in, waiting for marking${again}` };
    return { state: "marked", mayStart, words: `marked${again}` };
  }
  if (place === "before") {
    return { state: "not-open-yet", mayStart, words: `opens ${fromNow(window.opens ?? now, now)}` };
  }
  if (place === "closed") return { state: "closed", mayStart, words: "closed without an attempt" };
  if (!left) return { state: "no-attempts-left", mayStart, words: "no attempts left" };
  return { state: "ready", mayStart, words: place === "late" ? "ready, and late by now" : "ready" };
}
