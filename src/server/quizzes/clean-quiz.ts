import type { QuizFile } from "@/core/quiz/quiz-file";
import { cleanText, RICH_FIELDS } from "../rich-text";

function cleaned(value: unknown, field: string): unknown {
  if (typeof value === "string") return RICH_FIELDS.has(field) ? cleanText(value) : value;
  if (Array.isArray(value)) return value.map((each) => cleaned(each, field));
  if (typeof value !== "object" || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, cleaned(each, key)]));
}

/** A quiz with all its rich text cleaned: done once, on the way in. */
export const cleanQuiz = (quiz: QuizFile): QuizFile => cleaned(quiz, "") as QuizFile;
