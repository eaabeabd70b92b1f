import type { AttemptPulse, DeskView, SaveReceipt } from "@/core/attempt/desk-view";
import { type JournalEntry, mergeEntries, writtenOrder } from "@/core/journal/merge";
import { type Answer, fillOf, readAnswer, summaryOf } from "@/core/kinds/answering";
import type { Fill } from "@/core/kinds/kind";
import { type Instant, SECOND } from "@/core/time/instants";
import { ask, Refusal } from "@/ui/requests";
import { Journal } from "./journal";
import { Sender, type SendState } from "./sender";
import { ServerClock } from "./server-clock";

/** What stands in a slot on this screen. */
export interface SlotState {
  readonly answer: Answer | null;
  readonly folded: boolean;
  readonly ruledOut: readonly string[];
  readonly fill: Fill;
  /** Whether the server has all of it. */
  readonly saved: boolean;
}

/** Another device wrote later: what stood here before, in one line. */
export interface Replaced {
  readonly slot: number;
  readonly before: string;
}

export interface DeskState {
  readonly slots: readonly SlotState[];
  readonly here: number;
  readonly look: "question" | "final";
  readonly sending: SendState;
  /** When everything was saved last, by the server's time; null: nothing to save yet. */
  readonly savedAt: Instant | null;
  /** Since when the server cannot be reached. */
  readonly unreachableSince: Instant | null;
  readonly allSaved: boolean;
  readonly keepsOnDevice: boolean;
  readonly startedAt: Instant;
  readonly deadline: Instant | null;
  /** "running", or what became of it. */
  readonly phase: "running" | "handing-in" | "time-up" | "over";
  readonly replaced: Replaced | null;
}

/** A typed text is journalled at every pause this long, and sent after the longer one. */
const TYPING_PAUSE = 300;
const TYPING_SEND = 1_500;
const PULSE = 20 * SECOND;

/** Everything that happens at the desk, apart from how it looks: the state, the journal, the sender and the clock. */
export class DeskStore {
  readonly clock: ServerClock;
  readonly journal: Journal;
  readonly #sender: Sender;
  /** This page as a writer of the journal. */
  readonly #device = crypto.randomUUID();
  readonly #entries = new Map<number, JournalEntry>();
  readonly #typing = new Map<number, ReturnType<typeof setTimeout>>();
  readonly #listeners = new Set<() => void>();
  #channel: BroadcastChannel | null = null;
  #lastWritten = 0;
  #pulseTimer: ReturnType<typeof setInterval> | undefined;
  #state: DeskState;

  constructor(readonly view: DeskView) {
    this.clock = new ServerClock(view.clock.serverNow, arrival());
    this.journal = new Journal(view.attemptId);
    for (const record of view.answers) this.#entries.set(record.slot, record);
    this.#sender = new Sender({
      post: (entries, keepalive) => this.#post(entries, keepalive),
      onReceipt: (receipt) => this.#receive(receipt),
      onState: (sending) => this.#sendingIs(sending),
      onOver: () => void this.#isOver(),
    });
    this.#state = {
      slots: view.questions.map((_, i) => this.#slotFrom(i + 1)),
      here: Math.min(view.here, view.questions.length),
      look: "question",
      sending: { kind: "idle" },
      savedAt: view.answers.length > 0 ? view.clock.serverNow : null,
      unreachableSince: null,
      allSaved: true,
      keepsOnDevice: true,
      startedAt: view.clock.startedAt,
      deadline: view.clock.deadline,
      phase: "running",
      replaced: null,
    };
  }

  /** Takes up work in the browser: the journal, the start of the clock, and the listening. Answers how to stop. */
  open(): () => void {
    void this.#recover();
    if (!this.view.confirmed) void this.#confirm();
    else void this.measure();
    this.#pulseTimer = setInterval(() => void this.measure(), PULSE);
    const hidden = () => {
      if (document.visibilityState === "hidden") this.leave();
      else void this.measure();
    };
    const online = () => {
      void this.#sender.send();
      void this.measure();
    };
    const leave = () => this.leave();
    document.addEventListener("visibilitychange", hidden);
    addEventListener("pagehide", leave);
    addEventListener("pageshow", online);
    addEventListener("online", online);
    this.#channel = new BroadcastChannel(`attempt ${this.view.attemptId}`);
    this.#channel.onmessage = ({ data }) => this.#adopt(data as JournalEntry);
    return () => {
      clearInterval(this.#pulseTimer);
      document.removeEventListener("visibilitychange", hidden);
      removeEventListener("pagehide", leave);
      removeEventListener("pageshow", online);
      removeEventListener("online", online);
      this.#channel?.close();
      this.#sender.stop();
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  readonly state = (): DeskState => this.#state;

  #set(change: Partial<DeskState>): void {
    this.#state = { ...this.#state, ...change };
    for (const listener of this.#listeners) listener();
  }

  // What the student does.

  /** A pick, or anything that is complete as it is: journalled and sent at once. */
  choose(slot: number, answer: Answer | null): void {
    this.#change(slot, { answer });
    this.#commit(slot, 0);
  }

  /** Typing: on the screen at once, in the journal at the next pause. */
  type(slot: number, answer: Answer | null): void {
    this.#change(slot, { answer });
    clearTimeout(this.#typing.get(slot));
    this.#typing.set(
      slot,
      setTimeout(() => this.#commit(slot, TYPING_SEND), TYPING_PAUSE),
    );
  }

  fold(slot: number): void {
    this.#change(slot, { folded: !this.#slot(slot).folded });
    this.#commit(slot, 0);
  }

  ruleOut(slot: number, option: string): void {
    const { ruledOut } = this.#slot(slot);
    const without = ruledOut.filter((each) => each !== option);
    this.#change(slot, { ruledOut: without.length < ruledOut.length ? without : [...ruledOut, option] });
    this.#commit(slot, 0);
  }

  go(slot: number): void {
    if (slot < 1 || slot > this.view.questions.length) return;
    this.commitTyping();
    this.#set({ here: slot, look: "question", replaced: null });
  }

  look(look: DeskState["look"]): void {
    this.commitTyping();
    this.#set({ look });
  }

  /** Puts what is still being typed into the journal: on leaving a field, a question or the page. */
  commitTyping(): void {
    for (const slot of [...this.#typing.keys()]) this.#commit(slot, 0);
  }

  /** Saves everything now, for those who like to be sure. */
  async saveNow(): Promise<void> {
    this.commitTyping();
    await this.#sender.send();
  }

  /** The page is being hidden or left: everything goes out now. */
  leave(): void {
    this.commitTyping();
    void this.#sender.send({ keepalive: true });
  }

  /** Hands in, once everything is on the server. @throws Error with a sentence when it cannot be done now. */
  async handIn(): Promise<void> {
    this.#set({ phase: "handing-in" });
    try {
      await this.saveNow();
      if (!this.#sender.isDone && this.#state.phase === "handing-in") {
        throw new Error(
          "Some answers are not on the server yet, so nothing is handed in. It goes on trying; press again in a moment.",
        );
      }
      const { slip } = await ask<{ slip: string }>(`/api/attempts/${this.view.attemptId}/hand-in`, {
        body: {},
      });
      await this.#finish(slip);
    } catch (error) {
      if (this.#state.phase === "handing-in") this.#set({ phase: "running" });
      if (error instanceof Refusal || !(error instanceof TypeError || error instanceof DOMException))
        throw error;
      throw new Error(
        "The server cannot be reached just now, so nothing is handed in yet. Everything is kept; press again in a moment.",
      );
    }
  }

  /** The clock has reached zero: everything still unsent goes out, and the server hands in. */
  async timeIsUp(): Promise<void> {
    if (this.#state.phase !== "running" && this.#state.phase !== "handing-in") return;
    this.#set({ phase: "time-up" });
    this.commitTyping();
    await this.#sender.send();
    const wait = setInterval(() => void this.measure(), SECOND);
    this.subscribe(() => this.#state.phase !== "time-up" && clearInterval(wait));
  }

  /** Asks the server how the attempt stands, and measures its clock by the way. */
  async measure(): Promise<void> {
    try {
      const sentAt = performance.now();
      const pulse = await ask<AttemptPulse>(`/api/attempts/${this.view.attemptId}`, { limit: 8_000 });
      this.#pulse(pulse, sentAt);
      if (this.#state.sending.kind !== "idle" && !this.#sender.isDone) await this.#sender.send();
    } catch (error) {
      // A lost connection is told by the sender, as soon as there is something to send.
      if (error instanceof Refusal && error.status === 401) this.#set({ sending: { kind: "signed-out" } });
    }
  }

  // What comes from the journal, the server and other pages.

  async #recover(): Promise<void> {
    const kept = await this.journal.read();
    const unsent = kept.filter((entry) => !entry.acknowledged);
    const newest = mergeEntries([...this.#entries.values()], unsent);
    for (const [slot, entry] of newest) {
      if (!this.view.questions[slot - 1]) continue;
      this.#entries.set(slot, entry);
    }
    // Also those that another device has overtaken: the server keeps them in its log.
    for (const { attemptId: _, acknowledged: __, ...entry } of unsent) this.#sender.add(entry, 0);
    this.#set({
      slots: this.view.questions.map((_, i) => this.#slotFrom(i + 1)),
      keepsOnDevice: this.journal.keeps ?? true,
      allSaved: this.#isAllSaved,
    });
  }

  async #confirm(): Promise<void> {
    for (let tries = 0; tries < 5; tries += 1) {
      try {
        const sentAt = performance.now();
        const path = `/api/attempts/${this.view.attemptId}/begin`;
        const pulse = await ask<AttemptPulse & { startedAt: Instant }>(path, { body: {}, limit: 5_000 });
        this.#set({ startedAt: pulse.startedAt });
        this.#pulse(pulse, sentAt);
        return;
      } catch (error) {
        if (error instanceof Refusal) return;
        await new Promise((next) => setTimeout(next, SECOND));
      }
    }
  }

  #pulse(pulse: AttemptPulse, sentAt: number): void {
    this.clock.measured(pulse.serverNow, sentAt, performance.now());
    if (pulse.deadline !== this.#state.deadline) this.#set({ deadline: pulse.deadline });
    if (pulse.handedInAt !== null) void this.#finish(`/attempts/${this.view.attemptId}/slip`);
  }

  async #isOver(): Promise<void> {
    this.#set({ phase: "time-up" });
    await this.measure();
  }

  /** The attempt is handed in: the slip takes the desk's place, and the way back leads not to a dead desk. */
  async #finish(slip: string): Promise<void> {
    if (this.#state.phase === "over") return;
    this.#set({ phase: "over" });
    this.#sender.stop();
    await this.journal.forgetAcknowledged().catch(() => {});
    location.replace(slip);
  }

  #post(entries: readonly JournalEntry[], keepalive: boolean): Promise<SaveReceipt> {
    const sentAt = performance.now();
    const body = { here: this.#state.here, entries };
    return ask<SaveReceipt>(`/api/attempts/${this.view.attemptId}/save`, {
      body,
      keepalive,
      limit: 10_000,
    }).then((receipt) => {
      this.#pulse(receipt, sentAt);
      return receipt;
    });
  }

  #receive(receipt: SaveReceipt): void {
    for (const { slot, device, revision } of receipt.saved)
      void this.journal.acknowledge(slot, device, revision);
    for (const newer of receipt.newer) this.#adopt(newer, true);
    this.#set({
      slots: this.#state.slots.map((slot, i) => ({
        ...slot,
        saved: !this.#sender.isWaiting(i + 1) && !this.#typing.has(i + 1),
      })),
      allSaved: this.#isAllSaved,
      savedAt: this.#isAllSaved ? this.clock.now() : this.#state.savedAt,
      unreachableSince: null,
    });
  }

  #sendingIs(sending: SendState): void {
    const unreachable = sending.kind === "unreachable" || sending.kind === "signed-out";
    // While it tries again the words stay: nothing flickers.
    if (sending.kind === "sending" && this.#state.unreachableSince !== null) return;
    this.#set({
      sending,
      unreachableSince: unreachable ? (this.#state.unreachableSince ?? this.clock.now()) : null,
      allSaved: this.#isAllSaved && sending.kind !== "refused",
    });
  }

  /** Takes over what another page or device wrote later; says so when it came from elsewhere and something stood here. */
  #adopt(entry: JournalEntry, fromServer = false): void {
    const held = this.#entries.get(entry.slot);
    const question = this.view.questions[entry.slot - 1];
    if (!question || (held && writtenOrder(held, entry) >= 0)) return;
    const before = summaryOf(question, this.#slot(entry.slot).answer);
    this.#entries.set(entry.slot, entry);
    const taken = this.#slotFrom(entry.slot);
    const differs = before !== "" && before !== summaryOf(question, taken.answer);
    this.#set({
      slots: this.#state.slots.map((slot, i) => (i === entry.slot - 1 ? taken : slot)),
      ...(fromServer && differs && { replaced: { slot: entry.slot, before } }),
    });
  }

  /** Nothing waits for the server, and nothing is being typed that is not in the journal yet. */
  get #isAllSaved(): boolean {
    return this.#sender.isDone && this.#typing.size === 0;
  }

  // The slots.

  #slot(slot: number): SlotState {
    const found = this.#state.slots[slot - 1];
    if (!found) throw new Error(`There is no slot ${slot}.`);
    return found;
  }

  #slotFrom(slot: number): SlotState {
    const question = this.view.questions[slot - 1];
    if (!question) throw new Error(`There is no slot ${slot}.`);
    const entry = this.#entries.get(slot);
    const reading = readAnswer(question, entry?.answer ?? null);
    const answer = reading.ok ? reading.answer : null;
    return {
      answer,
      folded: entry?.folded ?? false,
      ruledOut: entry?.ruledOut ?? [],
      fill: fillOf(question, answer),
      saved: !this.#sender?.isWaiting(slot),
    };
  }

  #change(slot: number, change: Partial<Pick<SlotState, "answer" | "folded" | "ruledOut">>): void {
    if (this.#state.phase === "over" || this.#state.phase === "time-up") return;
    const question = this.view.questions[slot - 1];
    if (!question) return;
    const changed = { ...this.#slot(slot), ...change, saved: false };
    const next = { ...changed, fill: fillOf(question, changed.answer) };
    this.#set({ slots: this.#state.slots.map((each, i) => (i === slot - 1 ? next : each)), allSaved: false });
  }

  #commit(slot: number, delay: number): void {
    clearTimeout(this.#typing.get(slot));
    this.#typing.delete(slot);
    const { answer, folded, ruledOut } = this.#slot(slot);
    // One page never writes two entries with the same time, nor one before another.
    this.#lastWritten = Math.max(this.#lastWritten + 1, Math.floor(this.clock.now()));
    const entry: JournalEntry = {
      slot,
      answer,
      folded,
      ruledOut,
      revision: (this.#entries.get(slot)?.revision ?? 0) + 1,
      device: this.#device,
      writtenAt: this.#lastWritten,
    };
    this.#entries.set(slot, entry);
    void this.journal.write(entry).then(() => {
      if (this.journal.keeps === false && this.#state.keepsOnDevice) this.#set({ keepsOnDevice: false });
    });
    this.#channel?.postMessage(entry);
    this.#sender.add(entry, delay);
    if (this.#state.allSaved) this.#set({ allSaved: false });
  }
}

/** The monotonic moment at which the page's first bytes came, which is when the server made it. */
function arrival(): number {
  if (typeof performance === "undefined" || typeof document === "undefined") return 0;
  const [navigation] = performance.getEntriesByType("navigation");
  return navigation instanceof PerformanceNavigationTiming ? navigation.responseStart : performance.now();
}
