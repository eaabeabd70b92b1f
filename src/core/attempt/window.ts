import type { Instant } from "../time/instants";
import type { Allowance, OwnMoment } from "./deadline";

/** When a quiz can be worked on; each end may be open. In order: opens, due, closes. */
export interface Window {
  readonly opens: Instant | null;
  readonly due: Instant | null;
  readonly closes: Instant | null;
}

export type WindowState = "before" | "open" | "late" | "closed";

const own = (moment: OwnMoment, quiz: Instant | null): Instant | null =>
  moment === "none" ? null : (moment ?? quiz);

/**
 * The window that holds for one student: the quiz's, with what the allowance sets in its place.
 * @example windowFor({ opens: 0, due: 10, closes: 20 }, { opens: null, due: 15, closes: "none" }) → { opens: 0, due: 15, closes: null }
 */
export const windowFor = (quiz: Window, allowance: Pick<Allowance, "opens" | "due" | "closes">): Window => ({
  opens: own(allowance.opens, quiz.opens),
  due: own(allowance.due, quiz.due),
  closes: own(allowance.closes, quiz.closes),
});

/**
 * Whether work is taken now, and whether it is late. Without a closing, a due time closes nothing: what comes after is late.
 * @example windowState({ opens: 0, due: 10, closes: 20 }, 12) → "late"
 */
export function windowState(window: Window, now: Instant): WindowState {
  if (window.opens !== null && now < window.opens) return "before";
  if (window.closes !== null && now >= window.closes) return "closed";
  return window.due !== null && now > window.due ? "late" : "open";
}
