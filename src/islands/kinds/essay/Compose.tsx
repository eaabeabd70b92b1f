import { given } from "@/core/given";
import type { Essay } from "@/core/kinds/essay/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { ByHandWritten } from "../writing/ByHandWritten";
import { Mistake, PlainField, textOf, wholeOrNone } from "../writing/fields";
import { stepNames } from "../writing/step-names";

/** How long it should be, and what it is marked by. */
export function EssayCompose(props: ComposeProps<Essay>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  const setWords = (change: Essay["words"], typedIn: string) => {
    const { words: before, ...rest } = question;
    const kept = given({ ...before, ...change });
    onChange(Object.keys(kept).length === 0 ? rest : { ...rest, words: kept }, stepNames.scoring(), typedIn);
  };
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap gap-x-6 gap-y-3">
        <PlainField
          className="w-36"
          label={t("compose.essay.fewest-words")}
          inputMode="numeric"
          maxLength={6}
          value={textOf(question.words?.least)}
          onChange={(text) => setWords({ least: wholeOrNone(text) }, `piece-${slot} least`)}
        />
        <PlainField
          className="w-36"
          label={t("compose.essay.most-words")}
          inputMode="numeric"
          maxLength={6}
          value={textOf(question.words?.most)}
          onChange={(text) => setWords({ most: wholeOrNone(text) }, `piece-${slot} most`)}
        />
      </div>
      <Mistake words={mistakes.get("words")} />
      <ByHandWritten
        question={question}
        field={`piece-${slot}`}
        language={language}
        mistakes={mistakes}
        newName={newName}
        onChange={onChange}
      />
    </div>
  );
}
