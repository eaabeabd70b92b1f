import { type Instant, SECOND } from "@/core/time/instants";
import { ask, Refusal } from "@/ui/requests";
import type { DeskKeeping } from "./answers";
import { isWritable, type PhaseEvent, phaseAfter } from "./desk-phase";
import type { DeskScreen } from "./desk-screen";
import { forgetOfflineDesk } from "./offline-desk";
import type { Saving } from "./saving";
import { WaitingHandIn } from "./waiting-hand-in";

/** So long it is waited for what the server has before handing in is offered, in ms; handing in itself asks again. */
const CATCHES_UP = 2_500;

interface HandingInTerms {
  /** The server's time. */
  readonly now: () => Instant;
  /** The journal's note of a hand-in that was pressed. */
  readonly journal: {
    readonly noteHandIn: (pressedAt: number) => Promise<void>;
    readonly forgetHandIn: () => Promise<void>;
    readonly forgetAcknowledged: () => Promise<void>;
  };
  /** Whether every file has arrived. */
  readonly filesAreThere: () => boolean;
  /** Asks the server how the attempt stands. */
  readonly measure: () => Promise<void>;
  /** What is being fetched of the pages, if anything. */
  readonly fetching: () => Promise<void> | null;
  /** The attempt is over: nothing more is heard. */
  readonly onOver: () => void;
}

/** The end of the desk's life: handing in, time that is up, and what the server says of either. */
export class HandingIn {
  #waiting: WaitingHandIn | null = null;
  #endTimer: ReturnType<typeof setInterval> | undefined;

  constructor(
    private readonly screen: DeskScreen,
    private readonly keeping: DeskKeeping,
    private readonly saving: Saving,
    private readonly terms: HandingInTerms,
  ) {}

  /**
   * Hands in, once everything is on the server. Without a connection it waits, visibly, and goes by itself; the journal
   * notes when it was pressed.
   */
  async press(pressedAt: Instant = Math.floor(this.terms.now())): Promise<void> {
    if (this.screen.state().phase.kind !== "running") return;
    this.happens({ type: "hand-in-pressed", at: pressedAt });
    this.screen.set({ problem: null });
    void this.terms.journal.noteHandIn(pressedAt);
    this.#waiting = new WaitingHandIn({
      attempt: () => this.#handIn(pressedAt),
      onWaits: () => this.happens({ type: "hand-in-waits" }),
      onRefused: (sentence) => {
        this.keepWorking();
        this.screen.set({ problem: sentence });
      },
    });
    await this.#waiting.try();
  }

  /** The server can be reached, perhaps again. */
  tryAgain(): void {
    void this.#waiting?.try();
  }

  async #handIn(pressedAt: Instant): Promise<void> {
    await this.saving.now();
    if (!isWritable(this.screen.state().phase)) return;
    if (!this.keeping.isSent || !this.terms.filesAreThere()) throw new TypeError("unsaved");
    try {
      const { slip } = await ask<{ slip: string }>(`/api/attempts/${this.screen.view.attemptId}/hand-in`, {
        body: { pressedAt, seen: this.#seen() },
        limit: 15_000,
      });
      await this.over(slip);
    } catch (error) {
      if (error instanceof Refusal && error.type === "changed-elsewhere") await this.catchUp();
      throw error;
    }
  }

  /** What this desk has of what the server holds, for the questions that are open here. */
  #seen(): { readonly slot: number; readonly device: string | null; readonly revision: number | null }[] {
    return this.screen.state().slots.flatMap((record, i) => {
      if (!record.question || record.access !== "open") return [];
      const head = this.keeping.onServer(i + 1);
      return [{ slot: i + 1, device: head?.device ?? null, revision: head?.revision ?? null }];
    });
  }

  /**
   * Saves what is here and brings what the server has: what is looked over then is what would be handed in. Without a
   * connection it stays as it is.
   */
  async catchUp(): Promise<void> {
    const caughtUp = this.saving
      .now()
      .then(() => this.terms.measure())
      .then(() => this.terms.fetching());
    await Promise.race([caughtUp, new Promise((next) => setTimeout(next, CATCHES_UP))]);
  }

  /** Takes the pressing of a hand-in back, while it still waits. */
  keepWorking(): void {
    this.#forget();
    this.happens({ type: "hand-in-given-up" });
  }

  #forget(): void {
    this.#waiting?.stop();
    this.#waiting = null;
    void this.terms.journal.forgetHandIn();
  }

  /** The clock has reached zero: everything still unsent goes out, and the server hands in. */
  async timeIsUp(): Promise<void> {
    const { deadline, phase } = this.screen.state();
    if (deadline === null || !isWritable(phase)) return;
    this.happens({ type: "end-reached", deadline });
    await this.keeping.send();
  }

  /**
   * Something happened that the phase depends on. What is still being typed goes into the journal before a phase in which
   * nothing can be written, and what waits goes out after one.
   */
  happens(event: PhaseEvent): void {
    const before = this.screen.state().phase;
    const phase = phaseAfter(before, event);
    if (phase === before) return;
    if (!isWritable(phase)) this.keeping.writeTyped();
    this.screen.set({ phase, ...(isWritable(phase) ? {} : { asking: null }) });
    if (phase.kind === "time-up") {
      this.#forget();
      this.#endTimer ??= setInterval(() => void this.terms.measure(), SECOND);
      return;
    }
    this.#stopAsking();
    if (before.kind === "time-up" && phase.kind === "running") this.keeping.reopen();
  }

  #stopAsking(): void {
    clearInterval(this.#endTimer);
    this.#endTimer = undefined;
  }

  /** A save found that the attempt is over: the server is asked how it stands. */
  async foundOver(): Promise<void> {
    this.happens({ type: "save-found-it-over" });
    await this.terms.measure();
  }

  /** The attempt is handed in: the slip takes the desk's place, and the way back leads not to a dead desk. */
  async over(slip: string): Promise<void> {
    if (this.screen.state().phase.kind === "over") return;
    this.happens({ type: "handed-in" });
    this.keeping.stopSending();
    this.terms.onOver();
    await this.terms.journal.forgetAcknowledged().catch(() => {});
    await forgetOfflineDesk(this.screen.view.attemptId);
    location.replace(slip);
  }

  stop(): void {
    this.#stopAsking();
    this.#waiting?.stop();
  }
}
