import { type Exact, exact, shown } from "../numbers/exact";
import { type Instant, MINUTE } from "../time/instants";
import { counted, dayAndTime } from "../time/words";
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
  readonly words: string;
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
  /** When a mark that is still held back is shown; null: none is. Nothing may tell it before. */
  readonly shown?: string | null;
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

/** What has to be done first, as a sentence; null once it is done. */
export function lockedWords({ title, handedIn, atLeast, reached, shown: when }: Prerequisite): string | null {
  if (!handedIn) return `Hand in “${title}” first.`;
  if (atLeast === null || (reached !== null && reached.compare(exact(atLeast)) >= 0)) return null;
  const sofar =
    when === "not shown"
      ? "its mark is not shown, so ask your instructor"
      : when
        ? `this opens once you may see its mark, ${when}`
        : reached === null
          ? "it is not marked yet"
          : `you have ${shown(reached)} % so far`;
  return `At least ${shown(atLeast)} % in “${title}” are asked for first; ${sofar}.`;
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
    const words = "This quiz is set for some students of the course, and you are not among them.";
    return { rule: "not-assigned", words, from: null };
  }
  const state = windowState(window, now);
  if (state === "before" && window.opens !== null) {
    return {
      rule: "not-open-yet",
      words: `This quiz opens ${dayAndTime(window.opens, zone)}.`,
      from: window.opens,
    };
  }
  if (state === "closed" && window.closes !== null) {
    const words = `This quiz closed ${dayAndTime(window.closes, zone)}. No attempt can be started any more.`;
    return { rule: "closed", words, from: null };
  }
  if (allowed !== null && used >= allowed) {
    const all = allowed === 1 ? "the only attempt" : `all ${counted(allowed, "attempt")}`;
    return { rule: "no-attempts-left", words: `You have used ${all} of this quiz.`, from: null };
  }
  const locked = first ? lockedWords(first) : null;
  if (locked !== null) return { rule: "another-first", words: locked, from: null };
  const over = waitBetween && lastHandIn ? lastHandIn + waitBetween * MINUTE : null;
  if (over !== null && now < over) {
    return { rule: "wait", words: `The next attempt can be started ${dayAndTime(over, zone)}.`, from: over };
  }
  return null;
}

/** Whether this student may start an attempt now. A running one is resumed, whatever else holds. */
export function rulingOnStart(terms: StartTerms): StartRuling {
  if (terms.running !== null) return { may: "resume", attempt: terms.running };
  const refusal = refusalOf(terms);
  return refusal ? { may: "not", refusal } : { may: "start", number: terms.used + 1 };
}
