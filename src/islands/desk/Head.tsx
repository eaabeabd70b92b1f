import { Check, CloudOff, LoaderCircle, TriangleAlert } from "lucide-react";
import { MINUTE } from "@/core/time/instants";
import { t } from "@/words/t";
import { clockDigits, dayAndTime, endTime, lengthInWords, spokenLength } from "@/words/times";
import { type SaveWords, saveWords } from "../keeping/save-words";
import type { DeskState } from "./desk-state";
import type { DeskStore } from "./desk-store";
import { MessageLine } from "./MessageLine";
import { type Countdown, isLastMinute } from "./use-countdown";
import type { ClockForm, ViewSettings } from "./use-view-settings";

const SIGNS = { safe: Check, working: LoaderCircle, waiting: CloudOff, refused: TriangleAlert } as const;
const MOODS: { readonly [M in SaveWords["mood"]]: string } = {
  safe: "text-moss",
  working: "text-ink-2",
  waiting: "text-ochre",
  refused: "text-plum",
};

interface HeadProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  readonly countdown: Countdown;
  readonly ready: boolean;
  readonly settings: ViewSettings;
  readonly onClock: (clock: ClockForm) => void;
  readonly onSignIn: () => void;
  readonly onLeave: () => void;
}

/** The head of the desk: what it is, whether all is saved, the time, and the line in which everything is said. */
export function Head({ store, state, countdown, ready, settings, onClock, onSignIn, onLeave }: HeadProps) {
  const { view } = store;
  const saving = saveWords(state, view.zone);
  const Sign = SIGNS[saving.mood];
  const attemptWords =
    view.allowed === null
      ? t("desk.head.attempt", { number: view.number })
      : t("desk.head.attempt-of", { number: view.number, allowed: view.allowed });
  return (
    <header className="border-b border-line bg-paper px-4 max-lg:sticky max-lg:top-0 max-lg:z-20 sm:px-8">
      <div className="grid items-center gap-x-5 gap-y-1 py-2 max-md:grid-cols-[minmax(0,1fr)_auto] md:flex md:flex-wrap">
        <div className="min-w-0 md:flex-1 md:basis-52">
          <h1 className="truncate font-bold">{view.title}</h1>
          <p className="small truncate">
            {view.course} · {attemptWords} · {view.student}
          </p>
        </div>
        {/* Of one width whatever it says: nothing beside it moves. */}
        <div className="flex items-center gap-2 max-md:row-start-2 md:w-[17.5rem] md:max-w-full">
          <p
            role="status"
            aria-live="polite"
            title={saving.words}
            className={`flex min-w-0 flex-1 items-center gap-1.5 text-[0.8125rem] leading-tight font-bold ${MOODS[saving.mood]}`}
          >
            <Sign aria-hidden="true" className="size-4 shrink-0" />
            <span className="line-clamp-2">{saving.words}</span>
          </p>
          <button
            type="button"
            className="button min-h-8! shrink-0 px-2.5! py-0.5!"
            onClick={() => void store.saving.asked()}
          >
            {t("desk.head.save")}
            <span className="sr-only"> {t("desk.head.now")}</span>
          </button>
        </div>
        <Clock state={state} store={store} countdown={countdown} clock={settings.clock} onClock={onClock} />
        <button
          type="button"
          className="button button-quiet max-md:col-start-2 max-md:row-start-1"
          onClick={onLeave}
          aria-label={t("desk.head.leave-for-now")}
        >
          <span className="sm:hidden">{t("desk.head.leave")}</span>
          <span className="max-sm:hidden">{t("desk.head.leave-for-now")}</span>
        </button>
      </div>
      <MessageLine
        store={store}
        state={state}
        countdown={countdown}
        ready={ready}
        showsUsed={settings.timeUsed}
        onSignIn={onSignIn}
      />
    </header>
  );
}

/** In minutes only, the seconds come back for the last two. */
const digitsOf = (left: number, clock: ClockForm): string =>
  clock === "minutes" && left > 2 * MINUTE && left < 100 * MINUTE
    ? lengthInWords(Math.ceil(left / MINUTE) * MINUTE)
    : clockDigits(left);

interface ClockProps extends Pick<HeadProps, "state" | "store" | "countdown" | "onClock"> {
  readonly clock: ClockForm;
}

function Clock({ state, store, countdown, clock, onClock }: ClockProps) {
  const { left } = countdown;
  const { limitMinutes, zone } = store.view;
  const whole = clock === "hidden" ? t("desk.head.show-digits") : t("desk.head.hide-digits");
  const spoken = (
    <p className="sr-only" aria-live={left !== null && isLastMinute(left) ? "assertive" : "polite"}>
      {countdown.warning === null
        ? ""
        : t("desk.head.time-is-left", { time: spokenLength(countdown.warning) })}
    </p>
  );
  if (left === null || state.deadline === null || limitMinutes === null) {
    return (
      <div className="small leading-snug border-line md:border-l md:pl-5">
        <p>{t("desk.head.no-time-limit")}</p>
        {state.deadline !== null && (
          <p>{t("desk.head.closes", { deadline: dayAndTime(state.deadline, zone) })}</p>
        )}
        {spoken}
      </div>
    );
  }
  const last = left <= MINUTE;
  return (
    <div className="flex items-center gap-3 border-line md:border-l md:pl-5">
      <div
        role="timer"
        aria-label={t("desk.head.time-left")}
        className={`min-w-[4.5rem] text-right text-[1.625rem] leading-none font-bold ${last ? "text-ember" : ""}`}
      >
        {clock === "hidden" ? (
          <span className="text-base font-normal text-ink-2">{t("desk.head.hidden")}</span>
        ) : (
          digitsOf(left, clock)
        )}
      </div>
      <p className="small leading-snug whitespace-nowrap max-md:sr-only">
        <span className="block">
          {t("desk.head.left-of", { clockDigits: clockDigits(limitMinutes * MINUTE) })}
        </span>
        {state.isClockSure
          ? t("desk.head.ends", { when: endTime(state.deadline, state.deadline - left, zone) })
          : t("desk.head.starts-now")}
      </p>
      <button
        type="button"
        className="button min-h-8! px-2.5! py-0.5!"
        onClick={() => onClock(clock === "hidden" ? "digits" : "hidden")}
        aria-label={whole}
      >
        <span className="lg:hidden">{clock === "hidden" ? t("desk.head.show") : t("desk.head.hide")}</span>
        <span className="max-lg:hidden">{whole}</span>
      </button>
      {spoken}
    </div>
  );
}
