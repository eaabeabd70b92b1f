import type { SeveralOfSeveral } from "@/core/kinds/several-of-several/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { OptionsWritten } from "../picks/OptionsWritten";
import { Choice, Mistake, PlainField, Tick, textOf, wholeOrNone } from "../writing/fields";
import { stepNames } from "../writing/step-names";

/** Options of which some are right, and how picks are counted. */
export function SeveralOfSeveralCompose(props: ComposeProps<SeveralOfSeveral>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  const set = (change: Partial<SeveralOfSeveral>, typedIn?: string) => {
    const next = { ...question, ...change };
    const kept = Object.entries(next).filter(([, value]) => value !== undefined && value !== false);
    onChange(Object.fromEntries(kept) as unknown as SeveralOfSeveral, stepNames.scoring(), typedIn);
  };
  return (
    <>
      <OptionsWritten
        type="checkbox"
        field={`piece-${slot}`}
        path="options"
        options={question.options}
        language={language}
        mistakes={mistakes}
        newName={newName}
        onChange={(options, words, typedIn) => onChange({ ...question, options }, words, typedIn)}
      />
      <div className="mt-4 flex flex-wrap items-start gap-x-6 gap-y-3">
        <Choice
          label={t("compose.several-of-several.how-it-counts")}
          value={question.credit}
          options={[
            { value: "by-option", words: t("compose.several-of-several.by-option") },
            { value: "all-or-nothing", words: t("compose.several-of-several.all-or-nothing") },
          ]}
          onChange={(credit) => set({ credit })}
        />
        <PlainField
          className="w-28"
          label={t("compose.several-of-several.fewest-picks")}
          inputMode="numeric"
          placeholder="1"
          maxLength={2}
          value={textOf(question.least)}
          mistake={mistakes.get("least")}
          onChange={(text) => set({ least: wholeOrNone(text) }, `piece-${slot} least`)}
        />
        <PlainField
          className="w-28"
          label={t("compose.several-of-several.most-picks")}
          inputMode="numeric"
          placeholder={String(question.options.length)}
          maxLength={2}
          value={textOf(question.most)}
          mistake={mistakes.get("most")}
          onChange={(text) => set({ most: wholeOrNone(text) }, `piece-${slot} most`)}
        />
      </div>
      <Mistake words={mistakes.get("")} />
      <div className="mt-3">
        <Tick
          label={t("compose.picks.keep-the-order")}
          checked={question.keepOrder ?? false}
          onChange={(keepOrder) => set({ keepOrder: keepOrder || undefined })}
        />
      </div>
    </>
  );
}
