import { REVEALED, type Revealed, type RevealRules, type RevealWhen } from "../quiz/rules";
import type { Instant } from "../time/instants";
import { dayAndTime } from "../time/words";

/** What the reveal rules look at. */
export interface RevealFacts {
  readonly now: Instant;
  readonly handedInAt: Instant;
  /** The latest due and closing of anyone in the group: nobody sees a key while anyone may still write. */
  readonly groupDue: Instant | null;
  readonly groupCloses: Instant | null;
  /** The latest deadline of an attempt of the group that still runs, or null. */
  readonly groupStillWritesUntil: Instant | null;
  readonly returnedAt: Instant | null;
  /** Whether this student can still start another attempt. */
  readonly attemptsLeft: boolean;
  readonly zone: string;
}

/** Whether something is visible now, and in words when it will be, as the end of a sentence. */
export interface Revelation {
  readonly visible: boolean;
  readonly when: string;
}

export type Revelations = { readonly [R in Revealed]: Revelation };

/** From when something is visible, as far as it can be known now: an instant, or a state that has not come yet. */
function visibleFrom(when: RevealWhen, facts: RevealFacts): Instant | "when-returned" | "never" {
  if (when === "at-hand-in") return facts.handedInAt;
  if (when === "when-returned") return facts.returnedAt ?? "when-returned";
  if (when === "after-due") return facts.groupDue ?? facts.handedInAt;
  if (when === "after-closing") {
    const ends = [facts.groupCloses ?? facts.groupDue ?? facts.handedInAt, facts.groupStillWritesUntil ?? 0];
    return Math.max(...ends);
  }
  if (when === "never") return "never";
  return Date.parse(when.on);
}

function revelation(when: RevealWhen, onlyAfterLast: boolean, facts: RevealFacts): Revelation {
  const from = visibleFrom(when, facts);
  if (from === "never") return { visible: false, when: "not shown" };
  const waitsForLast = onlyAfterLast && facts.attemptsLeft;
  const proviso = waitsForLast ? ", once no attempt is left to you" : "";
  if (from === "when-returned") {
    return { visible: false, when: `when your instructor returns it${proviso}` };
  }
  if (facts.now < from) return { visible: false, when: `after ${dayAndTime(from, facts.zone)}${proviso}` };
  if (waitsForLast) return { visible: false, when: "once no attempt is left to you" };
  return { visible: true, when: "now" };
}

/** What of a handed-in attempt may be seen now. */
export function revealNow(rules: RevealRules, facts: RevealFacts): Revelations {
  const onlyAfterLast = rules.onlyAfterLastAttempt ?? false;
  const entries = REVEALED.map((what) => [what, revelation(rules[what], onlyAfterLast, facts)] as const);
  return Object.fromEntries(entries) as unknown as Revelations;
}

/** What anything shown is called. */
export const REVEALED_WORDS: { readonly [R in Revealed]: string } = {
  total: "your total",
  marks: "marks for each question",
  written: "what you wrote",
  right: "right answers",
  worked: "worked answers and feedback",
};

/** What the clock has come to show to the whole group after `from` and until now, whoever handed in and when. */
export const shownByClock = (
  rules: RevealRules,
  from: Instant,
  facts: Pick<RevealFacts, "now" | "groupDue" | "groupCloses" | "groupStillWritesUntil">,
): Revealed[] =>
  REVEALED.filter((what) => {
    const group = { ...facts, handedInAt: Number.NEGATIVE_INFINITY, returnedAt: null, attemptsLeft: false };
    const shown = visibleFrom(rules[what], { ...group, zone: "UTC" });
    return typeof shown === "number" && from < shown && shown <= facts.now;
  });

/** When closing takes the attempts that were left, and with them what hid anything; null: never, or nothing waits for it. */
export const lastAttemptsEnd = (
  rules: Pick<RevealRules, "onlyAfterLastAttempt">,
  { groupCloses, groupStillWritesUntil }: Pick<RevealFacts, "groupCloses" | "groupStillWritesUntil">,
): Instant | null =>
  rules.onlyAfterLastAttempt && groupCloses !== null
    ? Math.max(groupCloses, groupStillWritesUntil ?? groupCloses)
    : null;

const PLAIN_WHEN: { readonly [W in Extract<RevealWhen, string>]: string } = {
  "at-hand-in": "as soon as you hand in",
  "after-due": "after the due time",
  "after-closing": "after the quiz has closed for everybody",
  "when-returned": "when your instructor returns the work",
  never: "never",
};

/** When a rule shows something, said before the start. */
export function revealWords(
  when: RevealWhen,
  window: { due: Instant | null; closes: Instant | null },
  zone: string,
): string {
  if (typeof when !== "string") return `after ${dayAndTime(Date.parse(when.on), zone)}`;
  if (when === "after-due" && window.due !== null) return `after ${dayAndTime(window.due, zone)}`;
  if (when === "after-closing" && window.closes !== null) return `after ${dayAndTime(window.closes, zone)}`;
  return PLAIN_WHEN[when];
}
