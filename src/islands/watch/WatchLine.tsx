import { memo } from "react";
import { happening, type Particular, type Sitting } from "@/core/watch/watch-line";
import { t } from "@/words/t";
import { clockDigits, timeOfDay } from "@/words/times";
import { Trace } from "./Trace";

interface WatchLineProps {
  readonly sitting: Sitting;
  /** By the server's clock, to the second. */
  readonly now: number;
  readonly zone: string;
  readonly picked: boolean;
  readonly onPick: (attemptId: string, picked: boolean) => void;
}

function particularWords(each: Particular, zone: string): string {
  switch (each.kind) {
    case "more-time":
      return [
        each.factor > 1 ? t("watch.watch-line.times-the-time", { factor: each.factor }) : "",
        each.minutes > 0 ? t("watch.watch-line.minutes-more", { minutes: each.minutes }) : "",
      ]
        .filter(Boolean)
        .join(t("joint.commas"));
    case "time-added":
      return t("watch.watch-line.minutes-added", { minutes: each.minutes });
    case "joined-late":
      return t("watch.watch-line.began-late", { minutes: each.minutes });
    case "came-late":
      return t("watch.watch-line.had-no-connection", { until: timeOfDay(each.at, zone) });
    case "taken-back":
      return t("watch.watch-line.goes-on-after-handing-in");
  }
}

function nowWords(sitting: Sitting, now: number, zone: string): string {
  const at = (moment: number | null) => timeOfDay(moment ?? now, zone);
  const { here, questions, answered } = sitting;
  switch (happening(sitting, now)) {
    case "handed-in":
      return sitting.handedInBy === "clock"
        ? t("watch.watch-line.handed-in-by-the-clock", { at: at(sitting.handedInAt) })
        : sitting.handedInBy === "instructor"
          ? t("watch.watch-line.ended-by-an-instructor", { at: at(sitting.handedInAt) })
          : t("watch.watch-line.handed-in", { at: at(sitting.handedInAt) });
    case "away":
      return t("watch.watch-line.away-since", { at: at(sitting.awaySince) });
    case "still":
      return t("watch.watch-line.nothing-new-since", { at: at(sitting.savedAt ?? sitting.startedAt), here });
    case "near-end":
      return t("watch.watch-line.nearly-over", { here, empty: questions - answered });
    case "writing":
      return t("watch.watch-line.at-question", { here });
  }
}

/** One student's line: what happens now, the trace, what is answered, the time left, what is particular. */
export const WatchLine = memo(function WatchLine({ sitting, now, zone, picked, onPick }: WatchLineProps) {
  const { attemptId, name, number, answered, questions, startedAt, deadline, handedInAt, trace } = sitting;
  const state = happening(sitting, now);
  const end = deadline ?? startedAt + 10_800_000;
  const gone = ((handedInAt ?? now) - startedAt) / Math.max(1, end - startedAt);
  return (
    <tr
      className="border-t border-line align-middle aria-selected:bg-sheet"
      aria-selected={picked}
      data-attempt={attemptId}
      data-saved={sitting.savedAt ?? 0}
    >
      <td className="py-1 pr-2">
        <input
          type="checkbox"
          className="size-[18px] align-middle accent-indigo"
          checked={picked}
          aria-label={t("watch.watch-line.choose", { name })}
          onChange={(event) => onPick(attemptId, event.target.checked)}
        />
      </td>
      <th scope="row" className="py-1.5 pr-4 text-left font-bold">
        {name}
        {number > 1 && (
          <span className="small font-normal"> · {t("watch.watch-line.attempt", { number })}</span>
        )}
      </th>
      <td
        className={`py-1.5 pr-4 text-sm ${state === "away" || state === "still" ? "font-bold text-ochre" : state === "handed-in" ? "text-moss" : "text-ink-2"}`}
      >
        {nowWords(sitting, now, zone)}
      </td>
      <td className="w-[16rem] py-1 pr-4 max-lg:hidden">
        <Trace trace={trace} questions={questions} gone={gone} away={state === "away"} />
      </td>
      <td className="py-1.5 pr-4 text-right whitespace-nowrap">
        <b>{answered}</b>
        <span className="small"> / {questions}</span>
      </td>
      <td className="py-1.5 pr-4 text-right whitespace-nowrap font-bold text-ember">
        {state === "handed-in" || deadline === null ? "" : clockDigits(Math.max(0, deadline - now))}
      </td>
      <td className="small py-1.5">
        {sitting.particular.map((each) => particularWords(each, zone)).join(t("joint.dots"))}
      </td>
    </tr>
  );
});
