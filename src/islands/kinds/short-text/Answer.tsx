import type { PresentedShortText, ShortTextAnswer } from "@/core/kinds/short-text/answer";
import { t } from "@/words/t";
import type { AnswerProps } from "../answer-props";

/** A line to write on, with the browser's spelling help. */
export function ShortTextView(props: AnswerProps<PresentedShortText, ShortTextAnswer>) {
  const { slot, answer, onType, onLeave } = props;
  return (
    <input
      className="field max-w-xl text-lg"
      value={answer?.text ?? ""}
      onChange={(event) => onType(event.target.value === "" ? null : { text: event.target.value })}
      onBlur={onLeave}
      autoComplete="off"
      spellCheck
      placeholder={t("kinds.short-text.answer.your-answer")}
      aria-labelledby={`question-${slot}`}
    />
  );
}
