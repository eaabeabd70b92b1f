import { given } from "@/core/given";
import type { ShortText } from "@/core/kinds/short-text/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { AcceptedWritten, TextRulesWritten } from "../writing/AcceptedWritten";
import { stepNames } from "../writing/step-names";

/** The texts that are taken, and how they are compared. */
export function ShortTextCompose({ question, slot, language, mistakes, onChange }: ComposeProps<ShortText>) {
  return (
    <div className="grid gap-4">
      <div>
        <h3 className="label">{t("compose.short-text.what-is-taken")}</h3>
        <div className="mt-1">
          <AcceptedWritten
            accepted={question.accepted}
            field={`piece-${slot}`}
            path="accepted"
            language={question.answerLanguage ?? language}
            mistakes={mistakes}
            onChange={(accepted, words, typedIn) => onChange({ ...question, accepted }, words, typedIn)}
          />
        </div>
      </div>
      <TextRulesWritten
        rules={question}
        onChange={(rules) => {
          onChange(given({ ...question, ...rules }), stepNames.scoring());
        }}
      />
    </div>
  );
}
