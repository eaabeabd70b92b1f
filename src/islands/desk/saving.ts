import type { AttemptPulse, RefusedEntry, SaveReceipt } from "@/core/desk/desk-view";
import type { JournalEntry } from "@/core/journal/merge";
import { ask, Refusal } from "@/ui/requests";
import { say } from "@/words/t";
import { sendingBecomes } from "../keeping/save-words";
import type { SendState } from "../keeping/sender";
import type { DeskKeeping } from "./answers";
import type { DeskScreen } from "./desk-screen";
import { noteHere } from "./offline-desk";

interface SavingTerms {
  /** The server's time. */
  readonly now: () => number;
  /** How the attempt stands, as an answer of the server brought it. @param sentAt monotonic, in ms */
  readonly onPulse: (pulse: AttemptPulse, sentAt: number) => void;
  /** The server says that the attempt is over. */
  readonly onOver: () => void;
  /** The server says that a question is closed, which this desk does not know yet. */
  readonly onClosed: () => void;
}

/** How answers come to the server, and how that is said on the screen. */
export class Saving {
  #sentHere: number;

  constructor(
    private readonly screen: DeskScreen,
    private readonly keeping: DeskKeeping,
    private readonly terms: SavingTerms,
  ) {
    this.#sentHere = screen.view.here;
  }

  /** Nothing waits for the server, and nothing is being typed that is not in the journal yet. */
  get isAllSaved(): boolean {
    return this.keeping.isSent && !this.keeping.isTyping() && this.screen.state().refusals.length === 0;
  }

  /** Saves everything now. */
  async now(): Promise<void> {
    this.keeping.writeTyped();
    await this.keeping.send();
  }

  /** Saves everything now. @throws TypeError when it could not be sent */
  async all(): Promise<void> {
    await this.now();
    if (!this.keeping.isSent) throw new TypeError("unsaved");
  }

  /** Save was pressed: it answers also when there is nothing to send, by asking the server whether it is there. */
  async asked(): Promise<void> {
    this.keeping.writeTyped();
    const wasSent = this.keeping.isSent;
    await this.keeping.send();
    if (!wasSent || !this.isAllSaved) return;
    try {
      this.keeping.receive(await this.post([], false));
    } catch (error) {
      if (error instanceof Refusal && error.type === "handed-in") this.terms.onOver();
      else if (error instanceof Refusal && error.status === 401) this.sendingIs({ kind: "signed-out" });
      else this.sendingIs({ kind: "unreachable" });
    }
  }

  /** The page is being hidden or left: everything goes out now. */
  leave(): void {
    this.keeping.writeTyped();
    const { here } = this.screen.state();
    noteHere(this.screen.view.attemptId, here);
    if (!this.keeping.isSent) void this.keeping.send({ keepalive: true });
    else if (here !== this.#sentHere) void this.post([], true).catch(() => {});
  }

  /** Signs in again without leaving the desk. @throws Refusal with a sentence. */
  async signInAgain(password: string): Promise<void> {
    await ask("/api/sign-in", { body: { email: this.screen.view.email, password } });
    this.screen.set({ sending: { kind: "idle" }, unreachableSince: null });
    await this.keeping.send();
  }

  /** Of a question that is closed nothing can be done any more: going on, it need not be said for ever. */
  forgetClosedRefusals(): void {
    const { refusals } = this.screen.state();
    const open = refusals.filter(({ slot }) => this.screen.isOpen(slot));
    if (open.length < refusals.length) this.screen.set({ refusals: open });
  }

  // What keeping asks, and tells.

  post(entries: readonly JournalEntry[], keepalive: boolean): Promise<SaveReceipt> {
    const sentAt = performance.now();
    const { here } = this.screen.state();
    return ask<SaveReceipt>(`/api/attempts/${this.screen.view.attemptId}/save`, {
      body: { here, entries },
      keepalive,
      limit: 10_000,
    }).then((receipt) => {
      this.#sentHere = here;
      this.terms.onPulse(receipt, sentAt);
      return receipt;
    });
  }

  written(): void {
    if (this.screen.state().allSaved) this.screen.set({ allSaved: false });
  }

  received(receipt: SaveReceipt): void {
    const saved = new Set(receipt.saved.map(({ slot }) => slot));
    const { refusals, slots, savedAt } = this.screen.state();
    this.screen.set({
      refusals: refusals.filter(({ slot }) => !saved.has(slot)),
      slots: slots.map((slot, i) => ({
        ...slot,
        saved: !this.keeping.isWaiting(i + 1) && !this.keeping.isTyping(i + 1),
      })),
      allSaved: this.isAllSaved,
      savedAt: this.isAllSaved ? this.terms.now() : savedAt,
      unreachableSince: null,
    });
  }

  /**
   * The server will not take some entries. What it closed is shown closed; a number that was given to something else before
   * is given up, and what stands here goes under another. All of it stays on this device.
   */
  refused(entries: readonly RefusedEntry[]): void {
    const taken = entries.filter(({ type }) => type === "number-taken");
    const others = entries.filter((each) => !taken.includes(each));
    const slots = new Set(others.map(({ slot }) => slot));
    this.screen.set({
      allSaved: false,
      refusals: [
        ...this.screen.state().refusals.filter(({ slot }) => !slots.has(slot)),
        ...others.map(({ slot, sentence }) => ({ slot, sentence: say(sentence) })),
      ],
    });
    for (const { slot } of taken) this.keeping.write(slot);
    if (others.some(({ type }) => type === "closed")) this.terms.onClosed();
  }

  sendingIs(sending: SendState): void {
    const next = sendingBecomes(this.screen.state(), sending, this.terms.now);
    if (next) this.screen.set({ ...next, allSaved: this.isAllSaved && sending.kind !== "refused" });
  }
}
