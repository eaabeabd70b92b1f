import { useId } from "react";
import { t } from "@/words/t";

/** What a moment of a window is: an instant's text in the field, without one, or as everyone. */
export type MomentDraft =
  | { readonly kind: "as-everyone" }
  | { readonly kind: "none" }
  | { readonly kind: "own"; readonly text: string };

interface MomentFieldProps {
  readonly label: string;
  readonly value: MomentDraft;
  /** What everyone has, in words; absent: there is no "as everyone" here. */
  readonly everyones?: string;
  /** Whether there may be none. */
  readonly mayBeNone: boolean;
  readonly onChange: (value: MomentDraft) => void;
}

/** When a window opens, is due, or closes. */
export function MomentField({ label, value, everyones, mayBeNone, onChange }: MomentFieldProps) {
  const id = useId();
  const text = value.kind === "own" ? value.text : "";
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
      <label className="label w-16" htmlFor={id}>
        {label}
      </label>
      <div className="flex flex-wrap items-center gap-2">
        <select
          id={id}
          className="field w-auto max-w-full"
          value={value.kind}
          onChange={({ target }) =>
            onChange(
              target.value === "own"
                ? { kind: "own", text }
                : { kind: target.value === "none" ? "none" : "as-everyone" },
            )
          }
        >
          {everyones !== undefined && (
            <option value="as-everyone">{t("allowances.moment-field.as-everyone", { everyones })}</option>
          )}
          {mayBeNone && <option value="none">{t("allowances.moment-field.none")}</option>}
          <option value="own">{t("allowances.moment-field.at")}</option>
        </select>
        {value.kind === "own" && (
          <input
            type="datetime-local"
            className="field w-auto"
            aria-label={t("allowances.moment-field.date-and-time", { label })}
            value={text}
            max="9999-12-31T23:59"
            onChange={({ target }) => onChange({ kind: "own", text: target.value })}
          />
        )}
      </div>
    </div>
  );
}
