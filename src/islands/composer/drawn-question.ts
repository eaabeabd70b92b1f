import { answering, type PresentedQuestion } from "@/core/kinds/answering";
import { drawnFields } from "@/core/kinds/drawn";
import { drawnTex } from "../kinds/drawn-tex";

/** A question as its student will see it, with its formulas drawn in the page. */
export const drawnInPage = <Q extends PresentedQuestion>(question: Q): Q =>
  drawnFields(question, answering(question.kind).fields, drawnTex);
