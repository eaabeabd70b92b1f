import type { TriedPart } from "@/core/attempt/standing";
import type { TryRules } from "@/core/quiz/rules";

interface TryBarProps {
  readonly slot: number;
  readonly rules: TryRules;
  readonly tries: readonly TriedPart[];
  readonly empty: boolean;
  readonly busy: boolean;
  readonly onCheck: () => void;
}

/** Checking an answer during the attempt: what a wrong try costs and what can still be earned, before and after each. */
export function TryBar({ slot, rules, tries, empty, busy, onCheck }: TryBarProps) {
  const many = tries.length > 1;
  const over = tries.every((part) => part.closed);
  const worthWords = (worth: string) =>
    worth === "1" ? "all of its marks" : worth === "0" ? "none of its marks" : `${worth} of its marks`;
  return (
    <section aria-label={`Checking question ${slot}`} className="mt-5">
      <div className="flex flex-wrap items-center gap-3">
        <button type="button" className="button" disabled={empty || busy || over} onClick={onCheck}>
          {busy ? "Checking" : "Check my answer"}
        </button>
        <p className="small">
          {over
            ? "This question is closed: what was right is kept as right, and no tries are left."
            : `Each wrong try costs ${rules.cost} of ${many ? "that part’s" : "the"} marks. Checking saves.`}
        </p>
      </div>
      <ul className="mt-2.5 grid gap-1" aria-live="polite">
        {tries.map((part) => (
          <li key={part.label ?? "whole"} className="text-sm">
            {part.label && <b className="mr-1.5">{part.label}</b>}
            <span className={part.right ? "text-moss" : part.wrong > 0 ? "text-plum" : "text-ink-2"}>
              {part.words}
            </span>
            {part.incomplete && (
              <span className="text-ochre"> · not checked, and no try used: {part.incomplete}</span>
            )}
            {!part.closed && part.wrong > 0 && (
              <span className="text-ink-2"> · {worthWords(part.worth)} can still be earned</span>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
