import { Check, CloudOff, LoaderCircle, TriangleAlert } from "lucide-react";
import { MINUTE } from "@/core/time/instants";
import { clockDigits, endTime, spokenLength } from "@/core/time/words";
import type { DeskState } from "./desk-state";
import type { DeskStore } from "./desk-store";
import { type SaveWords, saveWords } from "./save-words";
import { type Countdown, isLastMinute } from "./use-countdown";
import type { ClockForm } from "./use-view-settings";

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
  readonly clock: ClockForm;
  readonly onClock: (clock: ClockForm) => void;
  readonly onSignIn: () => void;
  readonly onLeave: () => void;
}

/** The head of the desk: what it is, whether all is saved, and the time. */
export function Head({ store, state, countdown, clock, onClock, onSignIn, onLeave }: HeadProps) {
  const { view } = store;
  const saving = saveWords(state, view.zone);
  const Sign = SIGNS[saving.mood];
  const attemptWords =
    view.allowed === null ? `attempt ${view.number}` : `attempt ${view.number} of ${view.allowed}`;
  return (
    <header className="flex flex-wrap items-center gap-x-6 gap-y-1.5 border-b border-line bg-paper px-4 py-2 max-lg:sticky max-lg:top-0 max-lg:z-20 max-sm:gap-x-3 sm:px-8">
      <div className="min-w-0 flex-1 basis-48">
        <h1 className="truncate font-bold">{view.title}</h1>
        <p className="small truncate">
          {view.course} · {attemptWords} · {view.student}
        </p>
      </div>
      <div className="flex items-center gap-3">
        <p
          role="status"
          aria-live="polite"
          className={`flex items-center gap-1.5 text-[0.8125rem] font-bold ${MOODS[saving.mood]}`}
        >
          <Sign aria-hidden="true" className="size-4 shrink-0" />
          {saving.words}
        </p>
        {saving.mood === "refused" && state.sending.kind === "signed-out" && (
          <button type="button" className="button" onClick={onSignIn}>
            Sign in again
          </button>
        )}
        {(saving.mood === "waiting" || saving.mood === "working") && (
          <button type="button" className="button" onClick={() => void store.saveNow()}>
            Save now
          </button>
        )}
      </div>
      <Clock state={state} store={store} countdown={countdown} clock={clock} onClock={onClock} />
      <button type="button" className="button button-quiet" onClick={onLeave}>
        <span>
          Leave<span className="max-sm:sr-only"> for now</span>
        </span>
      </button>
    </header>
  );
}

/** In minutes only, the seconds come back for the last two. */
const digitsOf = (left: number, clock: ClockForm): string =>
  clock === "minutes" && left > 2 * MINUTE && left < 100 * MINUTE
    ? `${Math.ceil(left / MINUTE)} min`
    : clockDigits(left);

function Clock({ state, store, countdown, clock, onClock }: Omit<HeadProps, "onLeave" | "onSignIn">) {
  const { left } = countdown;
  const { limitMinutes, zone } = store.view;
  if (left === null || state.deadline === null) {
    return <p className="small border-line sm:border-l sm:pl-5">No time limit</p>;
  }
  const last = left <= MINUTE;
  return (
    <div className="flex flex-1 items-center gap-4 border-line max-sm:gap-3 sm:flex-none sm:border-l sm:pl-5">
      <div
        role="timer"
        aria-label="Time left"
        className={`min-w-[5.25rem] text-[1.625rem] sm:text-right leading-none font-bold ${last ? "text-ember" : ""}`}
      >
        {clock === "hidden" ? (
          <span className="text-base font-normal text-ink-2">hidden</span>
        ) : (
          digitsOf(left, clock)
        )}
      </div>
      <p className="small leading-snug">
        {limitMinutes !== null && <span className="block">of {clockDigits(limitMinutes * MINUTE)}</span>}
        ends {endTime(state.deadline, state.deadline - left, zone)}
      </p>
      <button
        type="button"
        className="button"
        onClick={() => onClock(clock === "hidden" ? "digits" : "hidden")}
        aria-pressed={clock === "hidden"}
      >
        <span>
          {clock === "hidden" ? "Show" : "Hide"}
          <span className="max-sm:sr-only"> digits</span>
        </span>
      </button>
      <p className="sr-only" aria-live={isLastMinute(left) ? "assertive" : "polite"}>
        {countdown.notice === null ? "" : `${spokenLength(countdown.notice)} left.`}
      </p>
    </div>
  );
}
