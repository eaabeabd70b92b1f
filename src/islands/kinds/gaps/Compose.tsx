import { given } from "@/core/given";
import type { Gap, Gaps } from "@/core/kinds/gaps/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { OptionsWritten } from "../picks/OptionsWritten";
import { AcceptedWritten, TextRulesWritten } from "../writing/AcceptedWritten";
import { Choice, Mistake, PlainField, removeWords, textOf } from "../writing/fields";
import { stepNames } from "../writing/step-names";

/** Adds a gap at the end of the text of its question; its author moves `[[name]]` to where it belongs. */
function withGap(question: Gaps, id: string): Gaps {
  const mark = `[[${id}]]`;
  const text = question.text.endsWith("</p>")
    ? question.text.replace(/<\/p>$/, ` ${mark}</p>`)
    : `${question.text} ${mark}`.trim();
  return { ...question, text, gaps: [...question.gaps, { id, accepted: [{ text: "" }] }] };
}

const withoutGap = (question: Gaps, id: string): Gaps => ({
  ...question,
  text: question.text.replaceAll(`[[${id}]]`, ""),
  gaps: question.gaps.filter((gap) => gap.id !== id),
});

/** The gaps of the text above, in their order, each with what is taken in it. */
export function GapsCompose(props: ComposeProps<Gaps>) {
  const { question, slot, language, mistakes, newName, onChange } = props;
  const { gaps } = question;
  const nextName = () => {
    const number = gaps.length + 1;
    const plain = `gap${number}`;
    return gaps.some(({ id }) => id === plain) ? newName("gap") : plain;
  };
  const set = (next: Gap, words: string, typedIn?: string) =>
    onChange({ ...question, gaps: gaps.map((each) => (each.id === next.id ? next : each)) }, words, typedIn);
  return (
    <div className="grid gap-4">
      <p className="small">{t("compose.gaps.where-a-gap-stands")}</p>
      {gaps.map((gap, place) => {
        const name = t("compose.gaps.gap", { name: gap.id });
        const at = `gaps[${place}]`;
        return (
          <section key={gap.id} aria-label={name} className="border-t border-line pt-2">
            <div className="flex flex-wrap items-end gap-x-5 gap-y-2">
              <h3 className="font-bold">
                <code>[[{gap.id}]]</code>
              </h3>
              <Choice
                label={t("compose.gaps.how-it-is-filled", { name })}
                isQuiet
                value={gap.options ? "chosen" : "typed"}
                options={[
                  { value: "typed", words: t("compose.gaps.typed") },
                  { value: "chosen", words: t("compose.gaps.chosen") },
                ]}
                onChange={(how) => {
                  const { accepted, options, ...rest } = gap;
                  set(
                    how === "chosen"
                      ? {
                          ...rest,
                          options: options ?? [
                            { id: "a", text: accepted?.[0]?.text ?? "", right: true },
                            { id: "b", text: "" },
                          ],
                        }
                      : {
                          ...rest,
                          accepted: accepted ?? [{ text: options?.find(({ right }) => right)?.text ?? "" }],
                        },
                    stepNames.key(),
                  );
                }}
              />
              <PlainField
                className="w-28"
                label={t("compose.gaps.weight")}
                inputMode="decimal"
                placeholder="1"
                maxLength={8}
                value={textOf(gap.weight)}
                mistake={mistakes.get(`${at}.weight`)}
                onChange={(weight) => {
                  const { weight: _, ...rest } = gap;
                  set(
                    weight === "" ? rest : { ...rest, weight },
                    stepNames.scoring(),
                    `piece-${slot} ${gap.id} weight`,
                  );
                }}
              />
              <button
                type="button"
                className="button min-h-9! py-1!"
                onClick={() => onChange(withoutGap(question, gap.id), stepNames.removed())}
              >
                {removeWords(name)}
              </button>
            </div>
            <div className="mt-2">
              {gap.options ? (
                <OptionsWritten
                  type="radio"
                  field={`piece-${slot}-${gap.id}`}
                  path={`${at}.options`}
                  options={gap.options}
                  language={language}
                  mistakes={mistakes}
                  newName={newName}
                  onChange={(options, words, typedIn) =>
                    set({ ...gap, options: options.map(({ credit: _, ...each }) => each) }, words, typedIn)
                  }
                />
              ) : (
                <AcceptedWritten
                  accepted={gap.accepted ?? []}
                  field={`piece-${slot}-${gap.id}`}
                  path={`${at}.accepted`}
                  language={question.answerLanguage ?? language}
                  mistakes={mistakes}
                  onChange={(accepted, words, typedIn) => set({ ...gap, accepted }, words, typedIn)}
                />
              )}
            </div>
            <Mistake words={mistakes.get(at)} />
          </section>
        );
      })}
      <Mistake words={mistakes.get("gaps") ?? mistakes.get("")} />
      <button
        type="button"
        className="button justify-self-start"
        onClick={() => onChange(withGap(question, nextName()), stepNames.added())}
      >
        <span aria-hidden="true">+</span> {t("compose.gaps.add-a-gap")}
      </button>
      {gaps.some((gap) => !gap.options) && (
        <TextRulesWritten
          rules={question}
          onChange={(rules) => {
            onChange(given({ ...question, ...rules }), stepNames.scoring());
          }}
        />
      )}
    </div>
  );
}
