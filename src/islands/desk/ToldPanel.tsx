import { useContext } from "react";
import type { Told } from "@/core/reveal/told";
import { said, saysSame } from "@/core/said";
import { say, t } from "@/words/t";
import { ContentLanguage } from "../kinds/view-contexts";

const WORDS = {
  full: said("desk.told-panel.right"),
  part: said("desk.told-panel.partly-right"),
  none: said("desk.told-panel.not-right"),
  empty: said("desk.told-panel.left-empty"),
  awaits: said("desk.told-panel.waits-for-your-instructor"),
  dropped: said("ui.mark-states.dropped"),
} as const;

/** What a question says once it is left, where the quiz tells at once. */
export function ToldPanel({ told }: { readonly told: Told }) {
  const language = useContext(ContentLanguage);
  const mood =
    told.state === "full"
      ? "border-moss bg-moss-2"
      : told.state === "none"
        ? "border-plum bg-plum-2"
        : "border-line-2 bg-sunk";
  const many = told.parts.length > 1;
  return (
    <div role="status" className={`mt-5 border-l-[3px] px-4 py-3 ${mood}`}>
      <p>
        <b>{say(WORDS[told.state])}</b>{" "}
        {t("desk.told-panel.of-this-question-is-closed-now", {
          marks: told.marks,
          maximum: Number(told.maximum),
        })}
      </p>
      {told.parts.map((part) => (
        <div key={JSON.stringify(part.label)}>
          {(many || !saysSame(part.why, said("kinds.common.right"))) && (
            <p className="mt-1 text-sm text-ink-2">
              {part.label && <b>{say(part.label)}: </b>}
              {say(part.why)}
            </p>
          )}
          {part.right !== undefined && (
            <p className="mt-1 text-sm">
              {t("desk.told-panel.right-2")} <b>{say(part.right)}</b>
            </p>
          )}
          {part.feedback && (
            <div
              className="reading mt-2"
              lang={language}
              // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised when the quiz was taken in
              dangerouslySetInnerHTML={{ __html: part.feedback }}
            />
          )}
        </div>
      ))}
    </div>
  );
}
