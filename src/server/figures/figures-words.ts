import type { QuestionFigures } from "@/core/figures/question-figures";
import { type Said, said } from "@/core/said";
import type { FiguresView } from "./quiz-figures";

const WORDS = {
  misled: said("server.figures.figures-words.misled-those-who-knew-most"),
  "wrong-more-often": said("server.figures.figures-words.a-wrong-answer-more-often"),
  "nearly-all-wrong": said("server.figures.figures-words.nearly-all-wrong"),
  "nearly-all-right": said("server.figures.figures-words.nearly-all-right"),
};

/** What stands out in a question, the gravest first. */
export function remarkablesOf({ figures, wrongMoreOften }: FiguresView, id: string): Said[] {
  const own = figures.questions.find((each) => each.id === id)?.remarkable ?? [];
  const all = [...own, ...(wrongMoreOften.has(id) ? (["wrong-more-often"] as const) : [])];
  return (Object.keys(WORDS) as (keyof typeof WORDS)[])
    .filter((each) => all.includes(each))
    .map((each) => WORDS[each]);
}

/** How grave what stands out is: the less, the sooner it should be looked at. */
export function urgencyOf({ figures, wrongMoreOften }: FiguresView, id: string): number {
  const own = figures.questions.find((each) => each.id === id)?.remarkable ?? [];
  if (own.includes("misled")) return 0;
  if (wrongMoreOften.has(id)) return 1;
  return own.includes("nearly-all-wrong") ? 2 : own.includes("nearly-all-right") ? 3 : 4;
}

const NO_DISCRIMINATION = {
  "too-few": said("server.figures.figures-words.too-few-attempts"),
  "same-marks": said("server.figures.figures-words.all-have-the-same-marks"),
  "same-rest": said("server.figures.figures-words.all-did-alike-otherwise"),
};

/** Why a question has no discrimination; "" where it has one. */
export const noDiscriminationWords = ({ noDiscrimination }: QuestionFigures): Said =>
  noDiscrimination === null ? "" : NO_DISCRIMINATION[noDiscrimination];

const NO_RELIABILITY = {
  "too-few": said("server.figures.figures-words.too-few-attempts"),
  "different-questions": said("server.figures.figures-words.attempts-had-different-questions"),
  "one-question": said("server.figures.figures-words.only-one-question"),
  "same-totals": said("server.figures.figures-words.all-have-the-same-total"),
};

/** Why a quiz has no reliability; "" where it has one. */
export const noReliabilityWords = ({ figures }: FiguresView): Said =>
  figures.noReliability === null ? "" : NO_RELIABILITY[figures.noReliability];
