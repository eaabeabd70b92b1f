import type { Instant } from "../time/instants";
import { counted, dayAndTime } from "../time/words";
import { type Window, windowState } from "./window";

/** Why a new attempt may not start now, and from when it may; null: never by waiting. */
export interface StartRefusal {
  readonly rule: "not-open-yet" | "closed" | "no-attempts-left";
  readonly words: string;
  readonly from: Instant | null;
}

export type StartRuling =
  | { readonly may: "start"; readonly number: number }
  | { readonly may: "resume"; readonly attempt: string }
  | { readonly may: "not"; readonly refusal: StartRefusal };

/** Whether this student may start an attempt now. A running one is resumed, whatever the window says. */
export function rulingOnStart(terms: {
  readonly window: Window;
  readonly now: Instant;
  readonly zone: string;
  /** Attempts allowed with the allowance's extra ones; null: unlimited. */
  readonly allowed: number | null;
  readonly used: number;
  /** The id of a running attempt, or null. */
  readonly running: string | null;
}): StartRuling {
  const { window, now, allowed, used, zone } = terms;
  if (terms.running !== null) return { may: "resume", attempt: terms.running };
  const state = windowState(window, now);
  if (state === "before" && window.opens !== null) {
    const words = `This quiz opens ${dayAndTime(window.opens, zone)}.`;
    return { may: "not", refusal: { rule: "not-open-yet", words, from: window.opens } };
  }
  if (state === "closed" && window.closes !== null) {
    const words = `This quiz closed ${dayAndTime(window.closes, zone)}. No attempt can be started any more.`;
    return { may: "not", refusal: { rule: "closed", words, from: null } };
  }
  if (allowed !== null && used >= allowed) {
    const words = `You have used ${allowed === 1 ? "the only attempt" : `all ${counted(allowed, "attempt")}`} of this quiz.`;
    return { may: "not", refusal: { rule: "no-attempts-left", words, from: null } };
  }
  return { may: "start", number: used + 1 };
}
