import { type Exact, exact, shown } from "../numbers/exact";
import type { Revelation } from "../reveal/reveal";
import { type Said, said } from "../said";
import { type Instant, MINUTE } from "../time/instants";
import { dayAndTime } from "../time/said-times";
import { type Window, windowState } from "./window";

export type StartRule =
  | "not-assigned"
  | "not-open-yet"
  | "closed"
  | "another-first"
  | "no-attempts-left"
  | "wait";

/** Why a new attempt may not start now, and from when it may; null: never by waiting. */
export interface StartRefusal {
  readonly rule: StartRule;
  readonly words: Said;
  readonly from: Instant | null;
}

export type StartRuling =
  | { readonly may: "start"; readonly number: number }
  | { readonly may: "resume"; readonly attempt: string }
  | { readonly may: "not"; readonly refusal: StartRefusal };

/** Another quiz that has to be done first, and how it stands. */
export interface Prerequisite {
  readonly title: string;
  readonly handedIn: boolean;
  /** The share in per cent that has to be reached in it; null: handing in is enough. */
  readonly atLeast: number | string | null;
  /** The share that is certain so far and that its student may know; null: there is none. */
  readonly reached: Exact | null;
  /** When a mark that is still held back is shown; null: none is held back. Nothing may tell it before. */
  readonly heldBack?: Revelation | null;
}

export interface StartTerms {
  readonly window: Window;
  readonly now: Instant;
  readonly zone: string;
  /** Attempts allowed with the allowance's extra ones; null: unlimited. */
  readonly allowed: number | null;
  readonly used: number;
  /** The id of a running attempt, or null. */
  readonly running: string | null;
  readonly first?: Prerequisite | undefined;
  /** Minutes between a hand-in and the next start. */
  readonly waitBetween?: number | undefined;
  readonly lastHandIn?: Instant | null | undefined;
  /** Whether this student is among those who may take it; yes by default. */
  readonly assigned?: boolean;
}

/**
 * What has to be done first, as a sentence; null once it is done.
 * @example lockedWords({ title: "Tides", handedIn: false, atLeast: null, reached: null }) → "Hand in “Tides” first."
 */
export function lockedWords({ title, handedIn, atLeast, reached, heldBack }: Prerequisite): Said | null {
  if (!handedIn) return said("attempt.start-rules.hand-in-first", { title });
  if (atLeast === null || (reached !== null && reached.compare(exact(atLeast)) >= 0)) return null;
  const sofar =
    heldBack?.isNever === true
      ? said("attempt.start-rules.its-mark-is-not-shown-so")
      : heldBack
        ? said("attempt.start-rules.this-opens-once-you-may-see", { when: heldBack.when })
        : reached === null
          ? said("attempt.start-rules.it-is-not-marked-yet")
          : said("attempt.start-rules.you-have-so-far", { reached: shown(reached) });
  return said("attempt.start-rules.at-least-in-are-asked-for", { atLeast: shown(atLeast), title, sofar });
}

function refusalOf({
  window,
  now,
  zone,
  allowed,
  used,
  first,
  waitBetween,
  lastHandIn,
  assigned = true,
}: StartTerms): StartRefusal | null {
  if (!assigned) {
    const words = said("attempt.start-rules.this-quiz-is-set-for-some");
    return { rule: "not-assigned", words, from: null };
  }
  const state = windowState(window, now);
  if (state === "before" && window.opens !== null) {
    return {
      rule: "not-open-yet",
      words: said("attempt.start-rules.this-quiz-opens", { opens: dayAndTime(window.opens, zone) }),
      from: window.opens,
    };
  }
  if (state === "closed" && window.closes !== null) {
    const words = said("attempt.start-rules.this-quiz-closed-no-attempt-can", {
      closes: dayAndTime(window.closes, zone),
    });
    return { rule: "closed", words, from: null };
  }
  if (allowed !== null && used >= allowed) {
    const all =
      allowed === 1
        ? said("attempt.start-rules.the-only-attempt")
        : said("attempt.start-rules.all-other", { allowed });
    return {
      rule: "no-attempts-left",
      words: said("attempt.start-rules.you-have-used-of-this-quiz", { all }),
      from: null,
    };
  }
  const locked = first ? lockedWords(first) : null;
  if (locked !== null) return { rule: "another-first", words: locked, from: null };
  const over = waitBetween && lastHandIn ? lastHandIn + waitBetween * MINUTE : null;
  if (over !== null && now < over) {
    return {
      rule: "wait",
      words: said("attempt.start-rules.the-next-attempt-can-be-started", { over: dayAndTime(over, zone) }),
      from: over,
    };
  }
  return null;
}

/** Whether this student may start an attempt now. A running one is resumed, whatever else holds. */
export function rulingOnStart(terms: StartTerms): StartRuling {
  if (terms.running !== null) return { may: "resume", attempt: terms.running };
  const refusal = refusalOf(terms);
  return refusal ? { may: "not", refusal } : { may: "start", number: terms.used + 1 };
}
