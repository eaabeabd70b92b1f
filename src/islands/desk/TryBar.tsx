import type { TriedPart } from "@/core/attempt/standing";
import { exact, shown, sum } from "@/core/numbers/exact";
import type { TryRules } from "@/core/quiz/rules";
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
  const [soFar, maximum] = (["earned", "maximum"] as const).map((of) =>
    shown(sum(tries.map((part) => exact(part[of])))),
  );
  return (
    <section aria-label={`Checking question ${slot}`} className="mt-4">
      <div className="flex flex-wrap items-center gap-3">
        {!over && (
          <button type="button" className="button" disabled={empty || busy} onClick={onCheck}>
            {busy ? "Checking" : many ? "Check all that is written" : "Check my answer"}
          </button>
        )}
        <p className="small">
          {over
            ? "This question is closed: what was right is kept as right, and no tries are left."
            : `Each wrong try costs ${rules.cost} of ${many ? "that part’s" : "the"} marks. Checking saves.`}{" "}
          So far {soFar} of {maximum} {maximum === "1" ? "mark" : "marks"}.
        </p>
      </div>
      {verdicts && (
        <ul className="mt-2 grid min-h-6 gap-1" aria-live="polite">
          {tries.map((part) => (
            <li key={part.label ?? "whole"} className="text-sm">
              {part.label && <b className="mr-1.5">{part.label}</b>}
              <PartVerdict tried={part} />
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
