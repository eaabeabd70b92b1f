import { type Said, said } from "../said";

/** Who handed an attempt in. */
export type HandedInBy = "student" | "clock" | "instructor";

const inPartToo = (inPart: number): Said =>
  inPart > 0 ? said("attempt.answered-words.in-part", { inPart }) : "";

/**
 * "2 of 5 answered, 1 in part": as on the desk, on the slip, and wherever a hand-in is told of.
 * @example answeredWords(2, 5, 1) → "2 of 5 answered, 1 in part"
 */
export const answeredWords = (answered: number, questions: number, inPart: number): Said =>
  said("attempt.answered-words.of-answered", { answered, questions, inPartToo: inPartToo(inPart) });

/**
 * "2 of 5, 1 in part": the same beside the word "Answered".
 * @example answeredFact(2, 5, 0) → "2 of 5"
 */
export const answeredFact = (answered: number, questions: number, inPart: number): Said =>
  said("attempt.answered-words.of", { answered, questions, inPartToo: inPartToo(inPart) });
