import { mergeEntries, type Written } from "@/core/journal/merge";
import type { Instant } from "@/core/time/instants";
import { type Arrival, Arrivals } from "./arrivals";
import type { Holding } from "./device-store";
import type { Journal } from "./journal";
import { type Receipt, Sender, type SendState } from "./sender";

/** A typed text is journalled at every pause this long, and sent after the longer one. */
const TYPING_PAUSE = 300;
const TYPING_SEND = 1_500;

/** What keeping asks of the screen on which it is written, and what it tells it. */
interface KeepingTerms<E extends Written, R extends Receipt<E>> {
  /** The name under which windows of one browser hear of each other's entries. */
  readonly channel: string;
  readonly journal: Journal<E>;
  /** What stands in the slots at the beginning. */
  readonly entries: readonly E[];
  /** The server's time. */
  readonly now: () => Instant;
  readonly post: (entries: readonly E[], keepalive: boolean) => Promise<R>;
  /** What stands in a slot, to be written down; null: it may not be changed now. */
  readonly content: (slot: number) => Omit<E, keyof Written> | null;
  /** Whether there is such a slot, whether it is on the screen, and whether it is open. */
  readonly isThere: (slot: number) => boolean;
  readonly isShown: (slot: number) => boolean;
  readonly isOpen: (slot: number) => boolean;
  /** Whether an entry says other than what stands on the screen. */
  readonly differs: (entry: E) => boolean;
  /** Something was written down: it is on its way. */
  readonly onWritten: () => void;
  /** What another wrote: shown in the place of `before`, or told. */
  readonly onArrival: (entry: E, arrival: Exclude<Arrival, "known">, before: E | undefined) => void;
  /** Whether this device keeps what is written has changed. */
  readonly onKeeps: (keeps: boolean) => void;
  readonly onReceipt: (receipt: R) => void;
  readonly onSending: (state: SendState) => void;
  readonly onRefused: (refused: R["refused"]) => void;
  readonly onOver: () => void;
}

/** What was found in the journal of this device, and what stood in the slots before. */
export interface Recovered<E extends Written> {
  readonly held: readonly (E & Holding)[];
  readonly before: ReadonlyMap<number, E>;
}

/**
 * Keeps what is written in the slots of a page: each change goes into the journal of this device and to the server, and
 * what other devices and windows wrote arrives. It knows nothing of what the entries hold.
 */
export class Keeping<E extends Written, R extends Receipt<E> = Receipt<E>> {
  /** This page as a writer of the journal. */
  readonly device = crypto.randomUUID();
  readonly #entries = new Map<number, E>();
  readonly #typing = new Map<number, ReturnType<typeof setTimeout>>();
  readonly #arrivals = new Arrivals<E>();
  /** What the server holds, as far as this page has it. */
  readonly #onServer = new Map<number, Written>();
  readonly #sender: Sender<E, R>;
  #channel: BroadcastChannel | null = null;
  #lastWritten = 0;
  /** Each entry of this page has a number of its own, in whatever slot: none is ever used twice. */
  #revision = 0;
  /** The slot of the text field that has the focus. */
  #writingIn: number | null = null;
  #keeps = true;

  constructor(private readonly terms: KeepingTerms<E, R>) {
    for (const entry of terms.entries) {
      this.#entries.set(entry.slot, entry);
      this.#onServer.set(entry.slot, entry);
      this.#arrivals.note(entry);
    }
    this.#sender = new Sender({
      post: terms.post,
      onReceipt: (receipt) => this.receive(receipt),
      onState: terms.onSending,
      onOver: terms.onOver,
      onRefused: terms.onRefused,
    });
  }

  /** Takes up hearing from other windows of this browser. */
  open(): void {
    this.#channel = new BroadcastChannel(this.terms.channel);
    this.#channel.onmessage = ({ data }) => this.#adopt(data as E);
  }

  close(): void {
    this.#channel?.close();
    this.#sender.stop();
  }

  /** The newest entry of each slot that is known here. */
  get entries(): ReadonlyMap<number, E> {
    return this.#entries;
  }

  /** Whether the server has acknowledged all that was written down. */
  get isSent(): boolean {
    return this.#sender.isDone;
  }

  /** Whether something is being typed that is not in the journal yet: anywhere, or in one slot. */
  isTyping(slot?: number): boolean {
    return slot === undefined ? this.#typing.size > 0 : this.#typing.has(slot);
  }

  isWaiting(slot: number): boolean {
    return this.#sender.isWaiting(slot);
  }

  /** What the server holds in a slot, as far as this page has it. */
  onServer(slot: number): Written | null {
    return this.#onServer.get(slot) ?? null;
  }

  // Writing.

  /** Typing: in the journal at the next pause. */
  later(slot: number): void {
    clearTimeout(this.#typing.get(slot));
    this.#typing.set(
      slot,
      setTimeout(() => this.write(slot, TYPING_SEND), TYPING_PAUSE),
    );
  }

  /** Puts what stands in a slot into the journal now. @param delay it is sent after so many ms at the latest */
  write(slot: number, delay = 0): void {
    clearTimeout(this.#typing.get(slot));
    this.#typing.delete(slot);
    const content = this.terms.content(slot);
    if (!content) return;
    // One page never writes two entries with the same time, nor one before another.
    this.#lastWritten = Math.max(this.#lastWritten + 1, Math.floor(this.terms.now()));
    this.#revision += 1;
    const entry = {
      slot,
      ...content,
      revision: this.#revision,
      device: this.device,
      writtenAt: this.#lastWritten,
    } as unknown as E;
    this.#arrivals.note(entry);
    const waited = this.#arrivals.release(slot);
    this.#entries.set(slot, entry);
    if (waited) this.terms.onArrival(waited, "passed", undefined);
    void this.terms.journal.write(entry).then(() => this.#noteKeeps());
    this.#channel?.postMessage(entry);
    this.#sender.add(entry, delay);
    this.terms.onWritten();
  }

  /** Puts what is still being typed into the journal: on leaving a field, a question or the page. */
  writeTyped(): void {
    for (const slot of [...this.#typing.keys()]) this.write(slot);
  }

  /** Sends what waits; resolves when the request that is under way is through. */
  send(options: { readonly keepalive?: boolean } = {}): Promise<void> {
    return this.#sender.send(options);
  }

  /** Entries are taken again after they were not: what waits goes now. */
  reopen(): void {
    this.#sender.reopen();
  }

  stopSending(): void {
    this.#sender.stop();
  }

  // What comes from the journal, the server and other windows.

  /** Takes in what an earlier page left in the journal, and sends of it what the server does not have. */
  async recover(): Promise<Recovered<E>> {
    const held = await this.terms.journal.read();
    const before = new Map(this.#entries);
    for (const entry of held) this.#arrivals.note(entry);
    // Also what is acknowledged: a kept page may be older than it.
    const newest = mergeEntries<E>([...this.#entries.values()], held);
    for (const [slot, entry] of newest) if (this.terms.isThere(slot)) this.#entries.set(slot, entry);
    for (const { attemptId: _, acknowledged, ...entry } of held) {
      // Also those that another device has overtaken: the server keeps them in its log.
      if (!acknowledged && this.terms.isOpen(entry.slot)) this.#sender.add(entry as unknown as E, 0);
    }
    this.#keeps = this.terms.journal.keeps ?? true;
    this.terms.onKeeps(this.#keeps);
    return { held, before };
  }

  /** Takes in the answer to a save. */
  receive(receipt: R): void {
    for (const head of receipt.saved) {
      void this.terms.journal.acknowledge(head.slot, head.device, head.revision);
      this.#onServer.set(head.slot, { ...head, writtenAt: receipt.serverNow });
    }
    for (const newer of receipt.newer) {
      this.#onServer.set(newer.slot, newer);
      this.#adopt(newer);
    }
    this.terms.onReceipt(receipt);
  }

  /** Takes in what the server holds of a slot. */
  takeFromServer(entry: E): void {
    this.#onServer.set(entry.slot, entry);
    if (this.terms.isShown(entry.slot)) this.#adopt(entry);
    else if (!this.#entries.has(entry.slot)) {
      this.#entries.set(entry.slot, entry);
      this.#arrivals.note(entry);
    }
  }

  /** Takes in which changes stand on the server; returns whether this page lacks one of them. */
  lacksAny(heads: readonly Written[]): boolean {
    for (const head of heads) {
      // What another window of this browser saved came by another way: now the server has it.
      const held = this.#entries.get(head.slot);
      if (held?.device === head.device && held.revision === head.revision)
        this.#onServer.set(head.slot, head);
    }
    return heads.some(
      (head) => this.terms.isShown(head.slot) && head.device !== this.device && !this.#arrivals.isKnown(head),
    );
  }

  /** A text field of this slot has the focus, or none has: what another device wrote waits so long. */
  writesIn(slot: number | null): void {
    if (slot === this.#writingIn) return;
    this.#writingIn = slot;
    for (const each of this.#arrivals.waiting) {
      if (each === slot) continue;
      if (this.isTyping(each)) this.write(each);
      const entry = this.#arrivals.release(each);
      if (entry) this.#show(entry);
    }
  }

  /** Takes in what another device, window or earlier page wrote: shown, or told, but never in silence. */
  #adopt(entry: E): void {
    const { slot } = entry;
    // What is being typed here is later than anything that comes from elsewhere.
    if (this.isTyping(slot)) this.write(slot);
    if (!this.terms.isShown(slot)) return;
    const isBeingWritten = this.terms.differs(entry) && this.#writingIn === slot;
    const arrival = this.#arrivals.take(entry, this.#entries.get(slot), isBeingWritten);
    if (arrival === "shown") this.#show(entry);
    else if (arrival !== "known") this.terms.onArrival(entry, arrival, undefined);
  }

  #show(entry: E): void {
    const before = this.#entries.get(entry.slot);
    this.#entries.set(entry.slot, entry);
    this.terms.onArrival(entry, "shown", before);
  }

  /** Says whether this device keeps what is written; once there is room again, what it could not keep follows. */
  #noteKeeps(): void {
    const keeps = this.terms.journal.keeps ?? true;
    if (keeps === this.#keeps) return;
    this.#keeps = keeps;
    this.terms.onKeeps(keeps);
    if (!keeps) return;
    for (const entry of this.#entries.values()) {
      if (this.isWaiting(entry.slot)) void this.terms.journal.write(entry).then(() => this.#noteKeeps());
    }
  }
}
