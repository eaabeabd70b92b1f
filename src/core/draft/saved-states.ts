import { type Instant, MINUTE } from "../time/instants";
import type { SavedState } from "./draft-view";

/** One saved change of a draft. */
export interface ChangeMade {
  readonly change: number;
  readonly at: Instant;
  readonly by: string;
}

/** After so long without a change, or so long of changes, what follows is another state. */
const PAUSE = 5 * MINUTE;
const LONGEST = 15 * MINUTE;

/**
 * The states of a draft that are worth coming back to, in order: where somebody paused, where another went on, and now and
 * then within a long sitting.
 * @param changes all changes, in order
 * @example statesOf([{ change: 1, at: 0, by: "A" }, { change: 2, at: 10, by: "A" }, { change: 3, at: 20, by: "B" }]) → [{ change: 2, at: 10, by: "A", changes: 2 }, { change: 3, at: 20, by: "B", changes: 1 }]
 */
export function statesOf(changes: readonly ChangeMade[]): SavedState[] {
  const states: SavedState[] = [];
  let began = 0;
  for (const { change, at, by } of changes) {
    const last = states.at(-1);
    if (last && last.by === by && at - last.at < PAUSE && at - began < LONGEST) {
      states[states.length - 1] = { change, at, by, changes: last.changes + 1 };
    } else {
      began = at;
      states.push({ change, at, by, changes: 1 });
    }
  }
  return states;
}
