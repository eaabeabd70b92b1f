import type { QuizContent } from "@/core/quiz/quiz-file";
import { config } from "./config";

/** The language of what the author of a quiz wrote, as a tag for pages: its own, or else the institution's. */
export const contentLanguage = ({ language }: Pick<QuizContent, "language">): string =>
  language ?? config.language;
