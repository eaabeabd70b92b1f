import { useEffect, useState } from "react";
import { ask, refusalOr } from "./requests";

/** After nothing was changed for so long, in ms, it is asked what it would do. */
const LOOKS_AFTER = 400;

/** What a change would do, as far as it is known. */
export interface LookedOver<E> {
  /** Null: not known yet, or nothing is to be changed. It is never that of another wish than the one that stands here. */
  readonly effect: E | null;
  /** Why it cannot be known. */
  readonly problem: string | null;
}

const NOTHING = { effect: null, problem: null };

/**
 * Asks what a change would do, whenever what is wished has stood still for a moment.
 * @param sent what is asked, as JSON; null: nothing
 * @param unreachable what is said where the server cannot be asked
 * @param nth asked anew for the same when it changes
 */
export function useLookedOver<E>(
  path: string,
  sent: string | null,
  unreachable: string,
  nth = 0,
): LookedOver<E> {
  const [found, setFound] = useState<LookedOver<E>>(NOTHING);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `nth` asks anew for the same.
  useEffect(() => {
    setFound(NOTHING);
    if (sent === null) return;
    let isOver = false;
    const later = setTimeout(() => {
      ask<E>(path, { body: JSON.parse(sent) })
        .then((effect) => !isOver && setFound({ effect, problem: null }))
        .catch((error) => !isOver && setFound({ effect: null, problem: refusalOr(error, unreachable) }));
    }, LOOKS_AFTER);
    return () => {
      isOver = true;
      clearTimeout(later);
    };
  }, [sent, path, unreachable, nth]);
  return found;
}
