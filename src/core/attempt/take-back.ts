import type { Instant } from "../time/instants";
import { dayAndTime } from "../time/words";
import type { HandedInBy } from "./state";

export type TakeBackRuling =
  | { readonly may: true }
  | { readonly may: false; readonly rule: string; readonly words: string };

/**
 * Whether a handed-in attempt may be taken back: the quiz allows it, its student handed it in, and neither the due time
 * nor the attempt's own deadline has passed. It is the same attempt again; each hand-in keeps its own slip.
 */
export function rulingOnTakeBack(terms: {
  readonly allowed: boolean;
  readonly handedInBy: HandedInBy | null;
  readonly now: Instant;
  readonly due: Instant | null;
  readonly deadline: Instant | null;
  readonly returned: boolean;
  readonly zone: string;
}): TakeBackRuling {
  const not = (rule: string, words: string): TakeBackRuling => ({ may: false, rule, words });
  const { due, deadline, now, zone } = terms;
  if (terms.handedInBy === null) return not("running", "This attempt is not handed in.");
  if (!terms.allowed) return not("final", "In this quiz a hand-in is final.");
  if (terms.handedInBy !== "student")
    return not("not-by-you", "Only what you handed in yourself can be taken back.");
  if (terms.returned) return not("returned", "This attempt has been marked and returned.");
  if (deadline !== null && now >= deadline)
    return not("time-is-up", `The time of this attempt ended ${dayAndTime(deadline, zone)}.`);
  if (due !== null && now >= due) return not("past-due", `The quiz was due ${dayAndTime(due, zone)}.`);
  return { may: true };
}
