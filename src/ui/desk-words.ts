/** The rooms of the catalogue whose words are needed where questions are answered: at the desk, and in practice. */
export const DESK_WORDS: readonly string[] = [
  "attempt",
  "count",
  "desk",
  "files",
  "formula",
  "joint",
  "kinds",
  "marking",
  "numbers",
  "practice",
  "quiz.sentences",
  "reveal",
  "text",
  "time",
  "ui",
  "units",
];
