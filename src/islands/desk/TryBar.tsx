import type { TriedPart } from "@/core/attempt/attempt-progress";
import { exact, shown, sum } from "@/core/numbers/exact";
import type { TryRules } from "@/core/quiz/rules";
import { say, t } from "@/words/t";
import { PartVerdict } from "../kinds/PartVerdict";

interface TryBarProps {
  readonly slot: number;
  readonly rules: TryRules;
  readonly tries: readonly TriedPart[];
  readonly empty: boolean;
  readonly busy: boolean;
  /** Whether the verdicts stand here; else each stands beside its own box. */
  readonly verdicts: boolean;
  readonly onCheck: () => void;
}

/** Checking an answer during the attempt: what a wrong try costs, what was earned so far, and the verdict on each part. */
export function TryBar({ slot, rules, tries, empty, busy, verdicts, onCheck }: TryBarProps) {
  const many = tries.length > 1;
  const over = tries.every((part) => part.closed);
  const [soFar = "0", maximum = "0"] = (["earned", "maximum"] as const).map((of) =>
    shown(sum(tries.map((part) => exact(part[of])))),
  );
  return (
    <section aria-label={t("desk.try-bar.checking-question", { slot })} className="mt-4">
      <div className="flex flex-wrap items-center gap-3">
        {!over && (
          <button type="button" className="button" disabled={empty || busy} onClick={onCheck}>
            {busy
              ? t("desk.try-bar.checking")
              : many
                ? t("desk.try-bar.check-all-that-is-written")
                : t("desk.try-bar.check-my-answer")}
          </button>
        )}
        <p className="small">
          {t("desk.try-bar.so-far-of", {
            part: over
              ? t("desk.try-bar.this-question-is-closed-what-was")
              : t("desk.try-bar.each-wrong-try-costs-of-marks", {
                  cost: rules.cost,
                  whose: many ? t("desk.try-bar.that-parts") : t("desk.try-bar.its"),
                }),
            soFar,
            maximum,
          })}
        </p>
      </div>
      {verdicts && (
        <ul className="mt-2 grid min-h-6 gap-1" aria-live="polite">
          {tries.map((part) => (
            <li key={JSON.stringify(part.label)} className="text-sm">
              {part.label && <b className="mr-1.5">{say(part.label)}</b>}
              <PartVerdict tried={part} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
