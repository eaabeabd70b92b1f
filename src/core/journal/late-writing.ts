import { GRACE, type Instant } from "../time/instants";
import { type JournalEntry, writtenOrder } from "./merge";

/** What becomes of an entry that a device delivers. */
export type Delivery =
  /** In time: it is saved. */
  | "saved"
  /** After the grace, but by the device's journal written before the deadline: kept apart for the instructor. */
  | "late-writing"
  /** Written after the deadline: refused. */
  | "refused";

/**
 * Sorts an entry by when it arrives and when its device says that it was written. Late writing never changes a mark by
 * itself: an instructor accepts it or leaves it.
 * @example deliveryOf({ writtenAt: 1_000 }, 9_000, 2_000) → "late-writing"
 */
export function deliveryOf(
  entry: Pick<JournalEntry, "writtenAt">,
  arrives: Instant,
  deadline: Instant | null,
): Delivery {
  if (deadline === null || arrives <= deadline + GRACE) return "saved";
  return entry.writtenAt <= deadline ? "late-writing" : "refused";
}

/** What late writing would change if it were accepted: the slots in which it is newer than what was handed in. */
export function lateChanges<E extends JournalEntry>(
  handedIn: ReadonlyMap<number, JournalEntry>,
  late: readonly E[],
): Map<number, E> {
  const changes = new Map<number, E>();
  for (const entry of late) {
    const stands = handedIn.get(entry.slot);
    const held = changes.get(entry.slot);
    if (stands && writtenOrder(stands, entry) >= 0) continue;
    if (!held || writtenOrder(held, entry) < 0) changes.set(entry.slot, entry);
  }
  return changes;
}
