import { chance } from "@/core/numbers/seeded";
import { DAY, HOUR, type Instant, MINUTE } from "@/core/time/instants";
import type { DemoQuiz } from "../demo-quiz";
import { NOOR, STUDENTS } from "../people";
import { type Character, characters } from "./characters";

/** An attempt of the class: who, at which quiz, when; what is answered follows from who it is. */
export interface ClassAttempt {
  readonly quiz: DemoQuiz;
  readonly character: Character;
  readonly number: number;
  readonly started: Instant;
  readonly took: number;
  readonly returned: Instant | null;
  /** Whether a person has marked what a person marks. */
  readonly marked: boolean;
}

interface Sitting {
  readonly quiz: string;
  /** Which course's students: the letter in the list of people. */
  readonly letter: string;
  /** How many of them take it, 0 to 1, besides those who are away */
  readonly share: number;
  /** From when to when they start, counted from now. */
  readonly from: number;
  readonly until: number;
  /** How long ago it was returned; absent: not yet, or there is nothing to return. */
  readonly returnedAgo?: number;
  /** Whether a second attempt is taken by some. */
  readonly again?: boolean;
  /** The share of the hand-ins that a person has marked already. */
  readonly marked?: number;
  /** Whether it is open still, so that some have not come to it. */
  readonly isOpen?: true;
  /** Nobody was away. */
  readonly everyone?: boolean;
  /** All at once, at the opening. */
  readonly together?: boolean;
}

/** What the class has taken, beside what is told of Noor alone. */
const SITTINGS: readonly Sitting[] = [
  {
    quiz: "compass",
    letter: "n",
    share: 0.95,
    from: -9 * DAY,
    until: -7.5 * DAY,
    returnedAgo: 6 * DAY,
    again: true,
  },
  { quiz: "half-term", letter: "n", share: 1, from: 0, until: 0, returnedAgo: 2 * DAY, together: true },
  { quiz: "flour", letter: "b", share: 0.95, from: -6 * DAY, until: -3 * DAY, returnedAgo: 5 * HOUR },
  { quiz: "formulas", letter: "b", share: 0.95, from: -8 * DAY, until: -3.5 * DAY },
  { quiz: "oven", letter: "b", share: 0.9, from: -3.5 * DAY, until: -1.5 * DAY },
  { quiz: "shaping", letter: "b", share: 0.8, from: -4.5 * DAY, until: -1 * DAY },
  {
    quiz: "review",
    letter: "p",
    share: 0.95,
    from: -11.5 * DAY,
    until: -9 * DAY,
    returnedAgo: 3 * DAY,
    marked: 1,
  },
  { quiz: "sampling", letter: "p", share: 1, from: -5 * DAY, until: -1.5 * DAY },
  { quiz: "letters", letter: "p", share: 0.6, from: -2.5 * DAY, until: -6 * HOUR, marked: 0.4 },
  { quiz: "report", letter: "p", share: 1, everyone: true, from: -6 * DAY, until: -2.5 * DAY, marked: 0.5 },
  { quiz: "essays", letter: "p", share: 1, isOpen: true, from: -46 * HOUR, until: -3 * HOUR },
  { quiz: "notebook", letter: "p", share: 1, isOpen: true, from: -44 * HOUR, until: -3 * HOUR },
  { quiz: "names", letter: "p", share: 1, isOpen: true, from: -18 * HOUR, until: -1 * HOUR },
];

/** What Noor has taken like everyone else; the rest of her work has a story of its own. */
const NOOR_TAKES = new Set(["half-term", "report"]);

/** Who has not yet come to what is still open. */
const COME_LATER = new Set([
  "Bao Lindqvist",
  "Efua Moorcroft",
  "Greta Nwosu",
  "Hana Drummond",
  "Keziah Rowden",
  "Mbali Arkwell",
  "Rosalind Takahashi",
  "Wanjiru Holloway",
]);

/** How long writing takes where no limit holds, at full pace. */
const AT_LEISURE = 70 * MINUTE;

/** Who has taken what and when: always the same around the present moment. */
export function classAttempts(quizzes: readonly DemoQuiz[], at: Instant): ClassAttempt[] {
  const courses = new Map(STUDENTS.map(([name, taken]) => [name, taken]));
  const people = characters();
  return SITTINGS.flatMap((sitting) => {
    const quiz = quizzes.find(({ key }) => key === sitting.quiz);
    if (!quiz) throw new Error(`The demo has no quiz ${sitting.quiz}.`);
    return people.flatMap((character): ClassAttempt[] => {
      const isNoor = character.name === NOOR;
      if (!courses.get(character.name)?.includes(sitting.letter)) return [];
      if (isNoor && !NOOR_TAKES.has(sitting.quiz)) return [];
      if (sitting.isOpen && COME_LATER.has(character.name)) return [];
      const next = chance("class", sitting.quiz, character.name);
      if (!isNoor && !sitting.everyone && (next() > sitting.share || next() < character.away)) return [];
      const limit = quiz.settings.timeLimit ? quiz.settings.timeLimit * MINUTE : AT_LEISURE;
      const took = Math.floor(limit * Math.min(1, character.pace * (0.85 + next() * 0.3)));
      const base = {
        quiz,
        character,
        returned: sitting.returnedAgo === undefined ? null : at - sitting.returnedAgo,
        marked: next() < (sitting.marked ?? 0),
      };
      const opened = quiz.window.opens ?? 0;
      const due = quiz.window.due ?? Number.POSITIVE_INFINITY;
      const mayBeLate = due < at && (quiz.window.closes ?? 0) > due;
      const isLate = !isNoor && next() < character.late && mayBeLate;
      const started = sitting.together
        ? opened + Math.floor(next() * 9 * MINUTE)
        : isLate
          ? due + Math.floor((0.1 + 0.7 * next()) * (Math.min(at, quiz.window.closes ?? at) - due - took))
          : at + Math.floor(sitting.from + next() * (sitting.until - sitting.from)) - took;
      const first = { ...base, number: 1, started, took };
      const isTakenAgain = sitting.again && !isNoor && next() < 0.35;
      // The second time one knows a little more, and needs less time for it.
      const second = {
        ...base,
        number: 2,
        character: { ...character, knows: character.knows + 0.6 },
        started: started + took + 3 * HOUR + Math.floor(next() * 6 * HOUR),
        took: Math.floor(took * 0.8),
      };
      return isTakenAgain ? [first, second] : [first];
    });
  });
}
