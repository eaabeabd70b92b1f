import type { EffectLine, PlanEffect } from "@/core/gradebook/plan-effect";
import { t } from "@/words/t";

/** As many students are named at once; the others on wish. */
const NAMED = 8;

interface EffectProps {
  readonly isChanged: boolean;
  /** Null: it is not known yet. */
  readonly effect: PlanEffect | null;
  readonly problem: string | null;
  readonly reason: string;
  readonly busy: boolean;
  readonly onReason: (reason: string) => void;
  readonly onChange: () => void;
  readonly onBack: () => void;
}

/** What a change of what counts does to everyone's standing, and doing it. */
export function Effect(props: EffectProps) {
  const { isChanged, effect, problem, reason, busy, onReason, onChange, onBack } = props;
  if (!isChanged) return <p className="small">{t("course-gradebook.effect.what-it-does-is-shown-here")}</p>;
  const rise = effect?.lines.filter(({ direction }) => direction > 0).length ?? 0;
  const fall = effect?.lines.filter(({ direction }) => direction < 0).length ?? 0;
  return (
    <section
      className="sheet self-start p-6 lg:sticky lg:top-6"
      aria-label={t("course-gradebook.effect.what-it-does")}
    >
      <h2 className="font-read text-xl font-medium">{t("course-gradebook.effect.what-it-does")}</h2>
      <div role="status">
        {problem !== null ? (
          <p className="mt-3 border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">{problem}</p>
        ) : effect === null ? (
          <p className="mt-3 text-ink-2">{t("course-gradebook.cell-panel.one-moment")}</p>
        ) : (
          <>
            <p className="mt-3 font-bold">
              {effect.lines.length === 0
                ? t("course-gradebook.effect.nobodys-standing-changes")
                : t("course-gradebook.effect.rise-and-fall", { rise, fall })}
            </p>
            {effect.meanFrom !== null && effect.meanTo !== null && effect.meanFrom !== effect.meanTo && (
              <p className="small mt-1">
                {t("course-gradebook.effect.the-mean-goes", { from: effect.meanFrom, to: effect.meanTo })}
              </p>
            )}
          </>
        )}
      </div>
      {effect !== null && problem === null && effect.lines.length > 0 && (
        <>
          <Lines lines={effect.lines.slice(0, NAMED)} />
          {effect.lines.length > NAMED && (
            <details>
              <summary className="small cursor-pointer py-1 underline">
                {t("course-gradebook.bring-marks.and-more", { count: effect.lines.length - NAMED })}
              </summary>
              <Lines lines={effect.lines.slice(NAMED)} />
            </details>
          )}
        </>
      )}
      <label className="mt-4 grid gap-1.5">
        <span className="label">{t("course-gradebook.effect.the-reason")}</span>
        <textarea
          className="field min-h-16"
          value={reason}
          maxLength={500}
          onChange={(event) => onReason(event.target.value)}
        />
      </label>
      <div className="mt-4 flex flex-wrap gap-3">
        <button
          type="button"
          className="button button-main"
          disabled={busy || effect === null || problem !== null || reason.trim() === ""}
          onClick={onChange}
        >
          {t("course-gradebook.effect.change-what-counts")}
        </button>
        <button type="button" className="button button-quiet" disabled={busy} onClick={onBack}>
          {t("course-gradebook.effect.leave-it-as-it-was")}
        </button>
      </div>
      <p className="small mt-2">{t("course-gradebook.effect.everyone-is-told")}</p>
    </section>
  );
}

function Lines({ lines }: { readonly lines: readonly EffectLine[] }) {
  return (
    <ul className="mt-3 divide-y divide-line border-y border-line text-sm">
      {lines.map((line) => (
        <li key={line.name} className="flex justify-between gap-3 py-1.5">
          <span className="min-w-0 truncate">{line.name}</span>
          <span className="whitespace-nowrap">{fromTo(line)}</span>
        </li>
      ))}
    </ul>
  );
}

function fromTo({ from, to, fromHigh, toHigh }: EffectLine): string {
  const range = (low: string | null, high: string | null) =>
    low === null || high === null
      ? "–"
      : low === high
        ? t("course-gradebook.gradebook-table.per-cent", { figure: low })
        : t("course-gradebook.gradebook-table.per-cent-between", { low, high });
  return t("course-gradebook.effect.from-to", { from: range(from, fromHigh), to: range(to, toHigh) });
}
