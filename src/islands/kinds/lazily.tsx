import { type ComponentType, useEffect, useSyncExternalStore } from "react";
import type { Said } from "@/core/said";
import { say } from "@/words/t";

/** Between two tries to load a part, in ms. */
const PAUSE = 3_000;

/** A view that is loaded apart from the desk. */
export type LazyView<P> = ComponentType<P> & {
  /** Loads it before it is needed, so that a network lost later does not keep it away. */
  readonly ahead: () => void;
};

/**
 * A view that is loaded only where it is needed, and only once the page is alive; what could not be loaded is tried again by
 * itself. It is not made on the server: a part that comes alive later than the desk around it would stand there twice for a
 * moment when the journal brings a newer answer.
 */
export function lazily<P extends object>(
  load: () => Promise<ComponentType<P>>,
  waitingWords: Said,
): LazyView<P> {
  let view: ComponentType<P> | null = null;
  let asked = false;
  const listeners = new Set<() => void>();
  const untilLoaded = async () => {
    while (!view) {
      try {
        view = await load();
      } catch {
        await new Promise((next) => setTimeout(next, PAUSE));
      }
    }
    for (const listener of listeners) listener();
  };
  const ahead = () => {
    if (asked) return;
    asked = true;
    void untilLoaded();
  };
  const subscribe = (listener: () => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  };
  // biome-ignore lint/correctness/noComponentHookFactories: made once for each kind, when the registry is
  function Lazy(props: P) {
    const View = useSyncExternalStore(
      subscribe,
      () => view,
      () => null,
    );
    useEffect(ahead, []);
    return View ? (
      <View {...props} />
    ) : (
      <p data-loading className="border-t border-line py-3 text-ink-2">
        {say(waitingWords)}
      </p>
    );
  }
  return Object.assign(Lazy, { ahead });
}
