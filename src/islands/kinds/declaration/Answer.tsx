import type { DeclarationAnswer, PresentedDeclaration } from "@/core/kinds/declaration/answer";
import type { AnswerProps } from "../answer-props";
import { OptionList } from "../picks/OptionList";

/** A statement to confirm, or a choice without right or wrong. */
export function DeclarationView(props: AnswerProps<PresentedDeclaration, DeclarationAnswer>) {
  const { slot, question, answer, onChoose } = props;
  const single = question.options.length === 1;
  return (
    <OptionList
      name={`slot-${slot}`}
      type={single ? "checkbox" : "radio"}
      options={question.options}
      picked={answer ? [answer.choice] : []}
      ruledOut={[]}
      labelledBy={`question-${slot}`}
      onToggle={(choice) => onChoose(single && answer ? null : { choice })}
      {...(single ? {} : { onClear: () => onChoose(null) })}
    />
  );
}
