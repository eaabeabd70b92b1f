import { mapFields, RECORDING_FIELDS, STIMULUS_FIELDS, type TextUse } from "@/core/kinds/fields";
import { marking } from "@/core/kinds/marking";
import type { QuizFile } from "@/core/quiz/quiz-file";
import { cleanText } from "../text/rich-text";

const clean = (text: string, use: TextUse): string => (use === "rich" ? cleanText(text) : text);

/** A quiz with all its rich text cleaned, as the kinds of its questions declare it: done once, on the way in. */
export const cleanQuiz = (quiz: QuizFile): QuizFile =>
  mapFields(
    {
      ...quiz,
      sections: quiz.sections.map((section) => ({
        ...mapFields(section, { stimulus: STIMULUS_FIELDS }, clean),
        questions: section.questions.map((question) =>
          mapFields(question, marking(question.kind).fields, clean),
        ),
      })),
    },
    { brief: "rich", reference: "rich", recordings: [RECORDING_FIELDS] },
    clean,
  );
