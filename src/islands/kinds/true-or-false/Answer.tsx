import type { PresentedTrueOrFalse, TrueOrFalseAnswer } from "@/core/kinds/true-or-false/answer";
import { said } from "@/core/said";
import { say } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { OptionList } from "../picks/OptionList";

const OPTIONS = [
  { id: "true", text: said("kinds.true-or-false.answer.true") },
  { id: "false", text: said("kinds.true-or-false.answer.false") },
];

/** True or false; the answer can be taken back to leave the question empty. */
export function TrueOrFalseView(props: AnswerProps<PresentedTrueOrFalse, TrueOrFalseAnswer>) {
  const { slot, answer, ruledOut, onChoose, onRuleOut } = props;
  return (
    <OptionList
      name={`slot-${slot}`}
      type="radio"
      options={OPTIONS.map(({ id, text }) => ({ id, text: say(text) }))}
      picked={answer ? [String(answer.value)] : []}
      ruledOut={ruledOut}
      labelledBy={`question-${slot}`}
      onToggle={(option) => onChoose({ value: option === "true" })}
      onRuleOut={onRuleOut}
      onClear={() => onChoose(null)}
    />
  );
}
