import type { AttemptPulse, AttemptTraces } from "@/core/desk/desk-view";
import { type Instant, SECOND } from "@/core/time/instants";
import { ask, Refusal } from "@/ui/requests";
import type { ServerClock } from "../keeping/server-clock";
import type { DeskKeeping } from "./answers";
import type { DeskScreen } from "./desk-screen";
import type { HandingIn } from "./handing-in";
import { noteOffset } from "./offline-desk";
import type { Turning } from "./turning";

/** So often the server is asked how the attempt stands, whatever is heard. */
const PULSE = 20 * SECOND;
/** No answer is on its way for longer; a server's time further behind means that its clock was set. */
const OVERTAKEN = 15 * SECOND;
const CONFIRMS = 5;

/** How the attempt stands on the server: asked for, heard of, and taken in; with it the server's time. */
export class ServerLink {
  #events: EventSource | null = null;
  #timer: ReturnType<typeof setInterval> | undefined;
  #confirmed: boolean;
  /** The server's time of the newest word of how the attempt stands. */
  #takenAt: Instant = 0;
  readonly #dismissed = new Set<string>();
  #isElsewherePutAway = false;

  constructor(
    private readonly screen: DeskScreen,
    private readonly clock: ServerClock,
    private readonly keeping: DeskKeeping,
    private readonly turning: Turning,
    private readonly handingIn: HandingIn,
    private readonly terms: { readonly onBack: () => void },
  ) {
    this.#confirmed = screen.view.confirmed;
  }

  /** Begins to listen and to ask. @param confirms whether the start of the clock is to be confirmed */
  open(confirms: boolean): void {
    this.#listen();
    if (confirms) void this.#confirm();
    else void this.measure();
    this.#timer = setInterval(() => {
      void this.measure();
      if (this.#events?.readyState === EventSource.CLOSED) this.#listen();
    }, PULSE);
  }

  close(): void {
    clearInterval(this.#timer);
    this.stopListening();
  }

  stopListening(): void {
    this.#events?.close();
  }

  /** Hears at once when something changes that another did; asking goes on beside it. */
  #listen(): void {
    if (typeof EventSource === "undefined") return;
    const { attemptId, confirmed } = this.screen.view;
    this.#events = new EventSource(`/api/attempts/${attemptId}/events?device=${this.keeping.device}`);
    let isFirst = true;
    this.#events.onopen = () => {
      this.terms.onBack();
      // What happened while nothing was heard. At first the page has just come, with all there is.
      if (!isFirst || confirmed) void this.measure();
      isFirst = false;
    };
    this.#events.onmessage = ({ data }) => this.#take(JSON.parse(data) as AttemptPulse);
  }

  async #confirm(): Promise<void> {
    for (let tries = 0; tries < CONFIRMS; tries += 1) {
      try {
        const sentAt = performance.now();
        const path = `/api/attempts/${this.screen.view.attemptId}/begin`;
        const pulse = await ask<AttemptPulse & { startedAt: Instant }>(path, { body: {}, limit: 5_000 });
        this.screen.set({ startedAt: pulse.startedAt, isClockSure: true });
        this.pulse(pulse, sentAt);
        this.#confirmed = true;
        return;
      } catch (error) {
        if (error instanceof Refusal) return;
        await new Promise((next) => setTimeout(next, SECOND));
      }
    }
  }

  /** Asks the server how the attempt stands, and measures its clock by the way. */
  async measure(): Promise<void> {
    try {
      const sentAt = performance.now();
      const path = `/api/attempts/${this.screen.view.attemptId}`;
      this.pulse(await ask<AttemptPulse>(path, { limit: 8_000 }), sentAt);
      if (this.screen.state().unreachableSince !== null && this.keeping.isSent)
        this.screen.set({ unreachableSince: null });
      if (this.screen.state().sending.kind !== "idle" && !this.keeping.isSent) await this.keeping.send();
    } catch (error) {
      // A lost connection is told by the sender, as soon as there is something to send.
      if (error instanceof Refusal && error.status === 401)
        this.screen.set({ sending: { kind: "signed-out" } });
    }
  }

  /** Takes in an answer of the server. @param sentAt when it was asked, monotonic, in ms */
  pulse(pulse: AttemptPulse, sentAt: number): void {
    this.clock.measured(pulse.serverNow, sentAt, performance.now());
    noteOffset(this.clock.now() - Date.now());
    this.#take(pulse);
  }

  /** Takes in how the attempt stands, whoever changed it; what was asked earlier and came later is old. */
  #take(pulse: AttemptPulse): void {
    const { serverNow, deadline, handedInAt, page, messages, traces } = pulse;
    const behind = this.#takenAt - serverNow;
    if (behind > 0 && behind < OVERTAKEN && handedInAt === null) return;
    this.#takenAt = serverNow;
    const before = this.screen.state();
    if (deadline !== before.deadline) {
      // The start moves it too; only what comes after that is the instructor's doing.
      const by = (deadline ?? Number.POSITIVE_INFINITY) - (before.deadline ?? Number.POSITIVE_INFINITY);
      const moved = by > SECOND ? "later" : by < -SECOND ? "earlier" : null;
      this.screen.set({ deadline, ...(moved !== null && this.#confirmed ? { moved } : {}) });
    }
    if (messages) {
      const unread = messages.filter(({ id }) => !this.#dismissed.has(id));
      if (unread.length !== this.screen.state().messages.length) this.screen.set({ messages: unread });
    }
    const { page: reached, busy } = this.screen.state();
    if (page > reached && busy !== "turning") void this.turning.refetch();
    else if (traces) this.#takeTraces(traces);
    if (handedInAt !== null) void this.handingIn.over(`/attempts/${this.screen.view.attemptId}/slip`);
    else this.handingIn.happens({ type: "told", now: serverNow, deadline, handedIn: false });
  }

  /** Fetches what other desks of the attempt changed, and notes whether there are any. */
  #takeTraces({ answers, turns, desks }: AttemptTraces): void {
    const lacks = this.keeping.lacksAny(answers);
    if (this.turning.turnedElsewhere(turns) || lacks) void this.turning.refetch();
    if (desks < 2) this.#isElsewherePutAway = false;
    const isOpenElsewhere = desks > 1 && !this.#isElsewherePutAway;
    if (isOpenElsewhere !== this.screen.state().isOpenElsewhere) this.screen.set({ isOpenElsewhere });
  }

  dismissMessage(id: string): void {
    this.#dismissed.add(id);
    this.screen.set({ messages: this.screen.state().messages.filter((message) => message.id !== id) });
  }

  forgetMoved(): void {
    this.screen.set({ moved: null });
  }

  forgetElsewhere(): void {
    this.#isElsewherePutAway = true;
    this.screen.set({ isOpenElsewhere: false });
  }
}
