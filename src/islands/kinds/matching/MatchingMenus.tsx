import type { MatchingAnswer, PresentedMatching } from "@/core/kinds/matching/answer";
import { contentInWords } from "@/core/kinds/picks/content";
import { say, t } from "@/words/t";
import type { AnswerProps } from "../answer-props";
import { Content } from "../pictures";
import { matched } from "./matched";

/** A target for each prompt, chosen from a menu: for small screens, and for those who like it so. */
export function MatchingMenus(props: AnswerProps<PresentedMatching, MatchingAnswer>) {
  const { slot, question, answer, closedParts, onChoose } = props;
  const pairs = answer?.pairs ?? {};
  // A used target cannot be chosen again: a list is also searched by typing, and must not take it from another in passing.
  const usedBy = (target: string, prompt: string) =>
    question.once && Object.entries(pairs).some(([each, had]) => had === target && each !== prompt);
  return (
    <>
      <ul className="border-t border-line">
        {question.prompts.map((prompt, i) => (
          <li
            key={prompt.id}
            className="grid items-center gap-x-6 gap-y-1 border-b border-line py-2.5 sm:grid-cols-[minmax(0,1fr)_16rem]"
          >
            <Content id={`slot-${slot}-${prompt.id}`} className="reading text-[1.0625rem]" content={prompt} />
            <select
              className="field"
              value={pairs[prompt.id] ?? ""}
              disabled={closedParts[i] ?? false}
              aria-labelledby={`slot-${slot}-${prompt.id}`}
              onChange={(event) => onChoose(matched(question, pairs, prompt.id, event.target.value || null))}
            >
              <option value="">{t("kinds.matching.answer.not-matched")}</option>
              {question.targets.map((target) => (
                <option key={target.id} value={target.id} disabled={usedBy(target.id, prompt.id)}>
                  {say(contentInWords(target))}
                  {usedBy(target.id, prompt.id) ? t("kinds.matching.matching-menus.used") : ""}
                </option>
              ))}
            </select>
          </li>
        ))}
      </ul>
      <p className="small mt-2" aria-live="polite">
        {t("kinds.matching.matching-menus.of-matched", {
          keysCount: Object.keys(pairs).length,
          promptsCount: question.prompts.length,
        })}
      </p>
    </>
  );
}
