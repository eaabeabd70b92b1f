import { type Said, said } from "../said";
import type { Instant } from "../time/instants";
import type { DeskRules, QuizSettings, RevealWhen } from "./rules";

/** The key: what nobody may see while anyone may still write. */
export const KEY = ["right", "worked"] as const;

/** The window of a quiz, as far as settings can contradict it. */
export interface SetWindow {
  readonly due: Instant | null;
  readonly closes: Instant | null;
}

const dateOf = (when: RevealWhen): Instant | null => (typeof when === "string" ? null : Date.parse(when.on));

/**
 * What in the settings of a quiz contradicts itself, or the window in which it is set: a sentence for each, saying what to
 * choose instead. Without a window only what holds in any window is looked at.
 * @example contradictionsOf({ attempts: 1, reveal: { total: "at-hand-in", marks: "at-hand-in", written: "at-hand-in", right: "never", worked: "never" } }) → []
 */
export function contradictionsOf(
  settings: QuizSettings & Pick<DeskRules, "tellRightAnswer">,
  window?: SetWindow,
): Said[] {
  const { reveal, takeBack = false, attempts } = settings;
  const key = KEY.map((what) => reveal[what]);
  const all = [reveal.total, reveal.marks, reveal.written, ...key];
  const found: Said[] = [];
  if (takeBack && key.includes("at-hand-in")) {
    found.push(said("quiz.contradictions.right-answers-at-hand-in-go"));
  }
  if (
    key.includes("at-hand-in") &&
    attempts !== 1 &&
    !reveal.onlyAfterLastAttempt &&
    !reveal.laterAttemptsKnow
  ) {
    found.push(said("quiz.contradictions.right-answers-at-hand-in-are"));
  }
  if (
    settings.tellRightAnswer &&
    attempts !== 1 &&
    !reveal.onlyAfterLastAttempt &&
    !reveal.laterAttemptsKnow
  ) {
    found.push(said("quiz.contradictions.right-answers-are-told-at-the"));
  }
  if (!window) return found;
  if (window.closes === null && all.includes("after-closing")) {
    found.push(said("quiz.contradictions.something-is-shown-after-closing-but"));
  }
  if (window.due === null && window.closes === null && all.includes("after-due")) {
    found.push(said("quiz.contradictions.something-is-shown-after-the-due"));
  }
  const last = Math.max(window.due ?? Number.NEGATIVE_INFINITY, window.closes ?? Number.NEGATIVE_INFINITY);
  if (key.some((when) => (dateOf(when) ?? Number.POSITIVE_INFINITY) < last)) {
    found.push(said("quiz.contradictions.right-answers-are-shown-on-a"));
  }
  return found;
}
