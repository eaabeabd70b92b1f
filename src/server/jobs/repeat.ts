import { log } from "../base/log";

/**
 * Does a piece of work again and again, with a pause whenever it finds nothing more to do; returns how to stop. Any number
 * of processes may run the same work.
 */
export function repeat(
  name: string,
  pause: number,
  /** Returns whether there may be more to do at once. */
  work: () => Promise<boolean>,
): () => Promise<void> {
  let stopped = false;
  let wake: () => void = () => {};
  const run = async () => {
    while (!stopped) {
      let more = false;
      try {
        more = await work();
      } catch (error) {
        log.error({ err: error }, `${name} could not work; it tries again`);
      }
      if (more || stopped) continue;
      await new Promise<void>((resolve) => {
        wake = resolve;
        setTimeout(resolve, pause);
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
