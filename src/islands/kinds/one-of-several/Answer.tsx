import type { OneOfSeveralAnswer, PresentedOneOfSeveral } from "@/core/kinds/one-of-several/answer";
import type { AnswerProps } from "../answer-props";
import { OptionList } from "../picks/OptionList";

/** Picks one option; a picked one can be taken back to leave the question empty. */
export function OneOfSeveralView(props: AnswerProps<PresentedOneOfSeveral, OneOfSeveralAnswer>) {
  const { slot, question, answer, ruledOut, onChoose, onRuleOut } = props;
  return (
    <OptionList
      name={`slot-${slot}`}
      type="radio"
      options={question.options}
      picked={answer ? [answer.pick] : []}
      ruledOut={ruledOut}
      labelledBy={`question-${slot}`}
      onToggle={(pick) => onChoose({ pick })}
      onRuleOut={onRuleOut}
      onClear={() => onChoose(null)}
    />
  );
}
