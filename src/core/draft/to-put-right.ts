import type { Question } from "../kinds/marking";
import type { UnitMeanings } from "../numbers/unit-names";
import { type Mistake, questionMistakes, quizMistakes } from "../quiz/quiz-file";
import { paperWarnings, questionWarnings } from "../quiz/quiz-warnings";
import { type Said, said } from "../said";
import { type Assembled, assembled } from "./assembled";
import { HEAD, OUTLINE, type Pieces, RULES } from "./pieces";

/** Something in a draft to be put right before it is assigned, or to be looked at again. */
export interface Step {
  /** The number of its piece. */
  readonly slot: number;
  /** Where in the piece: "options[1].text"; "": the whole of it. */
  readonly path: string;
  readonly words: Said;
  /** Whether it keeps the quiz from being assigned; else it is likely to be unfair, or not what is meant. */
  readonly must: boolean;
}

/** While somebody writes, all questions but one are as they were: what was found in each is kept with it. */
const mistakesIn = new WeakMap<object, readonly Mistake[]>();
const warningsIn = new WeakMap<object, { readonly meanings: string; readonly found: readonly Said[] }>();

function mistakesOnce(question: unknown, at: string): Mistake[] {
  if (typeof question !== "object" || question === null) return questionMistakes(question, at);
  const found = mistakesIn.get(question) ?? questionMistakes(question, "");
  mistakesIn.set(question, found);
  return found.map(({ path, message }) => ({ path: [at, path].filter(Boolean).join("."), message }));
}

function warningsOnce(question: Question, all: UnitMeanings): readonly Said[] {
  const meanings = JSON.stringify(all);
  const known = warningsIn.get(question);
  if (known?.meanings === meanings) return known.found;
  const found = questionWarnings(question, all);
  warningsIn.set(question, { meanings, found });
  return found;
}

/** A mistake of the whole quiz as a step in the piece that it is in. */
function stepOf({ path, message }: Mistake, made: Assembled): Step {
  const step = (slot: number, rest: string): Step => ({ slot, path: rest, words: message, must: true });
  const [, section, question, rest = ""] = /^sections\[(\d+)\]\.questions\[(\d+)\]\.?(.*)$/.exec(path) ?? [];
  const slot = made.questionSlots[Number(section)]?.[Number(question)];
  if (slot !== undefined) return step(slot, rest);
  const [, medium, nth, field = ""] = /^(pictures|recordings)\[(\d+)\]\.?(.*)$/.exec(path) ?? [];
  const slots = medium === "pictures" ? made.pictureSlots : made.recordingSlots;
  const piece = medium === undefined ? undefined : slots[Number(nth)];
  if (piece !== undefined) return step(piece, field);
  if (path.startsWith("rules")) return step(RULES, path.replace(/^rules\.?/, ""));
  if (path.startsWith("sections")) return step(OUTLINE, path.replace(/^sections\.?/, ""));
  return step(HEAD, path);
}

/**
 * What is to be put right in a draft, each as a step to its place, in the order of the paper: first what keeps it from being
 * assigned. What `check` says of the same quiz file, and nothing else.
 * @param meanings what units mean in the course
 */
export function toPutRight(pieces: Pieces, meanings: UnitMeanings = {}): Step[] {
  const made = assembled(pieces);
  const places = new Set<string>();
  const must = quizMistakes(made.quiz, mistakesOnce)
    .map((mistake) => stepOf(mistake, made))
    // One thing at each place: what is missing is also too short.
    .filter(({ slot, path }) => {
      const place = `${slot} ${path}`;
      const isFirst = !places.has(place);
      places.add(place);
      return isFirst;
    });
  // Of a question that is not right there is nothing to say beyond that.
  const faulty = new Set(must.map(({ slot }) => slot));
  const all = { ...meanings, ...made.quiz.unitMeanings };
  const looks = made.quiz.sections.flatMap(({ questions }, i) =>
    questions.flatMap((question, j): Step[] => {
      const slot = made.questionSlots[i]?.[j];
      if (slot === undefined || faulty.has(slot)) return [];
      return warningsOnce(question, all).map((words) => ({ slot, path: "", words, must: false }));
    }),
  );
  const sound = made.quiz.sections.flatMap(({ questions }, i) =>
    questions.filter((_, j) => !faulty.has(made.questionSlots[i]?.[j] ?? 0)),
  );
  const whole = paperWarnings(sound).map((words): Step => ({ slot: OUTLINE, path: "", words, must: false }));
  return [...must, ...looks, ...twiceTaken(pieces, made.questionSlots.flat()), ...whole];
}

/** Questions that were taken from the bank more than once: an attempt could ask the same twice. */
function twiceTaken(pieces: Pieces, slots: readonly number[]): Step[] {
  const seen = new Set<string>();
  return slots.flatMap((slot): Step[] => {
    const piece = pieces.get(slot);
    const bank = piece?.piece === "question" && piece.bank?.follows ? piece.bank.id : null;
    if (bank === null) return [];
    if (seen.has(bank))
      return [{ slot, path: "", words: said("draft.to-put-right.twice-in-this-quiz"), must: false }];
    seen.add(bank);
    return [];
  });
}
