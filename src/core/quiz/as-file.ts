import type { QuizFile } from "./quiz-file";
import { splitRules } from "./rules";

/** A quiz as a file of version 2. */
export function asFile(quiz: QuizFile): object {
  const { format, version: _, rules, sections, ...rest } = quiz;
  const { settings, desk } = splitRules(rules);
  const { title, language, brief, reference, ...media } = rest;
  return { format, version: 2, title, language, brief, settings, rules: desk, reference, ...media, sections };
}
