import type { PresentedTrueOrFalse, TrueOrFalseAnswer } from "@/core/kinds/true-or-false/answer";
import type { AnswerProps } from "../answer-props";
import { OptionList } from "../picks/OptionList";

const OPTIONS = [
  { id: "true", text: "True" },
  { id: "false", text: "False" },
];

/** True or false; the answer can be taken back to leave the question empty. */
export function TrueOrFalseView(props: AnswerProps<PresentedTrueOrFalse, TrueOrFalseAnswer>) {
  const { slot, answer, ruledOut, onChoose, onRuleOut } = props;
  return (
    <OptionList
      name={`slot-${slot}`}
      type="radio"
      options={OPTIONS}
      picked={answer ? [String(answer.value)] : []}
      ruledOut={ruledOut}
      labelledBy={`question-${slot}`}
      onToggle={(option) => onChoose({ value: option === "true" })}
      onRuleOut={onRuleOut}
      onClear={() => onChoose(null)}
    />
  );
}
