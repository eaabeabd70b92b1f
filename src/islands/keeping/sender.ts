import type { RefusedEntry } from "@/core/desk/desk-view";
import type { Written } from "@/core/journal/merge";
import type { Instant } from "@/core/time/instants";
import { Refusal } from "@/ui/requests";

/** What the server answers to a save. */
export interface Receipt<E extends Written> {
  readonly serverNow: Instant;
  /** The revisions that are safe now. */
  readonly saved: readonly Pick<Written, "slot" | "device" | "revision">[];
  /** What was not saved, each with why. */
  readonly refused: readonly RefusedEntry[];
  /** Slots in which another device wrote later: that stands. */
  readonly newer: readonly E[];
}

/** How the sending goes, for the words in the desk's head. */
export type SendState =
  | { readonly kind: "idle" }
  | { readonly kind: "sending" }
  /** The server cannot be reached; tried again by itself. */
  | { readonly kind: "unreachable" }
  /** The session has ended. */
  | { readonly kind: "signed-out" }
  /** The server will not take an entry; its sentence. */
  | { readonly kind: "refused"; readonly sentence: string };

interface SenderTerms<E extends Written, R extends Receipt<E>> {
  /** Posts entries, one for each slot at most. */
  readonly post: (entries: readonly E[], keepalive: boolean) => Promise<R>;
  readonly onReceipt: (receipt: R) => void;
  readonly onState: (state: SendState) => void;
  /** Nothing is taken any more: what it belongs to is over on the server. */
  readonly onOver: () => void;
  /** Some entries will not be taken, and are not sent again. */
  readonly onRefused?: (entries: readonly RefusedEntry[]) => void;
  /** A number from 0 to 1 that scatters the pauses. */
  readonly scatter?: () => number;
}

/** What the server takes in one save. */
const MOST_ENTRIES = 200;
/** In characters. Long essays go one by one. */
const LARGEST_BATCH = 400_000;
const FIRST_PAUSE = 1_000;
const LONGEST_PAUSE = 15_000;
/** An entry that the server fails at so often, while it takes others, is left where it is. */
const MOST_FAILURES_ALONE = 3;
const key = (entry: Pick<Written, "slot" | "device">) => `${entry.slot} ${entry.device}`;

/**
 * Brings journal entries to the server: the newest of each slot, one request at a time, again and again until it is
 * acknowledged.
 */
export class Sender<E extends Written, R extends Receipt<E> = Receipt<E>> {
  readonly #waiting = new Map<string, E>();
  #inFlight: Promise<void> | null = null;
  #timer: ReturnType<typeof setTimeout> | undefined;
  #dueAt = Number.POSITIVE_INFINITY;
  #failures = 0;
  #over = false;
  /** The server failed at several at once: they go one by one, so that one that it cannot take holds up no other. */
  #alone = false;
  /** Since it failed last, the server took something: it is there, and the next failure is the entry's own. */
  #takenSince = false;
  readonly #failedAlone = new Map<string, number>();

  constructor(private readonly terms: SenderTerms<E, R>) {}

  /** Whether everything given has been acknowledged. */
  get isDone(): boolean {
    return this.#waiting.size === 0;
  }

  isWaiting(slot: number): boolean {
    return [...this.#waiting.values()].some((entry) => entry.slot === slot);
  }

  /** Takes an entry; it is sent after `delay` ms at the latest. */
  add(entry: E, delay: number): void {
    this.#waiting.set(key(entry), entry);
    this.#schedule(delay);
  }

  #schedule(delay: number): void {
    if (this.#over) return;
    const at = performance.now() + delay;
    if (at >= this.#dueAt) return;
    clearTimeout(this.#timer);
    this.#dueAt = at;
    this.#timer = setTimeout(() => void this.send(), delay);
  }

  /** The newest entries, one for each slot; what other pages left behind goes with the next request. */
  #batch(): E[] {
    const bySlot = new Map<number, E>();
    for (const entry of this.#waiting.values()) if (!bySlot.has(entry.slot)) bySlot.set(entry.slot, entry);
    if (this.#alone) return [...bySlot.values()].slice(0, 1);
    const batch: E[] = [];
    let size = 0;
    for (const entry of [...bySlot.values()].slice(0, MOST_ENTRIES)) {
      size += JSON.stringify(entry).length;
      if (batch.length > 0 && size > LARGEST_BATCH) break;
      batch.push(entry);
    }
    return batch;
  }

  /** Sends now; with nothing to send it does nothing. Resolves when the request in flight is through. */
  async send(options: { readonly keepalive?: boolean } = {}): Promise<void> {
    clearTimeout(this.#timer);
    this.#dueAt = Number.POSITIVE_INFINITY;
    if (this.#inFlight) {
      // What came meanwhile follows at once; on the way out there is no later.
      if (!options.keepalive) return this.#inFlight.then(() => this.send(options));
    }
    if (this.#waiting.size === 0 || this.#over) return;
    this.#inFlight = this.#post(this.#batch(), options.keepalive ?? false).finally(() => {
      this.#inFlight = null;
    });
    return this.#inFlight;
  }

  async #post(entries: E[], keepalive: boolean): Promise<void> {
    this.terms.onState({ kind: "sending" });
    try {
      const receipt = await this.terms.post(entries, keepalive);
      for (const done of [...receipt.saved, ...receipt.refused]) {
        if (this.#waiting.get(key(done))?.revision === done.revision) this.#waiting.delete(key(done));
      }
      this.#failures = 0;
      this.#takenSince = true;
      if (this.#waiting.size === 0) this.#alone = false;
      this.terms.onReceipt(receipt);
      if (receipt.refused.length > 0) this.terms.onRefused?.(receipt.refused);
      this.terms.onState({ kind: "idle" });
      if (this.#waiting.size > 0) this.#schedule(0);
    } catch (error) {
      this.#failed(error, entries);
    }
  }

  #failed(error: unknown, entries: readonly E[]): void {
    if (error instanceof Refusal) {
      if (error.type === "handed-in") {
        this.#over = true;
        this.terms.onOver();
        return;
      }
      if (error.status === 401) {
        this.terms.onState({ kind: "signed-out" });
        this.#retry();
        return;
      }
      if ([404, 409, 413, 422].includes(error.status)) {
        // Sending the same again would be refused again; it stays in the journal. What was not refused goes on.
        const named = Array.isArray(error.more.slots) ? (error.more.slots as number[]) : null;
        this.#refuse(
          entries.filter(({ slot }) => named?.includes(slot) ?? true),
          error,
        );
        return;
      }
      if (error.status === 429) {
        this.terms.onState({ kind: "refused", sentence: error.message });
        this.#retry();
        return;
      }
      if (error.status >= 500 && this.#isFailedAtAlone(entries, error)) return;
    }
    this.terms.onState({ kind: "unreachable" });
    this.#retry();
  }

  /** Entries that are not sent again. */
  #refuse(refused: readonly E[], error: Refusal): void {
    for (const entry of refused) {
      if (this.#waiting.get(key(entry))?.revision === entry.revision) this.#waiting.delete(key(entry));
    }
    this.terms.onState({ kind: "refused", sentence: error.message });
    this.terms.onRefused?.(
      refused.map(({ slot, device, revision }) => ({
        slot,
        device,
        revision,
        type: error.type,
        sentence: error.message,
      })),
    );
    if (refused.length > 0 && this.#waiting.size > 0) this.#schedule(0);
  }

  /**
   * The server was there and failed. From now on each entry goes by itself, the one that failed behind the others. Answers
   * whether this one is given up: the server failed at it by itself several times, and took others in between.
   */
  #isFailedAtAlone(entries: readonly E[], error: Refusal): boolean {
    const [entry] = entries;
    if (!entry) return false;
    if (entries.length === 1 && this.#takenSince) {
      const name = `${key(entry)} ${entry.revision}`;
      const times = (this.#failedAlone.get(name) ?? 0) + 1;
      this.#failedAlone.set(name, times);
      if (times >= MOST_FAILURES_ALONE) {
        this.#failedAlone.delete(name);
        this.#refuse([entry], error);
        return true;
      }
    }
    this.#takenSince = false;
    this.#alone = true;
    if (this.#waiting.get(key(entry)) === entry) {
      this.#waiting.delete(key(entry));
      this.#waiting.set(key(entry), entry);
    }
    return false;
  }

  /** Growing, scattered pauses, so that a thousand desks do not come back in the same moment. */
  #retry(): void {
    const pause = Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** this.#failures);
    this.#failures += 1;
    this.#schedule(pause * (0.5 + (this.terms.scatter ?? Math.random)()));
  }

  /** It is taken again: what waits goes now. */
  reopen(): void {
    if (!this.#over) return;
    this.#over = false;
    this.#failures = 0;
    this.#schedule(0);
  }

  stop(): void {
    this.#over = true;
    clearTimeout(this.#timer);
  }
}
