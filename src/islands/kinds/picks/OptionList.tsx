import { contentInWords, type PresentedOption } from "@/core/kinds/picks/content";
import { say, t } from "@/words/t";
import { Content } from "../pictures";

/** Drawn formulas are said in words. Undefined: what is on the screen says it. */
const formulaName = (option: PresentedOption): string | undefined =>
  option.formula !== undefined || option.text.includes("<!--formula")
    ? say(contentInWords(option))
    : undefined;

interface OptionListProps {
  readonly name: string;
  /** One is picked with round marks, several with square ones. */
  readonly type: "radio" | "checkbox";
  readonly options: readonly PresentedOption[];
  readonly picked: readonly string[];
  readonly ruledOut: readonly string[];
  readonly labelledBy: string;
  readonly onToggle: (option: string) => void;
  /** Absent where nothing is unlikely. */
  readonly onRuleOut?: (option: string) => void;
  /** Takes the pick back; absent where picking again does. */
  readonly onClear?: () => void;
}

/** The options of a question that is answered by picking, each of which can be ruled out and brought back. */
export function OptionList({
  name,
  type,
  options,
  picked,
  ruledOut,
  labelledBy,
  onToggle,
  onRuleOut,
  onClear,
}: OptionListProps) {
  return (
    <>
      {/* biome-ignore lint/a11y/useAriaPropsSupportedByRole: both roles take a label; the checker does not see which they are */}
      <div
        role={type === "radio" ? "radiogroup" : "group"}
        aria-labelledby={labelledBy}
        className={
          options.every(({ picture }) => picture !== undefined)
            ? "grid gap-x-6 border-t border-line sm:grid-cols-2"
            : "border-t border-line"
        }
      >
        {options.map((option, i) => {
          const isOut = ruledOut.includes(option.id);
          const isPicked = picked.includes(option.id);
          const letter = String.fromCharCode(65 + i);
          return (
            <div
              key={option.id}
              data-option={i + 1}
              className={`flex items-stretch border-b border-line ${isPicked ? "bg-indigo-2" : "hover:bg-sunk/50"}`}
            >
              <label className="flex min-h-12 flex-1 cursor-pointer items-baseline gap-3.5 py-2.5 pr-3 pl-2">
                <input
                  type={type}
                  name={name}
                  value={option.id}
                  checked={isPicked}
                  aria-label={formulaName(option)}
                  onChange={() => onToggle(option.id)}
                  data-pick={i + 1}
                  className={`relative top-0.5 size-[1.125rem] shrink-0 accent-indigo ${type === "radio" ? "" : "rounded-none"}`}
                />
                <span className="w-4 shrink-0 text-sm text-ink-2" aria-hidden="true">
                  {letter}
                </span>
                <Content
                  content={option}
                  className={`reading min-w-0 text-[1.0625rem] leading-normal ${isOut ? "text-ink-2 line-through" : ""}`}
                />
              </label>
              {onRuleOut && (
                <button
                  type="button"
                  data-rule-out={i + 1}
                  onClick={() => onRuleOut(option.id)}
                  aria-label={`${isOut ? t("kinds.picks.option-list.bring-back") : t("kinds.picks.option-list.rule-out")}: ${say(contentInWords(option))}`}
                  className={`min-w-24 shrink-0 disabled:hidden px-2 text-[0.8125rem] text-ink-2 hover:text-ink focus-visible:text-ink`}
                >
                  {isOut ? t("kinds.picks.option-list.bring-back") : t("kinds.picks.option-list.rule-out")}
                </button>
              )}
            </div>
          );
        })}
      </div>
      {onClear && picked.length > 0 && (
        <button type="button" className="small mt-2 min-h-6 underline disabled:hidden" onClick={onClear}>
          {t("kinds.common.leave-it-empty-again")}
        </button>
      )}
    </>
  );
}
