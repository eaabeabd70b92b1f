import { useCallback, useEffect, useState, useSyncExternalStore } from "react";
import { happening, type Sitting } from "@/core/watch/watch-line";
import { Listening } from "@/ui/Listening";
import { t } from "@/words/t";
import { clockDigits, timeWithSeconds } from "@/words/times";
import { Deeds } from "./Deeds";
import { WatchLine } from "./WatchLine";
import { WatchStore } from "./watch-store";

export interface WatchProps {
  readonly quizId: string;
  readonly sittings: readonly Sitting[];
  readonly expected: readonly { readonly personId: string; readonly name: string }[];
  readonly mayAllow: boolean;
  readonly serverNow: number;
  readonly zone: string;
}

/** A quiz that runs, one line for each student, as it goes. */
export function Watch({ mayAllow, zone, ...terms }: WatchProps) {
  const [store] = useState(() => new WatchStore(terms));
  const state = useSyncExternalStore(store.subscribe, store.state, store.state);
  useEffect(() => store.open(), [store]);
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const { sittings, expected, lostAt } = state;
  // To the second: lines that say the same are not drawn again.
  const now = Math.floor(state.now / 1_000) * 1_000;
  const pick = useCallback(
    (attemptId: string, isPicked: boolean) =>
      setPicked((before) => {
        const next = new Set(before);
        if (isPicked) next.add(attemptId);
        else next.delete(attemptId);
        return next;
      }),
    [],
  );
  const running = sittings.filter(({ handedInAt }) => handedInAt === null);
  const away = running.filter(({ awaySince }) => awaySince !== null).length;
  const lastEnd = Math.max(0, ...running.map(({ deadline }) => deadline ?? 0));
  const chosen = sittings.filter(({ attemptId }) => picked.has(attemptId));
  const counts = [
    { count: running.length - away, words: t("watch.watch.writing") },
    { count: away, words: t("watch.watch.away"), warns: away > 0 },
    { count: sittings.length - running.length, words: t("watch.watch.handed-in") },
    { count: expected.length, words: t("watch.watch.not-begun") },
  ];
  return (
    <Listening>
      <div className="mt-5 flex flex-wrap items-center justify-between gap-x-8 gap-y-4 border-y border-line py-3.5">
        <dl className="flex flex-wrap gap-x-9 gap-y-2">
          {counts.map(({ count, words, warns }) => (
            <div key={words} className="flex items-baseline gap-1.5">
              <dt className="small order-2">{words}</dt>
              <dd className={`font-read text-[1.625rem] leading-none ${warns ? "text-ochre" : ""}`}>
                {count}
              </dd>
            </div>
          ))}
        </dl>
        {lastEnd > 0 && (
          <p className="text-right">
            <b className="text-xl text-ember">{clockDigits(Math.max(0, lastEnd - now))}</b>
            <span className="small ml-2">
              {t("watch.watch.the-last-clock-ends", { at: timeWithSeconds(lastEnd, zone) })}
            </span>
          </p>
        )}
        <Deeds
          quizId={terms.quizId}
          chosen={chosen}
          running={running.length}
          mayAllow={mayAllow}
          onDone={() => setPicked(new Set())}
        />
      </div>
      <p role="status" className="mt-3 min-h-6 text-sm text-ochre">
        {lostAt === null ? "" : t("watch.watch.connection-lost", { at: timeWithSeconds(lostAt, zone) })}
      </p>
      {sittings.length === 0 && expected.length === 0 ? (
        <p className="font-read text-lg">{t("watch.watch.nobody-is-to-take-it")}</p>
      ) : (
        // biome-ignore lint/a11y/noStaticElementInteractions: it only holds still while somebody is there
        <div
          className="relative overflow-x-auto"
          onPointerEnter={() => store.hold(true)}
          onPointerLeave={() => store.hold(false)}
          onFocus={() => store.hold(true)}
          onBlur={() => store.hold(false)}
        >
          <table className="w-full text-left">
            <thead className="small">
              <tr>
                <th scope="col" className="py-2 pr-2 font-normal">
                  <input
                    type="checkbox"
                    className="size-[18px] align-middle accent-indigo"
                    aria-label={t("watch.watch.choose-all-that-run")}
                    checked={running.length > 0 && running.every(({ attemptId }) => picked.has(attemptId))}
                    onChange={(event) =>
                      setPicked(
                        new Set(event.target.checked ? running.map(({ attemptId }) => attemptId) : []),
                      )
                    }
                  />
                </th>
                <th scope="col" className="py-2 pr-4 font-normal">
                  {t("watch.watch.student")}
                </th>
                <th scope="col" className="py-2 pr-4 font-normal">
                  {t("watch.watch.now")}
                </th>
                <th scope="col" className="py-2 pr-4 font-normal max-lg:hidden">
                  {t("watch.watch.answers-over-time")}
                </th>
                <th scope="col" className="py-2 pr-4 text-right font-normal">
                  {t("watch.watch.answered")}
                </th>
                <th scope="col" className="py-2 pr-4 text-right font-normal">
                  {t("watch.watch.left")}
                </th>
                <th scope="col" className="py-2 font-normal">
                  {t("watch.watch.particular")}
                </th>
              </tr>
            </thead>
            <tbody>
              {sittings.map((sitting) => (
                <WatchLine
                  key={sitting.attemptId}
                  sitting={sitting}
                  // What is over stands still.
                  now={happening(sitting, now) === "handed-in" ? 0 : now}
                  zone={zone}
                  picked={picked.has(sitting.attemptId)}
                  onPick={pick}
                />
              ))}
              {expected.map(({ personId, name }) => (
                <tr key={personId} className="border-t border-line">
                  <td />
                  <th scope="row" className="py-1.5 pr-4 text-left font-normal text-ink-2">
                    {name}
                  </th>
                  <td className="py-1.5 text-sm text-ink-2" colSpan={5}>
                    {t("watch.watch.has-not-begun")}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <p className="small mt-5 max-w-[46rem]">{t("watch.watch.nothing-here-is-a-suspicion")}</p>
    </Listening>
  );
}
