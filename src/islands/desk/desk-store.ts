import type { TriedPart } from "@/core/attempt/standing";
import type {
  AnswerHead,
  AttemptPulse,
  AttemptTraces,
  DeskPages,
  DeskView,
  RefusedEntry,
  SaveReceipt,
} from "@/core/desk/desk-view";
import { type JournalEntry, mergeEntries } from "@/core/journal/merge";
import { type Answer, fillOf, readAnswer, summaryOf } from "@/core/kinds/answering";
import { said } from "@/core/said";
import { type Instant, SECOND } from "@/core/time/instants";
import { ask, Refusal, refusalOr } from "@/ui/requests";
import { say, t } from "@/words/t";
import { Arrivals } from "../keeping/arrivals";
import { FileQueue, type PendingFile } from "../keeping/file-queue";
import { Journal } from "../keeping/journal";
import { Sender, type SendState } from "../keeping/sender";
import { ServerClock } from "../keeping/server-clock";
import { isWritable, type PhaseEvent, phaseAfter } from "./desk-phase";
import {
  type DeskState,
  type Elsewhere,
  finishing,
  goingTo,
  initialState,
  type SlotState,
  slotAgain,
  type Turn,
  withPages,
} from "./desk-state";
import { forgetKeptDesk, keepDesk, keptOffset, notedHere, noteHere, noteOffset, wasKept } from "./kept-desk";
import { WaitingHandIn } from "./waiting-hand-in";

/** Said where something needs the server and the server is not there. */
const NEEDS_CONNECTION = said("desk.desk-store.there-is-no-connection-just-now");

/** A typed text is journalled at every pause this long, and sent after the longer one. */
const TYPING_PAUSE = 300;
const TYPING_SEND = 1_500;
const PULSE = 20 * SECOND;
/** So long it is waited for what the server has before handing in is offered, in ms; handing in itself asks again. */
const CATCHES_UP = 2_500;
/** No answer is on its way for longer; a server's time further behind means that its clock was set. */
const OVERTAKEN = 15 * SECOND;

/** Everything that happens at the desk, apart from how it looks: the state, the journal, the sender and the clock. */
export class DeskStore {
  readonly clock: ServerClock;
  readonly journal: Journal;
  readonly files: FileQueue;
  readonly #sender: Sender;
  /** This page as a writer of the journal. */
  readonly #device = crypto.randomUUID();
  readonly #entries = new Map<number, JournalEntry>();
  readonly #typing = new Map<number, ReturnType<typeof setTimeout>>();
  readonly #listeners = new Set<() => void>();
  #channel: BroadcastChannel | null = null;
  #lastWritten = 0;
  /** Each entry of this page has a number of its own, in whatever slot: none is ever used twice. */
  #revision = 0;
  #endTimer: ReturnType<typeof setInterval> | undefined;
  #pulseTimer: ReturnType<typeof setInterval> | undefined;
  #confirmed: boolean;
  #sentHere: number;
  /** The server's time of the newest word of how the attempt stands. */
  #takenAt: Instant = 0;
  readonly #dismissed = new Set<string>();
  readonly #arrivals = new Arrivals();
  /** What the server holds, as far as this desk has it: what is handed in is this, or it is refused. */
  readonly #onServer = new Map<number, AnswerHead>();
  /** The slot of the text field that has the focus. */
  #writingIn: number | null = null;
  /** How often something was checked or told when it was last heard of; null: only this desk did since. */
  #turns: number | null = null;
  #fetching: Promise<void> | null = null;
  #isElsewherePutAway = false;
  #events: EventSource | null = null;
  #handIn: WaitingHandIn | null = null;
  #state: DeskState;

  constructor(readonly view: DeskView) {
    this.clock = new ServerClock(view.clock.serverNow, arrival());
    this.journal = new Journal(view.attemptId);
    this.#confirmed = view.confirmed;
    this.#sentHere = view.here;
    for (const record of view.answers) {
      this.#entries.set(record.slot, record);
      this.#onServer.set(record.slot, record);
      this.#arrivals.note(record);
    }
    this.#sender = new Sender({
      post: (entries, keepalive) => this.#post(entries, keepalive),
      onReceipt: (receipt) => this.#receive(receipt),
      onState: (sending) => this.#sendingIs(sending),
      onOver: () => void this.#isOver(),
      onRefused: (entries) => this.#refused(entries),
    });
    this.files = new FileQueue({
      attemptId: view.attemptId,
      onChange: (files) => this.#set({ files }),
      onArrived: (file) => this.#fileArrived(file),
    });
    this.#state = initialState(view, this.#entries);
  }

  /** Takes up work in the browser: the journal, the start of the clock, and the listening. Answers how to stop. */
  open(): () => void {
    // A page that this device had kept brings the time at which it was made; the device's own clock carries it on.
    if (wasKept()) this.clock.resume(Date.now() + keptOffset());
    void this.#recover().then(() => this.files.open());
    this.#listen();
    if (!this.view.confirmed && !wasKept()) void this.#confirm();
    else void this.measure();
    this.#pulseTimer = setInterval(() => {
      void this.measure();
      if (this.#events?.readyState === EventSource.CLOSED) this.#listen();
    }, PULSE);
    keepDesk(this.view.attemptId);
    const hidden = () => {
      if (document.visibilityState === "hidden") this.leave();
      else void this.measure();
    };
    const online = () => {
      this.#isBack();
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
      this.commitTyping();
      clearInterval(this.#pulseTimer);
      clearInterval(this.#endTimer);
      document.removeEventListener("visibilitychange", hidden);
      removeEventListener("pagehide", leave);
      removeEventListener("pageshow", online);
      removeEventListener("online", online);
      this.#channel?.close();
      this.#events?.close();
      this.#handIn?.stop();
      this.files.stop();
      this.#sender.stop();
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };

  readonly state = (): DeskState => this.#state;

  #set(change: Partial<DeskState>): void {
    if (change.here !== undefined && change.here !== this.#state.here)
      noteHere(this.view.attemptId, change.here);
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

  layRibbon(slot: number): void {
    this.#change(slot, { ribbon: !this.#slot(slot).ribbon });
    this.#commit(slot, 0);
  }

  ruleOut(slot: number, option: string): void {
    const { ruledOut } = this.#slot(slot);
    const without = ruledOut.filter((each) => each !== option);
    this.#change(slot, { ruledOut: without.length < ruledOut.length ? without : [...ruledOut, option] });
    this.#commit(slot, 0);
  }

  /** A single key changes an answer: what changed is said, with a way back. */
  byKey(slot: number, letter: string, change: () => void): void {
    const before = this.#slot(slot).answer;
    const had = JSON.stringify(before);
    change();
    const { question, answer } = this.#slot(slot);
    if (!question || JSON.stringify(answer) === had) return;
    const words = say(summaryOf(question, answer));
    const what =
      words === ""
        ? t("desk.desk-store.it-is-empty-now")
        : t("desk.desk-store.picked", { words: words.length > 60 ? `${words.slice(0, 60)} …` : words });
    this.#setSlot(slot, {
      ...this.#slot(slot),
      keyed: { words: t("desk.desk-store.by-key", { letter, what }), before },
    });
  }

  undoKey(slot: number): void {
    const { keyed } = this.#slot(slot);
    if (keyed) this.choose(slot, keyed.before);
  }

  /** Takes the other one of two answers: what another device replaced, or what it wrote. The two change places. */
  takeOther(slot: number): void {
    const { elsewhere } = this.#slot(slot);
    if (!elsewhere || elsewhere.state === "waits") return;
    this.choose(slot, elsewhere.other);
    this.keepThis(slot);
  }

  /** What stands here is what shall stand: nothing more is said of the other. */
  keepThis(slot: number): void {
    this.#setSlot(slot, { ...this.#slot(slot), elsewhere: null });
  }

  /** A text field of this slot has the focus, or none has: what another device wrote waits so long. */
  writesIn(slot: number | null): void {
    if (slot === this.#writingIn) return;
    this.#writingIn = slot;
    for (const each of this.#arrivals.waiting) {
      if (each !== slot) this.#showWaiting(each);
    }
  }

  #showWaiting(slot: number): void {
    if (this.#typing.has(slot)) this.#commit(slot, 0);
    const entry = this.#arrivals.release(slot);
    if (entry) this.#show(entry);
  }

  forgetProblem(): void {
    this.#set({ problem: null });
  }

  forgetExtended(): void {
    this.#set({ extended: false });
  }

  forgetElsewhere(): void {
    this.#isElsewherePutAway = true;
    this.#set({ isOpenElsewhere: false });
  }

  /** Goes to a question: at once, by turning a page on the server, or not at all, which is said. */
  go(slot: number): void {
    if (slot < 1 || slot > this.#state.slots.length || this.#state.busy) return;
    this.commitTyping();
    this.#forgetClosedRefusals();
    const going = goingTo(this.#state, this.view.order, slot);
    if (going.kind === "here") {
      this.#set({ here: slot, look: "question", problem: null });
    } else if (going.kind === "not") this.#set({ problem: going.words });
    else if (going.words !== null) this.#set({ asking: { ...going, words: going.words }, problem: null });
    else void this.turn(going);
  }

  /** The slot that is on the screen became another one by scrolling or by the focus: noted, nothing moves. */
  at(slot: number): void {
    if (slot !== this.#state.here) this.#set({ here: slot });
  }

  /** On to the final look; where each question is told once it is left, the last one is told first. */
  finish(): void {
    if (this.#state.busy) return;
    this.commitTyping();
    const going = finishing(this.#state, this.view.order);
    if (going.kind !== "turn") this.look("final");
    else if (going.words !== null) this.#set({ asking: { ...going, words: going.words }, problem: null });
    else void this.turn(going);
  }

  stay(): void {
    this.#set({ asking: null });
  }

  /** Turns a page on the server: what is left is closed or told, what comes is sent. */
  async turn({ from, to }: Pick<Turn, "from" | "to">): Promise<void> {
    this.#set({ busy: "turning", problem: null });
    try {
      await this.saveNow();
      if (!this.#sender.isDone) throw new TypeError("unsaved");
      const pages = await ask<DeskPages>(`/api/attempts/${this.view.attemptId}/move`, {
        body: { from, to, device: this.#device },
        limit: 10_000,
      });
      this.#turns = null;
      const left = this.view.order.pages[from] ?? [];
      this.#adoptPages(pages, left);
      const wasTold = this.view.order.tellAtOnce && left.some((slot) => this.#slot(slot).told !== null);
      const next = this.view.order.pages[to]?.[0] ?? this.#state.here;
      this.#set({ busy: null, asking: null, look: "question", ...(wasTold ? {} : { here: next }) });
    } catch (error) {
      this.#set({ busy: null, asking: null, problem: refusalOr(error, say(NEEDS_CONNECTION)) });
      if (error instanceof Refusal && error.type === "closed") void this.#refetchPages();
    }
  }

  /** Checks the answer to a question, or one part of it by its place, where the quiz allows tries. */
  async check(slot: number, part: number | null = null): Promise<void> {
    if (this.#state.busy) return;
    this.#set({ busy: "checking", problem: null });
    try {
      await this.saveNow();
      if (!this.#sender.isDone) throw new TypeError("unsaved");
      const tries = await ask<TriedPart[]>(`/api/attempts/${this.view.attemptId}/check`, {
        body: { slot, ...(part === null ? {} : { part }), device: this.#device },
        limit: 10_000,
      });
      this.#turns = null;
      const isDone = tries.every((part) => part.closed);
      this.#setSlot(slot, { ...this.#slot(slot), tries, ...(isDone && { standing: "closed" as const }) });
      this.#set({ busy: null });
    } catch (error) {
      this.#set({ busy: null, problem: refusalOr(error, say(NEEDS_CONNECTION)) });
    }
  }

  look(look: DeskState["look"]): void {
    this.commitTyping();
    this.#set({ look, problem: null });
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

  /** Save was pressed: it answers also when there is nothing to send, by asking the server whether it is there. */
  async saveAsked(): Promise<void> {
    this.commitTyping();
    const isDone = this.#sender.isDone;
    await this.#sender.send();
    if (!isDone || !this.#isAllSaved) return;
    try {
      this.#receive(await this.#post([], false));
    } catch (error) {
      if (error instanceof Refusal && error.type === "handed-in") void this.#isOver();
      else if (error instanceof Refusal && error.status === 401) this.#sendingIs({ kind: "signed-out" });
      else this.#sendingIs({ kind: "unreachable" });
    }
  }

  /** The page is being hidden or left: everything goes out now. */
  leave(): void {
    this.commitTyping();
    const { here } = this.#state;
    noteHere(this.view.attemptId, here);
    if (!this.#sender.isDone) void this.#sender.send({ keepalive: true });
    else if (here !== this.#sentHere) void this.#post([], true).catch(() => {});
  }

  /**
   * Hands in, once everything is on the server. Without a connection it waits, visibly, and goes by itself; the journal
   * notes when it was pressed.
   */
  async handIn(pressedAt: Instant = Math.floor(this.clock.now())): Promise<void> {
    if (this.#state.phase.kind !== "running") return;
    this.#happens({ type: "hand-in-pressed", at: pressedAt });
    this.#set({ problem: null });
    void this.journal.noteHandIn(pressedAt);
    this.#handIn = new WaitingHandIn({
      attempt: () => this.#handInNow(pressedAt),
      onWaits: () => this.#happens({ type: "hand-in-waits" }),
      onRefused: (sentence) => {
        this.keepWorking();
        this.#set({ problem: sentence });
      },
    });
    await this.#handIn.try();
  }

  async #handInNow(pressedAt: Instant): Promise<void> {
    await this.saveNow();
    if (!isWritable(this.#state.phase)) return;
    if (!this.#sender.isDone || !this.files.isDone) throw new TypeError("unsaved");
    try {
      const { slip } = await ask<{ slip: string }>(`/api/attempts/${this.view.attemptId}/hand-in`, {
        body: { pressedAt, seen: this.#seen() },
        limit: 15_000,
      });
      await this.#finish(slip);
    } catch (error) {
      if (error instanceof Refusal && error.type === "changed-elsewhere") await this.catchUp();
      throw error;
    }
  }

  /** What this desk has of what the server holds, for the questions that are open here. */
  #seen(): { readonly slot: number; readonly device: string | null; readonly revision: number | null }[] {
    return this.#state.slots.flatMap((record, i) => {
      if (!record.question || record.standing !== "open") return [];
      const head = this.#onServer.get(i + 1);
      return [{ slot: i + 1, device: head?.device ?? null, revision: head?.revision ?? null }];
    });
  }

  /**
   * Saves what is here and brings what the server has: what is looked over then is what would be handed in. Without a
   * connection it stays as it is.
   */
  async catchUp(): Promise<void> {
    const caughtUp = this.saveNow()
      .then(() => this.measure())
      .then(() => this.#fetching);
    await Promise.race([caughtUp, new Promise((next) => setTimeout(next, CATCHES_UP))]);
  }

  /** Takes the pressing of a hand-in back, while it still waits. */
  keepWorking(): void {
    this.#forgetHandIn();
    this.#happens({ type: "hand-in-given-up" });
  }

  #forgetHandIn(): void {
    this.#handIn?.stop();
    this.#handIn = null;
    void this.journal.forgetHandIn();
  }

  /**
   * Something happened that the phase depends on. What is still being typed goes into the journal before a phase in which
   * nothing can be written, and what waits goes out after one.
   */
  #happens(event: PhaseEvent): void {
    const before = this.#state.phase;
    const phase = phaseAfter(before, event);
    if (phase === before) return;
    if (!isWritable(phase)) this.commitTyping();
    this.#set({ phase, ...(isWritable(phase) ? {} : { asking: null }) });
    if (phase.kind === "time-up") {
      this.#forgetHandIn();
      this.#endTimer ??= setInterval(() => void this.measure(), SECOND);
      return;
    }
    clearInterval(this.#endTimer);
    this.#endTimer = undefined;
    if (before.kind === "time-up" && phase.kind === "running") this.#sender.reopen();
  }

  /** Signs in again without leaving the desk. @throws Refusal with a sentence. */
  async signInAgain(password: string): Promise<void> {
    await ask("/api/sign-in", { body: { email: this.view.email, password } });
    this.#set({ sending: { kind: "idle" }, unreachableSince: null });
    await this.#sender.send();
    await this.measure();
    void this.#handIn?.try();
  }

  dismissNotice(id: string): void {
    this.#dismissed.add(id);
    this.#set({ notices: this.#state.notices.filter((notice) => notice.id !== id) });
  }

  /** The clock has reached zero: everything still unsent goes out, and the server hands in. */
  async timeIsUp(): Promise<void> {
    const { deadline } = this.#state;
    if (deadline === null || !isWritable(this.#state.phase)) return;
    this.#happens({ type: "end-reached", deadline });
    await this.#sender.send();
  }

  /** Asks the server how the attempt stands, and measures its clock by the way. */
  async measure(): Promise<void> {
    try {
      const sentAt = performance.now();
      const pulse = await ask<AttemptPulse>(`/api/attempts/${this.view.attemptId}`, { limit: 8_000 });
      this.#pulse(pulse, sentAt);
      if (this.#state.unreachableSince !== null && this.#sender.isDone) this.#set({ unreachableSince: null });
      if (this.#state.sending.kind !== "idle" && !this.#sender.isDone) await this.#sender.send();
    } catch (error) {
      // A lost connection is told by the sender, as soon as there is something to send.
      if (error instanceof Refusal && error.status === 401) this.#set({ sending: { kind: "signed-out" } });
    }
  }

  /** A file of an upload question joins its answer; pictures of an essay are put in by the editor. */
  #fileArrived(file: PendingFile): void {
    const slot = this.#state.slots[file.slot - 1];
    if (slot?.question?.kind !== "upload") return;
    const before = slot.answer && "files" in slot.answer ? slot.answer : { files: [], text: "" };
    this.files.forget(file.id);
    if (before.files.some(({ id }) => id === file.id)) return;
    const { id, name, size } = file;
    this.choose(file.slot, { ...before, files: [...before.files, { id, name, size }] });
  }

  // What comes from the journal, the server and other pages.

  async #recover(): Promise<void> {
    const kept = await this.journal.read();
    const before = new Map(this.#entries);
    for (const entry of kept) this.#arrivals.note(entry);
    // Also what is acknowledged: a kept page may be older than it.
    const newest = mergeEntries([...this.#entries.values()], kept);
    for (const [slot, entry] of newest) if (this.#state.slots[slot - 1]) this.#entries.set(slot, entry);
    for (const { attemptId: _, acknowledged, ...entry } of kept) {
      // Also those that another device has overtaken: the server keeps them in its log.
      if (!acknowledged && this.#state.slots[entry.slot - 1]?.standing === "open") this.#sender.add(entry, 0);
    }
    this.#set({
      slots: this.#state.slots.map((slot, i) => {
        const entry = this.#entries.get(i + 1);
        if (!slot.question || this.#typing.has(i + 1)) return slot;
        return slotAgain(slot, standingOf(slot), entry, !this.#sender.isWaiting(i + 1), slot.question);
      }),
      keepsOnDevice: this.journal.keeps ?? true,
      allSaved: this.#isAllSaved,
    });
    this.#tellOfRecovered(kept, before);
    // The same question as before a reload, also where the server has not heard of it yet.
    const here = notedHere(this.view.attemptId);
    if (here !== null && here !== this.#state.here && this.#state.slots[here - 1]?.standing === "open") {
      this.#set({ here });
    }
    const pressedAt = await this.journal.handInPressed();
    if (pressedAt !== null) void this.handIn(pressedAt);
  }

  /**
   * Nothing changes places without a word: what another device wrote later than what was left on this one, and what was
   * left on this one and is later than what another device wrote.
   */
  #tellOfRecovered(
    kept: readonly (JournalEntry & { readonly acknowledged: boolean })[],
    before: ReadonlyMap<number, JournalEntry>,
  ): void {
    const ours = new Set(kept.map(({ device }) => device));
    for (const entry of kept) {
      const stands = this.#entries.get(entry.slot);
      const was = before.get(entry.slot);
      if (!stands || entry.acknowledged || this.#state.slots[entry.slot - 1]?.standing !== "open") continue;
      if (stands === was && !ours.has(stands.device)) this.#tellElsewhere(entry, stands.writtenAt, "shown");
      else if (stands === entry && was && !ours.has(was.device))
        this.#tellElsewhere(was, was.writtenAt, "passed");
    }
  }

  /** Says what another device did, where the two answers differ. @param other the entry that does not stand here. */
  #tellElsewhere(other: JournalEntry, at: Instant, state: Elsewhere["state"]): void {
    const slot = this.#slot(other.slot);
    if (!slot.question) return;
    const reading = readAnswer(slot.question, other.answer);
    const answer = reading.ok ? reading.answer : null;
    if (JSON.stringify(answer) === JSON.stringify(slot.answer)) return;
    const words = say(summaryOf(slot.question, answer));
    this.#setSlot(other.slot, { ...slot, elsewhere: { at, state, other: answer, words } });
  }

  /** Hears at once when something changes that another did; asking goes on beside it. */
  #listen(): void {
    if (typeof EventSource === "undefined") return;
    this.#events = new EventSource(`/api/attempts/${this.view.attemptId}/events?device=${this.#device}`);
    let isFirst = true;
    this.#events.onopen = () => {
      this.#isBack();
      // What happened while nothing was heard. At first the page has just come, with all there is.
      if (!isFirst || this.view.confirmed) void this.measure();
      isFirst = false;
    };
    this.#events.onmessage = ({ data }) => this.#take(JSON.parse(data) as AttemptPulse);
  }

  /** The server can be reached, perhaps again: what waits goes now and not after its pause. */
  #isBack(): void {
    void this.#sender.send();
    this.files.retry();
    void this.#handIn?.try();
  }

  async #confirm(): Promise<void> {
    for (let tries = 0; tries < 5; tries += 1) {
      try {
        const sentAt = performance.now();
        const path = `/api/attempts/${this.view.attemptId}/begin`;
        const pulse = await ask<AttemptPulse & { startedAt: Instant }>(path, { body: {}, limit: 5_000 });
        this.#set({ startedAt: pulse.startedAt, isClockSure: true });
        this.#pulse(pulse, sentAt);
        this.#confirmed = true;
        return;
      } catch (error) {
        if (error instanceof Refusal) return;
        await new Promise((next) => setTimeout(next, SECOND));
      }
    }
  }

  #pulse(pulse: AttemptPulse, sentAt: number): void {
    this.clock.measured(pulse.serverNow, sentAt, performance.now());
    noteOffset(this.clock.now() - Date.now());
    this.#take(pulse);
  }

  /** Takes in how the attempt stands, whoever changed it; what was asked earlier and came later is old. */
  #take(pulse: AttemptPulse): void {
    const behind = this.#takenAt - pulse.serverNow;
    if (behind > 0 && behind < OVERTAKEN && pulse.handedInAt === null) return;
    this.#takenAt = pulse.serverNow;
    const { deadline } = this.#state;
    if (pulse.deadline !== deadline) {
      // The start moves it too; only what comes after that is an extension.
      const extended = deadline !== null && pulse.deadline !== null && pulse.deadline > deadline + SECOND;
      this.#set({ deadline: pulse.deadline, ...(extended && this.#confirmed ? { extended } : {}) });
    }
    if (pulse.notices) {
      const unread = pulse.notices.filter(({ id }) => !this.#dismissed.has(id));
      if (unread.length !== this.#state.notices.length) this.#set({ notices: unread });
    }
    if (pulse.page > this.#state.page && this.#state.busy !== "turning") void this.#refetchPages();
    else if (pulse.traces) this.#takeTraces(pulse.traces);
    if (pulse.handedInAt !== null) void this.#finish(`/attempts/${this.view.attemptId}/slip`);
    else
      this.#happens({
        type: "told",
        now: pulse.serverNow,
        deadline: pulse.deadline,
        handedIn: false,
      });
  }

  /** Fetches what other desks of the attempt changed, and notes whether there are any. */
  #takeTraces({ answers, turns, desks }: AttemptTraces): void {
    const isNews = (head: AnswerHead) =>
      this.#state.slots[head.slot - 1]?.question != null &&
      head.device !== this.#device &&
      !this.#arrivals.isKnown(head);
    // What another window of this browser saved came by another way: now the server has it.
    for (const head of answers) {
      const held = this.#entries.get(head.slot);
      if (held?.device === head.device && held.revision === head.revision)
        this.#onServer.set(head.slot, head);
    }
    const turned = this.#turns !== null && turns !== this.#turns && this.#state.busy === null;
    this.#turns = turns;
    if (turned || answers.some(isNews)) void this.#refetchPages();
    if (desks < 2) this.#isElsewherePutAway = false;
    const isOpenElsewhere = desks > 1 && !this.#isElsewherePutAway;
    if (isOpenElsewhere !== this.#state.isOpenElsewhere) this.#set({ isOpenElsewhere });
  }

  async #isOver(): Promise<void> {
    this.#happens({ type: "save-found-it-over" });
    await this.measure();
  }

  /** The attempt is handed in: the slip takes the desk's place, and the way back leads not to a dead desk. */
  async #finish(slip: string): Promise<void> {
    if (this.#state.phase.kind === "over") return;
    this.#happens({ type: "handed-in" });
    this.#sender.stop();
    this.#events?.close();
    await this.journal.forgetAcknowledged().catch(() => {});
    await forgetKeptDesk(this.view.attemptId);
    location.replace(slip);
  }

  #post(entries: readonly JournalEntry[], keepalive: boolean): Promise<SaveReceipt> {
    const sentAt = performance.now();
    const { here } = this.#state;
    const body = { here, entries };
    return ask<SaveReceipt>(`/api/attempts/${this.view.attemptId}/save`, {
      body,
      keepalive,
      limit: 10_000,
    }).then((receipt) => {
      this.#sentHere = here;
      this.#pulse(receipt, sentAt);
      return receipt;
    });
  }

  #receive(receipt: SaveReceipt): void {
    for (const head of receipt.saved) {
      void this.journal.acknowledge(head.slot, head.device, head.revision);
      this.#onServer.set(head.slot, { ...head, writtenAt: receipt.serverNow });
    }
    for (const newer of receipt.newer) {
      this.#onServer.set(newer.slot, newer);
      this.#adopt(newer);
    }
    const saved = new Set(receipt.saved.map(({ slot }) => slot));
    this.#set({
      refusals: this.#state.refusals.filter(({ slot }) => !saved.has(slot)),
      slots: this.#state.slots.map((slot, i) => ({
        ...slot,
        saved: !this.#sender.isWaiting(i + 1) && !this.#typing.has(i + 1),
      })),
      allSaved: this.#isAllSaved,
      savedAt: this.#isAllSaved ? this.clock.now() : this.#state.savedAt,
      unreachableSince: null,
    });
  }

  /**
   * The server will not take some entries. What it closed is shown closed; a number that was given to something else before
   * is given up, and what stands here goes under another. All of it stays on this device.
   */
  #refused(entries: readonly RefusedEntry[]): void {
    const taken = entries.filter(({ type }) => type === "number-taken");
    const others = entries.filter((each) => !taken.includes(each));
    const slots = new Set(others.map(({ slot }) => slot));
    this.#set({
      allSaved: false,
      refusals: [
        ...this.#state.refusals.filter(({ slot }) => !slots.has(slot)),
        ...others.map(({ slot, sentence }) => ({ slot, sentence: say(sentence) })),
      ],
    });
    for (const { slot } of taken) this.#commit(slot, 0);
    if (others.some(({ type }) => type === "closed")) void this.#refetchPages();
  }

  /** Of a question that is closed nothing can be done any more: going on, it need not be said for ever. */
  #forgetClosedRefusals(): void {
    const open = this.#state.refusals.filter(({ slot }) => this.#state.slots[slot - 1]?.standing === "open");
    if (open.length < this.#state.refusals.length) this.#set({ refusals: open });
  }

  /** Brings what the server has; asked again while it is on its way, it goes once more afterwards. */
  #refetchPages(): Promise<void> {
    const next = (this.#fetching ?? Promise.resolve()).then(() => this.#fetchPages());
    this.#fetching = next;
    void next.finally(() => {
      if (this.#fetching === next) this.#fetching = null;
    });
    return next;
  }

  async #fetchPages(): Promise<void> {
    try {
      this.#adoptPages(await ask<DeskPages>(`/api/attempts/${this.view.attemptId}/pages`, { limit: 8_000 }));
      if (this.#state.slots[this.#state.here - 1]?.question) return;
      const [open = this.#state.here] = this.view.order.pages[this.#state.page] ?? [];
      this.#set({ here: open, look: "question" });
    } catch {
      // The next pulse says again that the page was turned.
    }
  }

  #adoptPages(pages: DeskPages, justLeft: readonly number[] = []): void {
    // What is typed at this moment is in the journal before anything takes its place, or closes its question.
    this.commitTyping();
    for (const entry of pages.answers) {
      this.#onServer.set(entry.slot, entry);
      if (this.#state.slots[entry.slot - 1]?.question) this.#adopt(entry);
      else if (!this.#entries.has(entry.slot)) {
        this.#entries.set(entry.slot, entry);
        this.#arrivals.note(entry);
      }
    }
    this.#state = withPages(
      this.#state,
      pages,
      this.#entries,
      (slot) => !this.#sender.isWaiting(slot),
      justLeft,
    );
    this.#set({});
    keepDesk(this.view.attemptId, true);
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

  /** Takes in what another device, window or earlier page wrote: shown, or told, but never in silence. */
  #adopt(entry: JournalEntry): void {
    // What is being typed here is later than anything that comes from elsewhere.
    if (this.#typing.has(entry.slot)) this.#commit(entry.slot, 0);
    const { question, answer } = this.#slot(entry.slot);
    if (!question) return;
    const reading = readAnswer(question, entry.answer);
    const isOther = JSON.stringify(reading.ok ? reading.answer : null) !== JSON.stringify(answer);
    const arrival = this.#arrivals.take(
      entry,
      this.#entries.get(entry.slot),
      isOther && this.#writingIn === entry.slot,
    );
    if (arrival === "shown") this.#show(entry);
    else if (arrival !== "known") this.#tellElsewhere(entry, entry.writtenAt, arrival);
  }

  /** What another wrote takes the place of what stands here, which is said and can be taken back. */
  #show(entry: JournalEntry): void {
    const slot = this.#slot(entry.slot);
    const before = this.#entries.get(entry.slot) ?? { ...entry, answer: null };
    this.#entries.set(entry.slot, entry);
    const saved = !this.#sender.isWaiting(entry.slot);
    this.#setSlot(entry.slot, slotAgain(slot, standingOf(slot), entry, saved, slot.question));
    this.#tellElsewhere(before, entry.writtenAt, "shown");
  }

  /** Nothing waits for the server, and nothing is being typed that is not in the journal yet. */
  get #isAllSaved(): boolean {
    return this.#sender.isDone && this.#typing.size === 0 && this.#state.refusals.length === 0;
  }

  /** Says whether this device keeps what is written; once there is room again, what it could not keep follows. */
  #keeps(): void {
    const keeps = this.journal.keeps ?? true;
    if (keeps === this.#state.keepsOnDevice) return;
    this.#set({ keepsOnDevice: keeps });
    if (!keeps) return;
    for (const entry of this.#entries.values()) {
      if (this.#sender.isWaiting(entry.slot)) void this.journal.write(entry).then(() => this.#keeps());
    }
  }

  // The slots.

  #slot(slot: number): SlotState {
    const found = this.#state.slots[slot - 1];
    if (!found) throw new Error(`There is no slot ${slot}.`);
    return found;
  }

  #setSlot(slot: number, next: SlotState): void {
    this.#set({ slots: this.#state.slots.map((each, i) => (i === slot - 1 ? next : each)) });
  }

  #change(slot: number, change: Partial<Pick<SlotState, "answer" | "ribbon" | "ruledOut">>): void {
    if (!this.#mayChange(slot)) return;
    const before = this.#slot(slot);
    const keyed = "answer" in change ? null : before.keyed;
    const changed = { ...before, ...change, saved: false, keyed };
    this.#setSlot(slot, {
      ...changed,
      fill: changed.question ? fillOf(changed.question, changed.answer) : changed.fill,
    });
    // What could not be done before may be possible now: it is not said any more.
    this.#set({ allSaved: false, problem: null });
  }

  #mayChange(slot: number): boolean {
    const { phase, slots } = this.#state;
    return isWritable(phase) && slots[slot - 1]?.standing === "open";
  }

  #commit(slot: number, delay: number): void {
    clearTimeout(this.#typing.get(slot));
    this.#typing.delete(slot);
    if (!this.#mayChange(slot)) return;
    const { answer, ribbon, ruledOut } = this.#slot(slot);
    // One page never writes two entries with the same time, nor one before another.
    this.#lastWritten = Math.max(this.#lastWritten + 1, Math.floor(this.clock.now()));
    this.#revision += 1;
    const entry: JournalEntry = {
      slot,
      answer,
      ribbon,
      ruledOut,
      revision: this.#revision,
      device: this.#device,
      writtenAt: this.#lastWritten,
    };
    this.#arrivals.note(entry);
    const waited = this.#arrivals.release(slot);
    this.#entries.set(slot, entry);
    if (waited) this.#tellElsewhere(waited, waited.writtenAt, "passed");
    void this.journal.write(entry).then(() => this.#keeps());
    this.#channel?.postMessage(entry);
    this.#sender.add(entry, delay);
    if (this.#state.allSaved) this.#set({ allSaved: false });
  }
}

/** What the server said of a slot, again. */
const standingOf = (slot: SlotState) => ({
  state: slot.standing,
  question: slot.question,
  fill: slot.fill,
  told: slot.told,
  tries: slot.tries,
  isDeclaration: slot.isDeclaration,
});

/** The monotonic moment at which the page's first bytes came, which is when the server made it. */
function arrival(): number {
  if (typeof performance === "undefined" || typeof document === "undefined") return 0;
  const [navigation] = performance.getEntriesByType("navigation");
  return navigation instanceof PerformanceNavigationTiming ? navigation.responseStart : performance.now();
}
