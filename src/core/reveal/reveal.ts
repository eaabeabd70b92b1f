import { KEY } from "../quiz/contradictions";
import { type QuizSettings, REVEALED, type Revealed, type RevealRules, type RevealWhen } from "../quiz/rules";
import { type Said, said } from "../said";
import { GRACE, type Instant } from "../time/instants";
import { dayAndTime } from "../time/said-times";

/** Who of everyone that a quiz is set for may still write, and until when. */
export interface GroupMoments {
  /** The latest due time of anyone; null: the quiz has none. */
  readonly due: Instant | null;
  /** The latest closing of anyone who has one; null: the quiz does not close, whatever an allowance says. */
  readonly closes: Instant | null;
  /**
   * Until when the last running attempt, or the last hand-in that may be taken back, can be written; null: there is none;
   * infinite: one of them has no end.
   */
  readonly writesUntil: Instant | null;
  /** Whether someone may still start an attempt for whom it does not close. */
  readonly mayStart: boolean;
}

/** What the reveal rules look at, for one handed-in attempt of one student. */
export interface RevealFacts {
  readonly now: Instant;
  readonly handedInAt: Instant;
  readonly group: GroupMoments;
  readonly returnedAt: Instant | null;
  /** Whether another attempt of this student runs. */
  readonly laterRuns: boolean;
  /** Whether this student can still write: in an attempt that runs, or in another one. */
  readonly attemptsLeft: boolean;
  /** Until when this hand-in may be taken back by its student; null: it may not; infinite: there is no end. */
  readonly takeBackUntil: Instant | null;
  readonly zone: string;
}

/** Whether something is visible now, and in words when it will be, as the end of a sentence. */
export interface Revelation {
  readonly visible: boolean;
  /** Whether the rule is that it is never shown. */
  readonly isNever: boolean;
  readonly when: Said;
}

export type Revelations = { readonly [R in Revealed]: Revelation };

const isKey = (what: Revealed): boolean => (KEY as readonly Revealed[]).includes(what);
const NEVER = Number.POSITIVE_INFINITY;
const latest = (...moments: readonly (Instant | null)[]): Instant =>
  Math.max(...moments.map((each) => each ?? Number.NEGATIVE_INFINITY));

/** When nobody of the group writes any more; infinite while that cannot be known. */
function nobodyWritesFrom({ due, closes, writesUntil, mayStart }: GroupMoments): Instant {
  if (mayStart) return NEVER;
  // What is saved within the grace counts too. Late work is taken until closing.
  return latest(due, closes, writesUntil === null ? null : writesUntil + GRACE);
}

/**
 * From when the clock shows something to the whole group: infinite where it cannot be known yet, or never comes; null where
 * it is not the clock that shows it. Nobody sees a key while anyone may still write.
 */
function groupMoment(what: Revealed, when: RevealWhen, group: GroupMoments): Instant | null {
  if (typeof when === "string" && when !== "after-due" && when !== "after-closing") return null;
  const end = nobodyWritesFrom(group);
  const own =
    when === "after-due"
      ? (group.due ?? group.closes ?? NEVER)
      : when === "after-closing"
        ? latest(
            group.mayStart ? NEVER : (group.closes ?? NEVER),
            group.writesUntil === null ? null : group.writesUntil + GRACE,
          )
        : Date.parse((when as { on: string }).on);
  return isKey(what) ? latest(own, end) : own;
}

const hidden = (when: Said): Revelation => ({ visible: false, isNever: false, when });
/** What is never shown. */
export const NEVER_SHOWN: Revelation = {
  visible: false,
  isNever: true,
  when: said("reveal.reveal.not-shown"),
};
const NO_ATTEMPT = said("reveal.reveal.once-no-attempt-is-left-to");

/** What of its own time hides something from this student: an attempt of theirs that runs, or that may run again. */
function hiddenByOwn(what: Revealed, rules: RevealRules, facts: RevealFacts): Revelation | null {
  const when = rules[what];
  if (facts.laterRuns && what !== "total") return hidden(said("reveal.reveal.once-you-have-handed-in-the"));
  // Who may take it back still writes: what tells right from wrong would be known then.
  const { takeBackUntil, now, zone } = facts;
  if (when === "at-hand-in" && what !== "written" && takeBackUntil !== null && now < takeBackUntil) {
    return hidden(
      takeBackUntil === NEVER
        ? said("reveal.reveal.once-it-can-no-longer-be")
        : said("reveal.reveal.after-when-it-can-no-longer", {
            takeBackUntil: dayAndTime(takeBackUntil, zone),
          }),
    );
  }
  if (facts.attemptsLeft && isKey(what) && !rules.laterAttemptsKnow) return hidden(NO_ATTEMPT);
  return null;
}

function revelation(what: Revealed, rules: RevealRules, facts: RevealFacts): Revelation {
  const when = rules[what];
  if (when === "never") return NEVER_SHOWN;
  const waitsForLast = (rules.onlyAfterLastAttempt ?? false) && facts.attemptsLeft;
  const later = (words: Said): Revelation =>
    hidden(waitsForLast ? said("reveal.reveal.once", { when: words }) : words);
  if (when === "when-returned" && facts.returnedAt === null) {
    return later(said("reveal.reveal.when-your-instructor-returns-it"));
  }
  const moment = groupMoment(what, when, facts.group);
  if (moment === NEVER) {
    return when === "after-closing" && facts.group.closes === null
      ? hidden(said("reveal.reveal.not-shown-this-quiz-does-not"))
      : later(said("reveal.reveal.once-nobody-can-write-in-it"));
  }
  if (moment !== null && facts.now < moment) {
    return later(said("reveal.reveal.after", { when: dayAndTime(moment, facts.zone) }));
  }
  if (waitsForLast) return hidden(NO_ATTEMPT);
  return (
    hiddenByOwn(what, rules, facts) ?? { visible: true, isNever: false, when: said("reveal.reveal.now") }
  );
}

/** What of a handed-in attempt may be seen now. */
export function revealNow(rules: RevealRules, facts: RevealFacts): Revelations {
  const entries = REVEALED.map((what) => [what, revelation(what, rules, facts)] as const);
  return Object.fromEntries(entries) as unknown as Revelations;
}

/** What anything shown is called. */
export const REVEALED_WORDS: { readonly [R in Revealed]: Said } = {
  total: said("reveal.reveal.your-total"),
  marks: said("reveal.reveal.marks-for-each-question"),
  written: said("reveal.reveal.what-you-wrote"),
  right: said("reveal.reveal.right-answers"),
  worked: said("reveal.reveal.worked-answers-and-feedback"),
};

/** What the clock has come to show to the whole group after `from` and until now, whoever handed in and when. */
export const shownByClock = (
  rules: RevealRules,
  from: Instant,
  now: Instant,
  group: GroupMoments,
): Revealed[] =>
  REVEALED.filter((what) => {
    const moment = groupMoment(what, rules[what], group);
    return moment !== null && from < moment && moment <= now;
  });

/**
 * When closing takes the attempts that were left, and with them what hid anything; null: never, or nothing waits for it.
 * @example lastAttemptsEnd({}, { due: null, closes: 9_000, writesUntil: null, mayStart: false }) → null
 */
export const lastAttemptsEnd = (
  rules: Pick<RevealRules, "onlyAfterLastAttempt">,
  group: GroupMoments,
): Instant | null => (rules.onlyAfterLastAttempt && group.closes !== null ? nobodyWritesFrom(group) : null);

const PLAIN_WHEN: { readonly [W in Extract<RevealWhen, Said>]: Said } = {
  "at-hand-in": said("reveal.reveal.as-soon-as-you-hand-in"),
  "after-due": said("reveal.reveal.after-the-due-time"),
  "after-closing": said("reveal.reveal.after-the-quiz-has-closed-for"),
  "when-returned": said("reveal.reveal.when-your-instructor-returns-the-work"),
  never: said("reveal.reveal.never"),
};

/** When the rules show something, said before the start. */
export function revealWords(
  what: Revealed,
  { reveal, takeBack = false }: Pick<QuizSettings, "reveal" | "takeBack">,
  { due, closes }: { due: Instant | null; closes: Instant | null },
  zone: string,
): Said {
  const when = reveal[what];
  // Right answers wait for late work, too.
  const end = isKey(what) ? latest(due, closes) : null;
  const after = (moment: Instant) =>
    said("reveal.reveal.after", { when: dayAndTime(latest(moment, end), zone) });
  if (typeof when !== "string") return after(Date.parse(when.on));
  if (when === "after-due" && due !== null) return after(due);
  if (when === "after-closing" && closes !== null) return after(closes);
  if (when === "at-hand-in" && takeBack && what !== "written")
    return said("reveal.reveal.once-it-can-no-longer-be");
  return PLAIN_WHEN[when];
}
