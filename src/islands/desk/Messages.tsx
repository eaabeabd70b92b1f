import { endTime, spokenLength, timeOfDay } from "@/core/time/words";
import type { DeskState } from "./desk-state";
import type { DeskStore } from "./desk-store";

interface MessagesProps {
  readonly store: DeskStore;
  readonly state: DeskState;
  readonly notice: number | null;
  readonly left: number | null;
}

/** A notice of time is shown for a while, in milliseconds. */
const SHOWN_FOR = 12_000;
const bar =
  "flex flex-wrap items-center justify-center gap-x-4 gap-y-1 border-b border-line px-4 py-1.5 sm:px-8";

/** What has to be said over the question: time that runs low, a later end, the instructor's words. Never in the way. */
export function Messages({ store, state, notice, left }: MessagesProps) {
  const isTimeShown = notice !== null && left !== null && left > 0 && left >= notice - SHOWN_FOR;
  return (
    <div aria-live="polite">
      {state.notices.map((each) => (
        <div key={each.id} className={`${bar} bg-ochre-2 text-ochre`}>
          <p>
            <b>{each.from}</b>, {timeOfDay(each.at, store.view.zone)}: {each.text}
          </p>
          <button type="button" className="button" onClick={() => store.dismissNotice(each.id)}>
            I have read it
          </button>
        </div>
      ))}
      {state.extended && state.deadline !== null && (
        <p className={`${bar} bg-moss-2 text-moss`}>
          Your instructor gave more time: it ends{" "}
          {endTime(state.deadline, state.deadline - (left ?? 0), store.view.zone)} now.
        </p>
      )}
      {/* Spoken by the clock itself, which says it more urgently in the last minute. */}
      {isTimeShown && (
        <p aria-hidden="true" className={`${bar} bg-ochre-2 text-ochre`}>
          {spokenLength(notice)} left.
        </p>
      )}
    </div>
  );
}
