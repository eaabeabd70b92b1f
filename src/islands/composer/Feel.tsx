import { useMemo } from "react";
import { paperFeel } from "@/core/draft/paper-feel";
import type { PastSittings } from "@/core/draft/past-sittings";
import { lengthInWords } from "@/core/time/said-times";
import { say, t } from "@/words/t";
import type { Counted } from "./Aside";
import { kindName } from "./kind-names";

interface FeelProps {
  readonly counted: Counted | null;
  readonly past: PastSittings | null;
}

/** How the paper will feel to who takes it: how long, how dense, of what. */
export function Feel({ counted, past }: FeelProps) {
  const feel = useMemo(() => {
    if (!counted) return null;
    const times = new Map(
      (past?.questions ?? []).flatMap(({ id, time }) => (time === null ? [] : [[id, time]])),
    );
    return paperFeel(counted.content, counted.settings.timeLimit, times);
  }, [counted, past]);
  if (!feel || feel.questions === 0) return null;
  const minutes = (length: number) => say(lengthInWords(Math.max(1, Math.round(length / 60_000)) * 60_000));
  return (
    <section aria-labelledby="feel">
      <h2 id="feel" className="label">
        {t("composer.feel.how-it-will-feel")}
      </h2>
      <dl className="mt-1 border-t border-line text-[0.9375rem]">
        <div className="border-b border-line py-1.5">
          <dt className="small">{t("composer.feel.expected")}</dt>
          <dd>
            {feel.given === null
              ? t("composer.feel.expected-time", { time: minutes(feel.expected) })
              : t("composer.feel.expected-of-given", {
                  time: minutes(feel.expected),
                  given: minutes(feel.given),
                })}{" "}
            <span className="small block">
              {feel.fromPast === 0
                ? t("composer.feel.by-kind")
                : t("composer.feel.by-past", { count: feel.fromPast, questions: feel.questions })}
            </span>
            {feel.warning && <span className="mt-1 block text-ochre">{say(feel.warning)}</span>}
          </dd>
        </div>
        <div className="border-b border-line py-1.5">
          <dt className="small">{t("composer.feel.reading")}</dt>
          <dd>{t("composer.feel.words-to-read", { words: feel.words, time: minutes(feel.reading) })}</dd>
        </div>
        {feel.marksPerMinute !== null && (
          <div className="border-b border-line py-1.5">
            <dt className="small">{t("composer.feel.pace")}</dt>
            <dd>
              {t("composer.feel.marks-a-minute", { marks: Number(feel.marksPerMinute.toPrecision(2)) })}
            </dd>
          </div>
        )}
        <div className="border-b border-line py-1.5">
          <dt className="small">{t("composer.feel.made-of")}</dt>
          <dd>
            {feel.kinds
              .map(({ kind, share }) =>
                t("composer.feel.kind-share", { kind: kindName(kind), share: Math.round(share * 100) }),
              )
              .join(t("joint.commas"))}
          </dd>
        </div>
      </dl>
    </section>
  );
}
