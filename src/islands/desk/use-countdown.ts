import { useEffect, useState } from "react";
import { currentWarning } from "@/core/attempt/time-warnings";
import { MINUTE } from "@/core/time/instants";
import type { DeskStore } from "./desk-store";

export interface Countdown {
  /** Milliseconds left; null without a deadline. */
  readonly left: number | null;
  /** The notice that is current: the time left that it tells of; null before the first. */
  readonly warning: number | null;
}

/** Beats once a second, on the second, with the true time left; says when it is up. */
export function useCountdown(store: DeskStore, deadline: number | null, startedAt: number): Countdown {
  const { warnings, clock } = store.view;
  // Until the clock has started, the whole time is left.
  const [left, setLeft] = useState(
    deadline === null ? null : deadline - Math.max(clock.serverNow, startedAt),
  );

  useEffect(() => {
    if (deadline === null) {
      setLeft(null);
      return;
    }
    let timer: ReturnType<typeof setTimeout>;
    const beat = () => {
      if (store.clock.needsMeasuring()) void store.link.measure();
      const rest = deadline - Math.max(store.clock.now(), startedAt);
      setLeft(rest);
      if (rest <= 0) void store.handingIn.timeIsUp();
      // To the next whole second of the rest, so that the digits change when the second does.
      else timer = setTimeout(beat, (rest % 1_000 || 1_000) + 5);
    };
    beat();
    const seen = () => {
      if (document.visibilityState !== "visible") return;
      clearTimeout(timer);
      beat();
    };
    document.addEventListener("visibilitychange", seen);
    return () => {
      clearTimeout(timer);
      document.removeEventListener("visibilitychange", seen);
    };
  }, [store, deadline, startedAt]);

  return { left, warning: left === null ? null : currentWarning(warnings, left) };
}

/** Whether the time left is so short that warnings are spoken at once. */
export const isLastMinute = (left: number) => left <= MINUTE;
