/**
 * The rules of one quiz with three short questions, written down a second time as plainly as can be: what a person would
 * work out with pencil and paper from a list of everything that happened. Slow, with nothing shared with the application.
 */
const SECOND = 1_000;
const MINUTE = 60 * SECOND;
const GRACE = 5 * SECOND;
const START_ALLOWANCE = 10 * SECOND;
export const LIMIT = 20;
export const KEYS = ["kelp", "gale", "MARKER-RIGHT"] as const;
export const MOST_TRIES = 2;

export interface PlainTerms {
  readonly order: "free" | "one-way";
  readonly tellAtOnce: boolean;
  readonly tries: boolean;
  readonly takeBack: boolean;
  readonly attempts: number;
  readonly laterAttemptsKnow: boolean;
  readonly right: "at-hand-in" | "after-due" | "after-closing";
  readonly due: number;
  readonly closes: number | null;
}

export interface PlainEntry {
  readonly slot: number;
  readonly device: string;
  readonly revision: number;
  readonly text: string;
  readonly writtenAt: number;
}

export interface PlainAttempt {
  readonly id: string;
  readonly person: number;
  startsAt: number;
  deadline: number;
  sent: boolean;
  confirmed: boolean;
  added: number;
  page: number;
  readonly told: Set<number>;
  readonly checked: Map<number, string[]>;
  readonly log: PlainEntry[];
  late: PlainEntry[];
  handedIn: { readonly at: number; readonly by: "student" | "clock" } | null;
}

const isLater = (a: PlainEntry, b: PlainEntry): boolean =>
  a.writtenAt !== b.writtenAt
    ? a.writtenAt > b.writtenAt
    : a.device !== b.device
      ? a.device > b.device
      : a.revision > b.revision;

const isSameChange = (a: PlainEntry, b: PlainEntry): boolean =>
  a.slot === b.slot && a.device === b.device && a.revision === b.revision;

export class PlainQuiz {
  readonly attempts: PlainAttempt[] = [];
  /** A later end for one person. */
  readonly laterEnd = new Map<number, number>();

  constructor(
    readonly terms: PlainTerms,
    readonly people: number,
  ) {}

  dueOf = (person: number): number => this.laterEnd.get(person) ?? this.terms.due;
  closesOf = (person: number): number | null => this.laterEnd.get(person) ?? this.terms.closes;

  #deadline(person: number, start: number, added: number): number {
    return Math.min(start + LIMIT * MINUTE, this.closesOf(person) ?? Number.POSITIVE_INFINITY) + added;
  }

  runningOf = (person: number) => this.attempts.find((each) => each.person === person && !each.handedIn);

  mayStart(person: number, now: number): boolean {
    const made = this.attempts.filter((each) => each.person === person);
    const closes = this.closesOf(person);
    return (
      made.every((each) => each.handedIn) &&
      made.length < this.terms.attempts &&
      (closes === null || now < closes)
    );
  }

  start(id: string, person: number, now: number): void {
    const startsAt = now + START_ALLOWANCE;
    this.attempts.push({
      id,
      person,
      startsAt,
      deadline: this.#deadline(person, startsAt, 0),
      sent: false,
      confirmed: false,
      added: 0,
      page: 0,
      told: new Set(),
      checked: new Map(),
      log: [],
      late: [],
      handedIn: null,
    });
  }

  /** Whatever is past its end and its grace is handed in. */
  settle(now: number): void {
    for (const each of this.attempts) {
      if (!each.handedIn && now > each.deadline + GRACE) each.handedIn = { at: each.deadline, by: "clock" };
    }
  }

  send(a: PlainAttempt, now: number): void {
    if (a.handedIn || a.sent || a.confirmed || a.startsAt <= now) return;
    a.sent = true;
    a.startsAt = now + START_ALLOWANCE;
    a.deadline = this.#deadline(a.person, a.startsAt, a.added);
  }

  confirm(a: PlainAttempt, now: number): void {
    if (a.handedIn || a.confirmed) return;
    a.confirmed = true;
    if (now >= a.startsAt) return;
    a.startsAt = now;
    a.deadline = this.#deadline(a.person, now, a.added);
  }

  extend(a: PlainAttempt, minutes: number): void {
    a.added += minutes * MINUTE;
    a.deadline += minutes * MINUTE;
  }

  /** How one slot's checking stands. */
  tried(
    a: PlainAttempt,
    slot: number,
  ): { readonly wrong: number; readonly right: boolean; readonly done: boolean } {
    const wrong = new Set<string>();
    for (const text of a.checked.get(slot) ?? []) {
      if (text === KEYS[slot - 1]) return { wrong: wrong.size, right: true, done: true };
      wrong.add(text);
      if (wrong.size === MOST_TRIES) return { wrong: wrong.size, right: false, done: true };
    }
    return { wrong: wrong.size, right: false, done: false };
  }

  isOpen(a: PlainAttempt, slot: number): boolean {
    if (a.told.has(slot) || this.tried(a, slot).done) return false;
    return this.terms.order === "free" || slot - 1 === a.page;
  }

  /** What stands in a slot: of everything that was taken in, what was written last. */
  stands(a: PlainAttempt, slot: number): PlainEntry | null {
    let newest: PlainEntry | null = null;
    for (const each of a.log) if (each.slot === slot && (!newest || isLater(each, newest))) newest = each;
    return newest;
  }

  /** A change arrives. */
  arrives(a: PlainAttempt, entry: PlainEntry, now: number): "saved" | "refused" | "late" {
    this.settle(now);
    const before = a.log.find((each) => isSameChange(each, entry));
    const isRepeated = before?.text === entry.text;
    if (a.handedIn) {
      if (entry.writtenAt > a.handedIn.at) return "refused";
      if (isRepeated || a.late.some((each) => isSameChange(each, entry) && each.text === entry.text))
        return "late";
      if (this.keyIsShown(a, now) || a.late.some((each) => isSameChange(each, entry))) return "refused";
      a.late.push(entry);
      return "late";
    }
    if (isRepeated) return "saved";
    if (before || !this.isOpen(a, entry.slot)) return "refused";
    a.log.push({ ...entry, writtenAt: Math.min(entry.writtenAt, now) });
    return "saved";
  }

  moveOn(a: PlainAttempt): void {
    if (this.terms.tellAtOnce) {
      const slot = a.page + 1;
      if (this.terms.order === "one-way" || (this.stands(a, slot)?.text ?? "") !== "") a.told.add(slot);
    }
    a.page += 1;
  }

  handIn(a: PlainAttempt, now: number): void {
    if (a.handedIn) return;
    a.handedIn = now > a.deadline ? { at: a.deadline, by: "clock" } : { at: now, by: "student" };
    if (a.startsAt > now) {
      a.startsAt = now;
      a.confirmed = true;
    }
  }

  takeBackEnd(a: PlainAttempt): number {
    if (!this.terms.takeBack || a.handedIn?.by !== "student") return Number.NEGATIVE_INFINITY;
    return Math.min(a.deadline, this.dueOf(a.person) + a.added);
  }

  mayTakeBack = (a: PlainAttempt, now: number): boolean =>
    now < this.takeBackEnd(a) && !this.runningOf(a.person);

  takeBack(a: PlainAttempt): void {
    a.handedIn = null;
    const open = a.late.filter(({ slot }) => this.isOpen(a, slot));
    for (const each of open) if (!a.log.some((old) => isSameChange(old, each))) a.log.push(each);
    a.late = a.late.filter((each) => !a.log.some((old) => isSameChange(old, each) && old.text === each.text));
  }

  /** Whether anyone at all may still write, now or later, in any way the rules leave. */
  #someoneMayWrite(now: number): boolean {
    const people = Array.from({ length: this.people }, (_, person) => person);
    return (
      this.attempts.some((each) => !each.handedIn && now < each.deadline + GRACE) ||
      this.attempts.some((each) => now < this.takeBackEnd(each) + GRACE) ||
      people.some((person) => now < this.dueOf(person) || now < (this.closesOf(person) ?? 0)) ||
      (this.terms.closes === null && people.some((person) => this.mayStart(person, now)))
    );
  }

  /** Whether the student of a handed-in attempt sees its key. */
  keyIsShown(a: PlainAttempt, now: number): boolean {
    const { right, laterAttemptsKnow } = this.terms;
    if (!a.handedIn || this.runningOf(a.person)) return false;
    if (right === "at-hand-in")
      return (laterAttemptsKnow || !this.mayStart(a.person, now)) && now >= this.takeBackEnd(a);
    return !this.#someoneMayWrite(now) && (laterAttemptsKnow || !this.mayStart(a.person, now));
  }

  /** The marks of a slot, one at the most: right is all, each wrong try costs half. */
  marks(a: PlainAttempt, slot: number): number {
    const { wrong, right, done } = this.tried(a, slot);
    if (done && !right) return 0;
    const isRight = right || this.stands(a, slot)?.text === KEYS[slot - 1];
    return isRight ? Math.max(0, 1 - wrong / 2) : 0;
  }
}
