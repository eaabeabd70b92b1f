import { useContext } from "react";
import type { PresentedShortText, ShortTextAnswer } from "@/core/kinds/short-text/answer";
import { t } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { useComposed } from "../composed";
import { AnswerLanguage } from "../view-contexts";

/** A line to write on, with the browser's spelling help. */
export function ShortTextView(props: AnswerProps<PresentedShortText, ShortTextAnswer>) {
  const { slot, answer, onType, onLeave } = props;
  const field = useComposed(answer?.text ?? "", (text) => onType(text === "" ? null : { text }));
  return (
    <input
      {...field}
      lang={useContext(AnswerLanguage)}
      className="field max-w-xl text-lg"
      onBlur={onLeave}
      autoComplete="off"
      spellCheck
      placeholder={t("kinds.short-text.answer.your-answer")}
      aria-labelledby={`question-${slot}`}
    />
  );
}
