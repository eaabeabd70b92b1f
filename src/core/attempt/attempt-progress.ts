import { type Answer, answering, fillOf, type PresentedQuestion, readAnswer } from "../kinds/answering";
import type { Fill, MarkedQuestion } from "../kinds/kind";
import { checkedWith, markQuestion, present, type Question, rightAnswerTo } from "../kinds/marking";
import { exact } from "../numbers/exact";
import type { AttemptSeed } from "../numbers/seeded";
import type { QuizContent } from "../quiz/quiz-file";
import type { TryRules } from "../quiz/rules";
import { type Told, toldOf } from "../reveal/told";
import type { Said } from "../said";
import { pagesOf, type Reached, type SlotAccess, slotAccesses } from "./order";
import { planAttempt } from "./plan";
import { type PartTries, triesOf, withTries } from "./tries";

/** Where one slot stands, with what of it may be on a student's device now. */
export interface SlotProgress {
  readonly access: SlotAccess;
  /** Null: not sent, because it is closed or not reached yet. */
  readonly question: PresentedQuestion | null;
  /** A declaration: it stands apart from marks and from what is counted as answered. */
  readonly isDeclaration: boolean;
  /** How far it is answered on the server. */
  readonly fill: Fill;
  readonly told: Told | null;
  /** The tries at each part; null where nothing can be checked. */
  readonly tries: readonly TriedPart[] | null;
}

/** The tries at one part, for the desk: what was wrong, what is left, and what it can still earn. */
export interface TriedPart extends Pick<PartTries, "wrong" | "left" | "right" | "words"> {
  readonly label: Said | null;
  /** What it has earned so far, and its maximum; exact numbers as text. */
  readonly earned: string;
  readonly maximum: string;
  /** The share of the part's marks that can still be earned: "3/4". */
  readonly worth: string;
  /** It was right at a check, or its tries are used up: what is written there can no longer be changed. */
  readonly closed: boolean;
  /** Why what was checked last was no try, as a sentence; null: it was one, or nothing was checked. */
  readonly incomplete: Said | null;
}

export interface AttemptProgress {
  /** The page that was reached, from 0. */
  readonly page: number;
  readonly slots: readonly SlotProgress[];
}

/** An answer as it was checked: all of its parts, or one of them, by its place; the others only stood beside it. */
export interface CheckedAnswer {
  readonly answer: unknown;
  readonly part: number | null;
}

/** What is on the server for an attempt: the answers, and what was checked, in order. */
export interface AttemptWork {
  readonly answers: ReadonlyMap<number, unknown>;
  readonly checks: ReadonlyMap<number, readonly CheckedAnswer[]>;
}

/** Where an attempt stands: what is open, closed and still to come. A question that is not open holds nothing but its fill. */
export function progressOf(
  quiz: QuizContent,
  seed: AttemptSeed,
  reached: Reached,
  work: AttemptWork,
): AttemptProgress {
  const plan = planAttempt(quiz, seed);
  const { rules } = quiz;
  const pages = pagesOf(quiz, plan.length);
  const states = slotAccesses(rules, pages, reached);
  const slots = plan.map(({ slot, question }): SlotProgress => {
    const state = states.get(slot) ?? "ahead";
    const presented = present(question, seed);
    const reading = readAnswer(presented, work.answers.get(slot) ?? null);
    const answer = reading.ok ? reading.answer : null;
    // In free order what was told stays readable; one way, a question that was left is not sent again.
    const isLeft = rules.order === "one-way" && !(pages[reached.page] ?? []).includes(slot);
    const isSent = state === "open" || (state === "closed" && !isLeft);
    const checks = work.checks.get(slot) ?? [];
    return {
      access: state,
      question: isSent ? presented : null,
      isDeclaration: presented.kind === "declaration",
      fill: fillOf(presented, answer),
      told:
        reached.told.has(slot) && state === "closed"
          ? toldOf(markedWithTries(question, seed, answer, rules.tries, checks), rules.tellRightAnswer)
          : null,
      tries:
        rules.tries && isSent && rightAnswerTo(question, seed) !== null
          ? triedParts(question, seed, rules.tries, checks)
          : null,
    };
  });
  return { page: reached.page, slots };
}

/** What was checked in a question, as it can be read, in order. */
const checkedAnswers = (
  question: Question,
  seed: AttemptSeed,
  checks: readonly CheckedAnswer[],
): { readonly answer: Answer | null; readonly part: number | null }[] => {
  const presented = present(question, seed);
  return checks.flatMap(({ answer, part }) => {
    const reading = readAnswer(presented, answer);
    return reading.ok ? [{ answer: reading.answer, part }] : [];
  });
};

/**
 * What was checked, marked: of one part only that and those that it builds on. Errors are carried forward from what stood
 * there, so it counts too: or one could be made up from which the part is easy.
 */
function markedChecks(
  question: Question,
  seed: AttemptSeed,
  checks: ReturnType<typeof checkedAnswers>,
): MarkedQuestion[] {
  return checks.map(({ answer, part }) => {
    const marked = markQuestion(question, seed, answer);
    if (part === null) return marked;
    const counted = new Set([part, ...checkedWith(question, part)]);
    return {
      ...marked,
      parts: marked.parts.map((each, i) => (counted.has(i) ? each : { ...each, state: "empty" as const })),
    };
  });
}

/** The tries at each part of a question, from everything that was checked in it. */
export function triedParts(
  question: Question,
  seed: AttemptSeed,
  tries: TryRules,
  checks: readonly CheckedAnswer[],
): TriedPart[] {
  const answers = checkedAnswers(question, seed, checks);
  const marked = markedChecks(question, seed, [{ answer: null, part: null }, ...answers]);
  return triesOf(marked, tries).map(({ wrong, left, right, words, worth, closedBy }, i) => ({
    label: marked[0]?.parts[i]?.label ?? null,
    earned: right ? worth.mul(exact(marked[0]?.parts[i]?.maximum ?? 0)).toFraction() : "0",
    maximum: exact(marked[0]?.parts[i]?.maximum ?? 0).toFraction(),
    wrong,
    left,
    right,
    words,
    worth: worth.toFraction(),
    closed: closedBy !== null,
    incomplete: closedBy === null ? lastIncomplete(marked, i) : null,
  }));
}

/** Why what was checked last of a part was no try; null: it was one. */
function lastIncomplete(marked: readonly MarkedQuestion[], part: number): Said | null {
  const last = marked.at(-1)?.parts[part];
  return last && last.state !== "empty" ? (last.incomplete ?? null) : null;
}

/** A question marked with what its tries did: closed parts as they were closed, the others less what was lost. */
export function markedWithTries(
  question: Question,
  seed: AttemptSeed,
  answer: Answer | null,
  tries: TryRules | undefined,
  checks: readonly CheckedAnswer[],
): MarkedQuestion {
  const answers = tries ? checkedAnswers(question, seed, checks) : [];
  if (!tries || answers.length === 0) return markQuestion(question, seed, answer);
  // What was closed is what later parts build on, whatever came to stand in its place.
  const marked = markQuestion(question, seed, withClosedParts(question, seed, tries, checks, answer));
  return withTries(marked, triesOf(markedChecks(question, seed, answers), tries));
}

/** An answer in which the parts that checking has closed are as they were when they were closed. */
export function withClosedParts(
  question: Question,
  seed: AttemptSeed,
  tries: TryRules,
  checks: readonly CheckedAnswer[],
  answer: Answer | null,
): Answer | null {
  const answers = checkedAnswers(question, seed, checks);
  const presented = present(question, seed);
  const tried = triesOf(markedChecks(question, seed, answers), tries);
  return tried.reduce<Answer | null>((held, { closedBy }, part) => {
    if (!closedBy) return held;
    const from = answers[closedBy.check]?.answer ?? null;
    const { withPart } = answering(presented.kind);
    return withPart ? withPart(presented, held, part, from) : from;
  }, answer);
}
