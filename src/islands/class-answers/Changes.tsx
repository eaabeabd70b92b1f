import { useState } from "react";
import { t } from "@/words/t";

/** Whose mark would change, from what to what, as the server says it. */
export interface Preview {
  readonly attempts: number;
  readonly changed: number;
  readonly gain: number;
  readonly lose: number;
  readonly meanBefore: string | null;
  readonly meanAfter: string | null;
  readonly told: number;
  readonly lines: readonly {
    readonly name: string;
    readonly before: string;
    readonly after: string;
    readonly maximum: string;
  }[];
  readonly expects: string;
}

const SHOWN = 5;

/** What a re-marking would do, before it is done. */
export function Changes({ preview }: { readonly preview: Preview }) {
  const [all, setAll] = useState(false);
  const { changed, gain, lose, lines, meanBefore, meanAfter, told } = preview;
  const shown = all ? lines : lines.slice(0, SHOWN);
  return (
    <div className="mt-4 border-t border-line pt-4">
      <p className="font-bold">
        {changed === 0
          ? t("class-answers.changes.nobodys-mark-changes")
          : [
              gain > 0
                ? t("class-answers.changes.people-gain", { gain })
                : t("class-answers.changes.nobody-gains"),
              lose > 0
                ? t("class-answers.changes.people-lose", { lose })
                : t("class-answers.changes.nobody-loses"),
            ].join(" ")}
      </p>
      {lines.length > 0 && (
        <ul className="mt-2">
          {shown.map((line, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the lines of one answer, in their order
            <li key={i} className="flex justify-between gap-4 border-b border-line py-1.5 text-sm">
              <span className="min-w-0 truncate">{line.name || t("class-answers.changes.a-paper")}</span>
              <span className="whitespace-nowrap">
                {line.before} → <b>{line.after}</b> / {line.maximum}
              </span>
            </li>
          ))}
          {lines.length > SHOWN && (
            <li className="py-1.5 text-sm">
              <button
                type="button"
                className="min-h-6 underline"
                aria-expanded={all}
                onClick={() => setAll(!all)}
              >
                {all
                  ? t("class-answers.changes.fewer")
                  : t("class-answers.changes.and-more", { more: lines.length - SHOWN })}
              </button>
            </li>
          )}
        </ul>
      )}
      {meanBefore !== null && meanAfter !== null && changed > 0 && (
        <p className="small mt-2">
          {t("class-answers.changes.the-class-mean-goes", { from: meanBefore, to: meanAfter })}
        </p>
      )}
      <p className="small mt-1">
        {told > 0
          ? t("class-answers.changes.see-these-marks-already", { told })
          : t("class-answers.changes.nobody-sees-these-marks-yet")}{" "}
        {t("class-answers.changes.marks-by-hand-stay")}
      </p>
    </div>
  );
}
