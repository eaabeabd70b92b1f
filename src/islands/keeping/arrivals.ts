import { type Written, writtenOrder } from "@/core/journal/merge";

/** What becomes of an entry that did not come from this page. */
export type Arrival =
  /** It is known already. */
  | "known"
  /** It is older than what stands here, which was written without knowing of it. */
  | "passed"
  /** It is newer, and the field is being written in: it waits until that is left. */
  | "waits"
  /** It is newer, and takes the place of what stands here. */
  | "shown";

const name = ({ slot, device, revision }: Written): string => `${slot} ${device} ${revision}`;

/**
 * What this page has seen of other writers of the same work: other devices, other windows, and what this device itself wrote
 * before. Nothing that another wrote takes the place of an answer, or is passed over, without a word.
 */
export class Arrivals<E extends Written> {
  readonly #seen = new Set<string>();
  /** What waits for a field to be left, by slot. */
  readonly #waiting = new Map<number, E>();

  /** Notes what stood in its place from the beginning, or was written here. */
  note(entry: Written): void {
    this.#seen.add(name(entry));
  }

  isKnown(entry: Written): boolean {
    return this.#seen.has(name(entry));
  }

  /** What becomes of an entry, given what stands in its slot and whether someone writes in it now. */
  take(entry: E, held: E | undefined, isBeingWritten: boolean): Arrival {
    if (this.isKnown(entry)) return "known";
    this.note(entry);
    if (held && writtenOrder(held, entry) >= 0) return "passed";
    if (!isBeingWritten) return "shown";
    this.#waiting.set(entry.slot, entry);
    return "waits";
  }

  /** What waited for this slot, once; the field is left, or was written in. */
  release(slot: number): E | null {
    const entry = this.#waiting.get(slot) ?? null;
    this.#waiting.delete(slot);
    return entry;
  }

  /** The slots for which something waits. */
  get waiting(): number[] {
    return [...this.#waiting.keys()];
  }
}
