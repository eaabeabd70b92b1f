import { inNeed, type Sitting } from "@/core/watch/watch-line";
import { ServerClock } from "../keeping/server-clock";

export interface WatchState {
  /** In the order in which they stand on the screen. */
  readonly sittings: readonly Sitting[];
  /** Who has not begun. */
  readonly expected: readonly { readonly personId: string; readonly name: string }[];
  /** By the server's clock. */
  readonly now: number;
  /** Since when nothing has been heard from the server; null: it is connected. */
  readonly lostAt: number | null;
}

interface News {
  readonly all: boolean;
  readonly at: number;
  readonly sittings: readonly Sitting[];
}

interface WatchTerms {
  readonly quizId: string;
  readonly sittings: readonly Sitting[];
  readonly expected: WatchState["expected"];
  readonly serverNow: number;
}

/** How everyone is, as the server tells it; what is being looked at keeps its place. */
export class WatchStore {
  readonly #listeners = new Set<() => void>();
  readonly #byId: Map<string, Sitting>;
  #order: string[];
  #state: WatchState;
  #held = false;
  #clock: ServerClock | null = null;

  constructor(readonly terms: WatchTerms) {
    this.#byId = new Map(terms.sittings.map((each) => [each.attemptId, each]));
    this.#order = [];
    this.#state = { sittings: [], expected: terms.expected, now: terms.serverNow, lostAt: null };
    this.#sort(terms.serverNow);
    this.#state = { ...this.#state, sittings: this.#listed() };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  };
  readonly state = (): WatchState => this.#state;

  #set(change: Partial<WatchState>): void {
    this.#state = { ...this.#state, ...change };
    for (const listener of this.#listeners) listener();
  }

  #listed = (): Sitting[] => this.#order.flatMap((id) => this.#byId.get(id) ?? []);

  #sort(now: number): void {
    const known = [...this.#byId.values()];
    this.#order = this.#held
      ? [...this.#order, ...known.map(({ attemptId }) => attemptId).filter((id) => !this.#order.includes(id))]
      : known.sort(inNeed(now)).map(({ attemptId }) => attemptId);
  }

  /** While somebody points at the list, or works in it, nothing in it changes its place. */
  hold(held: boolean): void {
    if (this.#held === held) return;
    this.#held = held;
    if (!held) this.#show();
  }

  #show(): void {
    const now = this.#clock?.now() ?? this.#state.now;
    this.#sort(now);
    const began = new Set([...this.#byId.values()].map(({ personId }) => personId));
    this.#set({
      sittings: this.#listed(),
      expected: this.#state.expected.filter(({ personId }) => !began.has(personId)),
      now,
    });
  }

  /** Listens to the server. Returns how to stop. */
  open(): () => void {
    this.#clock = new ServerClock(this.terms.serverNow, performance.now());
    const events = new EventSource(`/api/quizzes/${this.terms.quizId}/watch`);
    events.addEventListener("message", ({ data }) => {
      const news = JSON.parse(data) as News;
      if (news.all) this.#byId.clear();
      for (const each of news.sittings) this.#byId.set(each.attemptId, each);
      this.#state = { ...this.#state, lostAt: null };
      this.#show();
    });
    events.addEventListener("open", () => this.#set({ lostAt: null }));
    events.addEventListener("error", () => {
      if (this.#state.lostAt === null) this.#set({ lostAt: this.#clock?.now() ?? this.#state.now });
    });
    const tick = setInterval(() => this.#show(), 1_000);
    return () => {
      events.close();
      clearInterval(tick);
    };
  }
}
