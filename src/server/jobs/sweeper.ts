import { SECOND } from "@/core/time/instants";
import { sweep } from "../attempts/settle";
import { log } from "../log";

const PAUSE = SECOND;
const BATCH = 50;

/** Starts handing in attempts whose time is up, once a second; answers how to stop. Any number of processes may run it. */
export function startSweeper(): () => Promise<void> {
  let stopped = false;
  let wake: () => void = () => {};
  const run = async () => {
    while (!stopped) {
      let count = 0;
      try {
        count = await sweep(BATCH);
        if (count > 0) log.info({ count }, "handed in by the clock");
      } catch (error) {
        log.error({ err: error }, "the sweeper could not work; it tries again");
      }
      if (count === BATCH || stopped) continue;
      await new Promise<void>((resolve) => {
        wake = resolve;
        setTimeout(resolve, PAUSE);
      });
    }
  };
  const running = run();
  return async () => {
    stopped = true;
    wake();
    await running;
  };
}
