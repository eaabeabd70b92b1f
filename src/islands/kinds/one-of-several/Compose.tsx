import type { OneOfSeveral } from "@/core/kinds/one-of-several/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { OptionsWritten } from "../picks/OptionsWritten";
import { Tick } from "../writing/fields";
import { stepNames } from "../writing/step-names";

/** Options of which one is right. */
export function OneOfSeveralCompose(props: ComposeProps<OneOfSeveral>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  return (
    <>
      <OptionsWritten
        type="radio"
        hasCredit
        field={`piece-${slot}`}
        path="options"
        options={question.options}
        language={language}
        mistakes={mistakes}
        newName={newName}
        onChange={(options, words, typedIn) => onChange({ ...question, options }, words, typedIn)}
      />
      <div className="mt-3">
        <Tick
          label={t("compose.picks.keep-the-order")}
          checked={question.keepOrder ?? false}
          onChange={(keepOrder) => onChange(withOrder(question, keepOrder), stepNames.moved())}
        />
      </div>
    </>
  );
}

const withOrder = ({ keepOrder: _, ...question }: OneOfSeveral, keepOrder: boolean): OneOfSeveral =>
  keepOrder ? { ...question, keepOrder } : question;
