import { useId, useMemo, useState } from "react";
import type { MovedEnd, TimesEffect } from "@/core/allowances/times-view";
import { ask, refusalOr } from "@/ui/requests";
import { useLookedOver } from "@/ui/use-looked-over";
import { t } from "@/words/t";
import { dayAndTime } from "@/words/times";

/** As many whose end moves are named at once; the others on wish. */
const NAMED = 8;

interface EffectPanelProps {
  /** Where it is asked for; what it would do is asked for at the same place with "-effect". */
  readonly path: string;
  /** What is to be done; null: nothing is changed, or it cannot be sent yet. */
  readonly body: object | null;
  /** What is wrong with it, as far as it is seen here. */
  readonly mistake?: string | null;
  readonly deed: string;
  readonly zone: string;
  readonly onBack: () => void;
}

/** What a change of times does to those who write and what students read, known before it is done; and doing it. */
export function EffectPanel({ path, body, mistake = null, deed, zone, onBack }: EffectPanelProps) {
  const id = useId();
  const [reason, setReason] = useState("");
  const [missing, setMissing] = useState(false);
  const [busy, setBusy] = useState(false);
  const [again, setAgain] = useState(0);
  const sent = useMemo(() => (body === null ? null : JSON.stringify(body)), [body]);
  const looked = useLookedOver<TimesEffect>(
    `${path}-effect`,
    sent,
    t("allowances.effect-panel.cannot-be-reached"),
    again,
  );
  const { effect } = looked;
  // Why it was not done stands until something else is wished.
  const [refused, setRefused] = useState<{ readonly sent: string; readonly words: string } | null>(null);
  const problem = looked.problem ?? (refused?.sent === sent ? refused.words : null);
  const go = async () => {
    if (sent === null || effect === null) return;
    if (reason.trim() === "") {
      setMissing(true);
      document.getElementById(`${id}-reason`)?.focus();
      return;
    }
    setBusy(true);
    setRefused(null);
    try {
      await ask(path, { body: { ...JSON.parse(sent), reason, expects: effect.expects } });
      location.reload();
    } catch (error) {
      setBusy(false);
      setRefused({ sent, words: refusalOr(error, t("allowances.effect-panel.cannot-be-reached")) });
    }
  };
  return (
    <section className="sheet self-start p-5" aria-label={t("allowances.effect-panel.what-it-does")}>
      <h3 className="font-read text-lg font-medium">{t("allowances.effect-panel.what-it-does")}</h3>
      <div role="status" className="mt-2 grid gap-2">
        {mistake !== null ? (
          <p className="border-l-[3px] border-ochre bg-ochre-2 px-3 py-2">{mistake}</p>
        ) : problem !== null ? (
          <p className="border-l-[3px] border-plum bg-plum-2 px-3 py-2 text-plum">{problem}</p>
        ) : sent === null ? (
          <p className="text-ink-2">{t("allowances.effect-panel.shown-here")}</p>
        ) : effect === null ? (
          <p className="text-ink-2">{t("allowances.effect-panel.one-moment")}</p>
        ) : (
          <Found effect={effect} zone={zone} />
        )}
      </div>
      {problem !== null && (
        <button
          type="button"
          className="button mt-2"
          onClick={() => {
            setRefused(null);
            setAgain(again + 1);
          }}
        >
          {t("allowances.effect-panel.look-again")}
        </button>
      )}
      <label className="mt-4 grid gap-1.5">
        <span className="label">{t("allowances.effect-panel.why")}</span>
        <textarea
          id={`${id}-reason`}
          className="field min-h-16"
          value={reason}
          maxLength={500}
          aria-describedby={missing ? `${id}-missing` : undefined}
          onChange={(event) => {
            setReason(event.target.value);
            setMissing(false);
          }}
        />
      </label>
      {missing && (
        <p id={`${id}-missing`} role="alert" className="mt-1 text-sm text-plum">
          {t("allowances.effect-panel.say-why-first")}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-3">
        <button
          type="button"
          className="button button-main"
          disabled={busy || effect === null || mistake !== null}
          onClick={() => void go()}
        >
          {busy ? t("allowances.effect-panel.one-moment") : deed}
        </button>
        <button type="button" className="button button-quiet" disabled={busy} onClick={onBack}>
          {t("allowances.effect-panel.leave-it")}
        </button>
      </div>
    </section>
  );
}

function Found({ effect, zone }: { readonly effect: TimesEffect; readonly zone: string }) {
  const { moved, told, reads, warnings } = effect;
  return (
    <>
      {warnings.map((warning) => (
        <p key={warning} className="border-l-[3px] border-ochre bg-ochre-2 px-3 py-2">
          {warning}
        </p>
      ))}
      {reads !== null && (
        <div className="border-l-[3px] border-line-2 pl-3">
          <p className="small">
            {t("allowances.effect-panel.will-read", { name: reads.name, title: reads.title })}
          </p>
          <p className="font-read">{reads.line}</p>
        </div>
      )}
      <p>{t("allowances.effect-panel.told", { count: told })}</p>
      {moved.length === 0 ? (
        <p className="text-ink-2">{t("allowances.effect-panel.nobody-who-writes")}</p>
      ) : (
        <>
          <p className="font-bold">{t("allowances.effect-panel.ends-move", { count: moved.length })}</p>
          <Moved moved={moved.slice(0, NAMED)} zone={zone} />
          {moved.length > NAMED && (
            <details>
              <summary className="small cursor-pointer py-1 underline">
                {t("allowances.effect-panel.and-more", { count: moved.length - NAMED })}
              </summary>
              <Moved moved={moved.slice(NAMED)} zone={zone} />
            </details>
          )}
        </>
      )}
    </>
  );
}

function Moved({ moved, zone }: { readonly moved: readonly MovedEnd[]; readonly zone: string }) {
  const when = (at: number | null) =>
    at === null ? t("allowances.effect-panel.no-end") : dayAndTime(at, zone);
  return (
    <ul className="divide-y divide-line border-y border-line text-sm">
      {moved.map(({ name, title, from, to }) => (
        <li key={`${name} ${title}`} className="flex flex-wrap justify-between gap-x-3 py-1.5">
          <span className="min-w-0">{name}</span>
          <span>{t("allowances.effect-panel.from-to", { from: when(from), to: when(to) })}</span>
        </li>
      ))}
    </ul>
  );
}
