import { useState } from "react";
import type {
  PresentedSeveralOfSeveral,
  SeveralOfSeveralAnswer,
} from "@/core/kinds/several-of-several/answer";
import { t } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { OptionList } from "../picks/OptionList";

/** Picks several options, counting along; one too many is not taken, and the line says why. */
export function SeveralOfSeveralView(props: AnswerProps<PresentedSeveralOfSeveral, SeveralOfSeveralAnswer>) {
  const { slot, question, answer, ruledOut, onChoose, onRuleOut } = props;
  const [tooMany, setTooMany] = useState(false);
  const picks = answer?.picks ?? [];
  const toggle = (option: string) => {
    const isPicked = picks.includes(option);
    const next = isPicked ? picks.filter((each) => each !== option) : [...picks, option];
    setTooMany(next.length > question.most);
    if (next.length > question.most) return;
    const ordered = question.options.filter(({ id }) => next.includes(id)).map(({ id }) => id);
    onChoose(ordered.length === 0 ? null : { picks: ordered });
  };
  const goal =
    question.least === question.most
      ? t("kinds.several-of-several.answer.of-picked-2", { picksCount: picks.length, most: question.most })
      : t("kinds.several-of-several.answer.other", { picksCount: picks.length });
  return (
    <>
      <OptionList
        name={`slot-${slot}`}
        type="checkbox"
        options={question.options}
        picked={picks}
        ruledOut={ruledOut}
        labelledBy={`question-${slot}`}
        onToggle={toggle}
        onRuleOut={onRuleOut}
      />
      <p className="small mt-2" aria-live="polite">
        {tooMany
          ? t("kinds.several-of-several.answer.only-other-can-be-picked-take", { most: question.most })
          : goal}
      </p>
    </>
  );
}
