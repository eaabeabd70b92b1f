import type { Instant } from "../time/instants";

/** Which change stands in a slot, and when and where it was written; not what was written. */
export interface Written {
  readonly slot: number;
  /** Grows by one with each change on this device. */
  readonly revision: number;
  /** A name of the device's own making. */
  readonly device: string;
  /** The server's time, as the device reckoned it. */
  readonly writtenAt: Instant;
}

/** One change at a desk as a device wrote it down: the newest state of one slot. */
export interface JournalEntry extends Written {
  readonly answer: unknown;
  readonly ribbon: boolean;
  /** Options struck through, by their names in the attempt. */
  readonly ruledOut: readonly string[];
}

/**
 * Negative when `a` was written before `b`: by time, then device, then revision, so that any two can be told apart. A
 * device never writes two revisions with one time or with a time going back, so its own order is kept too.
 * @example writtenOrder({ writtenAt: 1, device: "a", revision: 1 }, { writtenAt: 2, device: "a", revision: 2 }) → -1
 */
export function writtenOrder(
  a: Pick<Written, "writtenAt" | "device" | "revision">,
  b: Pick<Written, "writtenAt" | "device" | "revision">,
): number {
  if (a.writtenAt !== b.writtenAt) return a.writtenAt - b.writtenAt;
  if (a.device !== b.device) return a.device < b.device ? -1 : 1;
  return a.revision - b.revision;
}

/**
 * The newest entry of each slot. Order and repetition of the entries make no difference.
 * @example [...mergeEntries([{ slot: 1, device: "a", revision: 1, writtenAt: 1 }], [{ slot: 1, device: "b", revision: 1, writtenAt: 2 }]).values()].map(({ device }) => device) → ["b"]
 */
export function mergeEntries<E extends Written>(...lists: readonly (readonly E[])[]): Map<number, E> {
  const newest = new Map<number, E>();
  for (const entry of lists.flat()) {
    const held = newest.get(entry.slot);
    if (!held || writtenOrder(held, entry) < 0) newest.set(entry.slot, entry);
  }
  return newest;
}
