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
 */
export function contradictionsOf(
  settings: QuizSettings & Pick<DeskRules, "tellRightAnswer">,
  window?: SetWindow,
): string[] {
  const { reveal, takeBack = false, attempts } = settings;
  const key = KEY.map((what) => reveal[what]);
  const all = [reveal.total, reveal.marks, reveal.written, ...key];
  const found: string[] = [];
  if (takeBack && key.includes("at-hand-in")) {
    found.push(
      "Right answers at hand-in go together with no taking back: who reads them could take the hand-in back and correct it. Show them after the due time, or do not allow taking back.",
    );
  }
  if (
    key.includes("at-hand-in") &&
    attempts !== 1 &&
    !reveal.onlyAfterLastAttempt &&
    !reveal.laterAttemptsKnow
  ) {
    found.push(
      "Right answers at hand-in are known in the next attempt. Show them only after the last attempt (onlyAfterLastAttempt), or say that later attempts may know them (laterAttemptsKnow).",
    );
  }
  if (
    settings.tellRightAnswer &&
    attempts !== 1 &&
    !reveal.onlyAfterLastAttempt &&
    !reveal.laterAttemptsKnow
  ) {
    found.push(
      "Right answers are told at the desk and known in the next attempt. Allow one attempt, or say that later attempts may know them (laterAttemptsKnow).",
    );
  }
  if (!window) return found;
  if (window.closes === null && all.includes("after-closing")) {
    found.push(
      "Something is shown after closing, but this quiz does not close. Set a closing, or choose another time.",
    );
  }
  if (window.due === null && window.closes === null && all.includes("after-due")) {
    found.push(
      "Something is shown after the due time, but this quiz has none. Set a due time, or choose another time.",
    );
  }
  const last = Math.max(window.due ?? Number.NEGATIVE_INFINITY, window.closes ?? Number.NEGATIVE_INFINITY);
  if (key.some((when) => (dateOf(when) ?? Number.POSITIVE_INFINITY) < last)) {
    found.push(
      "Right answers are shown on a date before the quiz ends. Choose a date after its due time and its closing.",
    );
  }
  return found;
}
