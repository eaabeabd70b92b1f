import { fillOf, type PresentedQuestion, readAnswer } from "../kinds/answering";
import type { Fill } from "../kinds/kind";
import { markQuestion, present, type Question, rightAnswerTo } from "../kinds/marking";
import { type PartTries, triesOf } from "../marking/tries";
import type { QuizFile } from "../quiz/quiz-file";
import type { TryRules } from "../quiz/rules";
import { type Told, toldOf } from "../reveal/told";
import { pagesOf, type Reached, type SlotState, slotStates } from "./order";
import { planAttempt } from "./plan";

/** Where one slot stands, with what of it may be on a student's device now. */
export interface SlotStanding {
  readonly state: SlotState;
  /** Null: not sent, because it is closed or not reached yet. */
  readonly question: PresentedQuestion | null;
  /** How far it is answered on the server. */
  readonly fill: Fill;
  readonly told: Told | null;
  /** The tries at each part; null where nothing can be checked. */
  readonly tries: readonly TriedPart[] | null;
}

/** The tries at one part, for the desk: what was wrong, what is left, and what it can still earn. */
export interface TriedPart extends Pick<PartTries, "wrong" | "left" | "right" | "words"> {
  readonly label: string | null;
  /** The share of the part's marks that can still be earned: "3/4". */
  readonly worth: string;
}

export interface AttemptStanding {
  /** The page that was reached, from 0. */
  readonly page: number;
  readonly slots: readonly SlotStanding[];
}

/** What is on the server for an attempt: the answers, and what was checked, in order. */
export interface AttemptWork {
  readonly answers: ReadonlyMap<number, unknown>;
  readonly checks: ReadonlyMap<number, readonly unknown[]>;
}

/** Where an attempt stands: what is open, closed and still to come. A question that is not open holds nothing but its fill. */
export function standingOf(
  quiz: QuizFile,
  seed: string,
  reached: Reached,
  work: AttemptWork,
): AttemptStanding {
  const plan = planAttempt(quiz, seed);
  const { rules } = quiz;
  const states = slotStates(rules, pagesOf(quiz, plan.length), reached);
  const slots = plan.map(({ slot, question }): SlotStanding => {
    const state = states.get(slot) ?? "ahead";
    const presented = present(question, seed);
    const reading = readAnswer(presented, work.answers.get(slot) ?? null);
    const answer = reading.ok ? reading.answer : null;
    // In free order what was told stays readable; one way, a question that was left is not sent again.
    const isSent = state === "open" || (state === "closed" && rules.order === "free");
    return {
      state,
      question: isSent ? presented : null,
      fill: fillOf(presented, answer),
      told:
        reached.told.has(slot) && state === "closed" ? toldOf(markQuestion(question, seed, answer)) : null,
      tries:
        rules.tries && isSent && rightAnswerTo(question, seed) !== null
          ? triedParts(question, seed, rules.tries, work.checks.get(slot) ?? [])
          : null,
    };
  });
  return { page: reached.page, slots };
}

/** The tries at each part of a question, from everything that was checked in it. */
export function triedParts(
  question: Question,
  seed: string,
  tries: TryRules,
  checks: readonly unknown[],
): TriedPart[] {
  const presented = present(question, seed);
  const blank = markQuestion(question, seed, null);
  const marked = checks.flatMap((raw) => {
    const reading = readAnswer(presented, raw);
    return reading.ok ? [markQuestion(question, seed, reading.answer)] : [];
  });
  return triesOf([blank, ...marked], tries).map(({ wrong, left, right, words, worth }, i) => ({
    label: blank.parts[i]?.label ?? null,
    wrong,
    left,
    right,
    words,
    worth: worth.toFraction(),
  }));
}
