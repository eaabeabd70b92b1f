import type { TrueOrFalse } from "@/core/kinds/true-or-false/mark";
import { t } from "@/words/t";
import type { ComposeProps } from "../compose-props";
import { Mistake } from "../writing/fields";
import { stepNames } from "../writing/step-names";
import { WrittenText } from "../writing/WrittenText";

/** Whether the statement is true, and what is said to who thinks otherwise. */
export function TrueOrFalseCompose({
  question,
  slot,
  language,
  mistakes,
  onChange,
}: ComposeProps<TrueOrFalse>) {
  const answers = [
    { value: true, words: t("kinds.true-or-false.answer.true") },
    { value: false, words: t("kinds.true-or-false.answer.false") },
  ];
  const write = (feedback: string) => {
    const { feedback: _, ...rest } = question;
    const typedIn = `piece-${slot} feedback`;
    onChange(feedback === "" ? rest : { ...rest, feedback }, stepNames.typing(), typedIn);
  };
  return (
    <>
      <fieldset className="border-t border-line">
        <legend className="sr-only">{t("compose.true-or-false.what-is-right")}</legend>
        {answers.map(({ value, words }) => (
          <label
            key={words}
            className={`flex min-h-12 items-center gap-3.5 border-b border-line px-2 ${question.right === value ? "bg-moss-2" : ""}`}
          >
            <input
              type="radio"
              name={`piece-${slot}-right`}
              className="size-[1.125rem] accent-moss"
              checked={question.right === value}
              onChange={() => onChange({ ...question, right: value }, stepNames.key())}
            />
            <span className="font-read text-[1.0625rem]">{words}</span>
          </label>
        ))}
      </fieldset>
      <Mistake words={mistakes.get("right")} />
      <div className="mt-3">
        <span className="label">{t("compose.true-or-false.said-to-who-is-wrong")}</span>
        <WrittenText
          text={question.feedback ?? ""}
          label={t("compose.true-or-false.said-to-who-is-wrong")}
          language={language}
          mistake={mistakes.get("feedback")}
          onChange={write}
        />
      </div>
    </>
  );
}
