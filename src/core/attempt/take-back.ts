import { type Said, said } from "../said";
import type { Instant } from "../time/instants";
import { dayAndTime } from "../time/said-times";
import type { HandedInBy } from "./answered-words";

export type TakeBackRuling =
  | { readonly may: true }
  | { readonly may: false; readonly rule: string; readonly words: Said };

interface TakeBackTerms {
  readonly allowed: boolean;
  readonly handedInBy: HandedInBy | null;
  readonly due: Instant | null;
  /** The time that was added to the attempt, in milliseconds: the due time moves with it. */
  readonly added: number;
  readonly deadline: Instant | null;
  readonly returned: boolean;
}

/**
 * Until when a hand-in may be taken back by its student: null: it may not; infinite: there is no end.
 * @example takeBackEnd({ allowed: true, handedInBy: "student", due: 9_000, added: 0, deadline: 5_000, returned: false }) → 5000
 */
export function takeBackEnd(terms: TakeBackTerms): Instant | null {
  const { allowed, handedInBy, due, added, deadline, returned } = terms;
  if (!allowed || handedInBy !== "student" || returned) return null;
  const ends = [due === null ? Number.POSITIVE_INFINITY : due + added, deadline ?? Number.POSITIVE_INFINITY];
  return Math.min(...ends);
}

/**
 * Whether a handed-in attempt may be taken back: the quiz allows it, its student handed it in, and neither the due time
 * nor the attempt's own deadline has passed. It is the same attempt again; each hand-in keeps its own slip.
 */
export function rulingOnTakeBack(
  terms: TakeBackTerms & { readonly now: Instant; readonly zone: string },
): TakeBackRuling {
  const not = (rule: string, words: Said): TakeBackRuling => ({ may: false, rule, words });
  const { due, added, deadline, now, zone } = terms;
  if (terms.handedInBy === null)
    return not("running", said("attempt.take-back.this-attempt-is-not-handed-in"));
  if (!terms.allowed) return not("final", said("attempt.take-back.in-this-quiz-a-hand-in"));
  if (terms.handedInBy !== "student")
    return not("not-by-you", said("attempt.take-back.only-what-you-handed-in-yourself"));
  if (terms.returned) return not("returned", said("attempt.take-back.this-attempt-has-been-marked-and"));
  if (deadline !== null && now >= deadline)
    return not(
      "time-is-up",
      said("attempt.take-back.the-time-of-this-attempt-ended", { deadline: dayAndTime(deadline, zone) }),
    );
  if (due !== null && now >= due + added)
    return not(
      "past-due",
      said("attempt.take-back.the-quiz-was-due", { due: dayAndTime(due + added, zone) }),
    );
  return { may: true };
}
