import type { KindName } from "../kinds/answering";
import type { Question } from "../kinds/marking";
import { agreed } from "../kinds/trusted-type";
import { type DraftPiece, HEAD, NEW_RULES, OUTLINE, RULES } from "./pieces";

const options = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ id: String.fromCharCode(97 + i), text: "" }));

/** What a question of each kind has before anything is written in it, beside its number, kind and text. */
const BLANK: { readonly [K in KindName]: object } = {
  "one-of-several": { marks: 1, options: options(4) },
  "several-of-several": { marks: 2, options: options(4), credit: "by-option" },
  "true-or-false": { marks: 1 },
  "short-text": { marks: 1, accepted: [{ text: "" }] },
  gaps: { marks: 1, gaps: [] },
  matching: {
    marks: 3,
    prompts: options(3).map((each) => ({ ...each, target: each.id })),
    targets: options(3),
  },
  ordering: { marks: 3, items: options(4), credit: "neighbours" },
  numeric: {
    marks: 2,
    parts: [{ id: "a", marks: 2, key: "", tolerance: { rule: "figures", figures: 3 } }],
  },
  "point-on-picture": { marks: 1, picture: "none", aspect: 1.5, regions: [], credit: "by-region" },
  essay: { marks: 6 },
  upload: { marks: 4, allows: ["picture"] },
  declaration: { marks: 0, options: options(1) },
};

/**
 * A question of a kind in which nothing is written yet.
 * @example blankQuestion("essay", "q1").marks → 6
 */
export const blankQuestion = (kind: KindName, id: string): Question =>
  agreed<Question>({ id, kind, text: "", ...BLANK[kind] });

/**
 * A question as it was kept, with what its kind cannot be without: what a program left out reads as empty.
 * @example asWritten({ id: "q", kind: "essay", text: "Why?", marks: 6 }).kind → "essay"
 */
export const asWritten = (question: Question): Question =>
  agreed<Question>({ ...blankQuestion(question.kind, question.id), ...question });

/** A draft in which nothing is written yet. @param section the name of its one section */
export const blankDraft = (title: string, section: string): Map<number, DraftPiece> =>
  new Map<number, DraftPiece>([
    [HEAD, { piece: "head", title }],
    [RULES, { piece: "rules", rules: NEW_RULES }],
    [OUTLINE, { piece: "outline", sections: [{ id: section, questions: [] }] }],
  ]);
