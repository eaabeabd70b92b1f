import type { OwnMoment } from "../attempt/deadline";
import { type Said, said } from "../said";
import type { Instant } from "../time/instants";
import { dayAndTime } from "../time/said-times";

/** What was given to one student or one section at once. Null in it: as everyone, or as something else says that was given. */
export interface AllowanceTerms {
  /** The limit is multiplied by it; 1 or more. */
  readonly factor: number | null;
  readonly extraMinutes: number | null;
  readonly extraAttempts: number | null;
  readonly opens: Instant | null;
  readonly due: OwnMoment;
  readonly closes: OwnMoment;
  /** Throughout a course: due and closing so many days after everyone's. */
  readonly daysLater: number | null;
}

/** Nothing given. */
export const NO_TERMS: AllowanceTerms = {
  factor: null,
  extraMinutes: null,
  extraAttempts: null,
  opens: null,
  due: null,
  closes: null,
  daysLater: null,
};

/**
 * What was given, each part as words.
 * @example allowanceWords({ ...NO_TERMS, extraAttempts: 1 }, "Europe/London") → ["1 more attempt"]
 */
export function allowanceWords(terms: AllowanceTerms, zone: string): Said[] {
  const { factor, extraMinutes, extraAttempts, opens, due, closes, daysLater } = terms;
  const when = (at: Instant) => ({ when: dayAndTime(at, zone) });
  return [
    factor === null ? "" : said("allowances.allowance-terms.times-the-time", { factor }),
    extraMinutes === null ? "" : said("allowances.allowance-terms.more-minutes", { extraMinutes }),
    extraAttempts === null ? "" : said("allowances.allowance-terms.more-attempts", { extraAttempts }),
    opens === null ? "" : said("allowances.allowance-terms.opens", when(opens)),
    due === null
      ? ""
      : due === "none"
        ? said("allowances.allowance-terms.no-due-time")
        : said("allowances.allowance-terms.due", when(due)),
    closes === null
      ? ""
      : closes === "none"
        ? said("allowances.allowance-terms.does-not-close")
        : said("allowances.allowance-terms.closes", when(closes)),
    daysLater === null ? "" : said("allowances.allowance-terms.days-later", { daysLater }),
  ].filter((words) => words !== "");
}
