import { useState } from "react";
import type { GradebookPlan } from "@/core/gradebook/gradebook-plan";
import { t } from "@/words/t";

type PlanScale = GradebookPlan["scale"];

/** Thresholds as they are written: a line each, a name and the per cent from which it holds. */
function thresholdsIn(text: string): { readonly name: string; readonly from: string }[] {
  return text
    .split("\n")
    .map((line) => /^\s*(.+?)\s+(\d+(?:[.,]\d+)?)\s*%?\s*$/.exec(line))
    .flatMap((found) => (found ? [{ name: found[1] ?? "", from: (found[2] ?? "").replace(",", ".") }] : []));
}

const BEGIN = Object.entries({ A: 85, B: 70, C: 55, D: 40 })
  .map((threshold) => threshold.join(" "))
  .join("\n");

interface ScaleEditorProps {
  readonly scale: PlanScale;
  readonly onChange: (scale: PlanScale) => void;
}

/** How the course's standing is told beside its per cent: not at all, by letters, or reached and not reached. */
export function ScaleEditor({ scale, onChange }: ScaleEditorProps) {
  const [text, setText] = useState(() =>
    scale?.kind === "letters"
      ? scale.thresholds.map(({ name, from }) => `${name} ${from}`).join("\n")
      : BEGIN,
  );
  const kind = scale?.kind === "letters" || scale?.kind === "reached" ? scale.kind : "none";
  return (
    <div className="mt-5 flex flex-wrap items-start gap-4">
      <label className="grid gap-1">
        <span className="label">{t("course-gradebook.scale-editor.told-as")}</span>
        <select
          className="field w-auto"
          value={kind}
          onChange={({ target }) =>
            onChange(
              target.value === "letters"
                ? { kind: "letters", thresholds: thresholdsIn(text) }
                : target.value === "reached"
                  ? { kind: "reached", from: "50" }
                  : null,
            )
          }
        >
          <option value="none">{t("course-gradebook.scale-editor.per-cent")}</option>
          <option value="letters">{t("course-gradebook.scale-editor.letters")}</option>
          <option value="reached">{t("course-gradebook.scale-editor.reached")}</option>
        </select>
      </label>
      {scale?.kind === "letters" && (
        <label className="grid gap-1">
          <span className="label">{t("course-gradebook.scale-editor.thresholds")}</span>
          <textarea
            className="field min-h-28 w-56"
            value={text}
            maxLength={600}
            onChange={({ target }) => {
              setText(target.value);
              onChange({ kind: "letters", thresholds: thresholdsIn(target.value) });
            }}
          />
        </label>
      )}
      {scale?.kind === "reached" && (
        <label className="grid gap-1">
          <span className="label">{t("course-gradebook.scale-editor.reached-from")}</span>
          <input
            className="field w-24 text-right"
            inputMode="decimal"
            value={`${scale.from}`}
            maxLength={8}
            onChange={({ target }) =>
              onChange({ kind: "reached", from: target.value.trim().replace(",", ".") })
            }
          />
        </label>
      )}
    </div>
  );
}
