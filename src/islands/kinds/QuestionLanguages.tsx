import { type ReactNode, useContext } from "react";
import type { PresentedQuestion } from "@/core/kinds/answering";
import { AnswerLanguage, ContentLanguage } from "./view-contexts";

/** The languages of a question and of what is answered, where its author says others than those of the quiz. */
export const languagesOf = (
  { language, answerLanguage }: Pick<PresentedQuestion, "language" | "answerLanguage">,
  ofQuiz: string | undefined,
) => ({ asked: language ?? ofQuiz, answered: answerLanguage ?? language ?? ofQuiz });

interface QuestionLanguagesProps {
  readonly question: Pick<PresentedQuestion, "language" | "answerLanguage">;
  readonly children: ReactNode;
}

/** Tells what is within of which question it is: its texts and its answer stand in their own languages. */
export function QuestionLanguages({ question, children }: QuestionLanguagesProps) {
  const { asked, answered } = languagesOf(question, useContext(ContentLanguage));
  return (
    <ContentLanguage value={asked}>
      <AnswerLanguage value={answered}>{children}</AnswerLanguage>
    </ContentLanguage>
  );
}
