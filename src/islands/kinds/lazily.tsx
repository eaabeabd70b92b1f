import { type ComponentType, lazy, Suspense, useEffect, useState } from "react";

/**
 * A view that is loaded only where it is needed, and only once the page is alive. It is not made on the server: a part that
 * comes alive later than the desk around it would stand there twice for a moment when the journal brings a newer answer.
 */
export function lazily<P extends object>(
  load: () => Promise<ComponentType<P>>,
  waitingWords: string,
): ComponentType<P> {
  const Loaded = lazy(() => load().then((view) => ({ default: view })));
  // biome-ignore lint/correctness/noComponentHookFactories: made once for each kind, when the registry is
  return function LazyView(props: P) {
    const [alive, setAlive] = useState(false);
    useEffect(() => setAlive(true), []);
    const waiting = <p className="border-t border-line py-3 text-ink-2">{waitingWords}</p>;
    return alive ? (
      <Suspense fallback={waiting}>
        <Loaded {...props} />
      </Suspense>
    ) : (
      waiting
    );
  };
}
