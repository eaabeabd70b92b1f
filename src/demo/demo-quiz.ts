import type { QuizContent } from "@/core/quiz/quiz-file";
import type { QuizSettings } from "@/core/quiz/rules";
import type { SetQuiz } from "./college";

/** The ids of what was written, by name. */
export type Ids = ReadonlyMap<string, string>;
export const idOf = (ids: Ids, name: string): string => {
  const id = ids.get(name);
  if (!id) throw new Error(`The demo has no ${name}.`);
  return id;
};

export interface DemoQuiz extends SetQuiz {
  readonly id: string;
  readonly versionId: string;
  readonly content: QuizContent;
  readonly settings: QuizSettings;
}
