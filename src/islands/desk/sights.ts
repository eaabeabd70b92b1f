import { type Instant, SECOND } from "@/core/time/instants";
import { ask } from "@/ui/requests";
import type { DeskScreen } from "./desk-screen";

/** What was seen first waits so long for more of it before it is told. */
const WAITS = 10 * SECOND;

/**
 * When each question was first on the screen: told now and then, for the figures of how questions behaved. It bears on nothing
 * of the attempt: what cannot be told is told later, or never.
 */
export class Sights {
  readonly #seen = new Set<number>();
  readonly #untold = new Map<number, Instant>();
  #timer: ReturnType<typeof setTimeout> | undefined;
  #stop: (() => void) | undefined;

  constructor(
    private readonly screen: DeskScreen,
    private readonly now: () => Instant,
  ) {}

  open(): void {
    this.#note();
    this.#stop = this.screen.subscribe(() => this.#note());
  }

  close(): void {
    this.#stop?.();
    void this.tell();
  }

  #note(): void {
    const { here } = this.screen.state();
    if (this.#seen.has(here)) return;
    this.#seen.add(here);
    this.#untold.set(here, Math.round(this.now()));
    this.#timer ??= setTimeout(() => void this.tell(), WAITS);
  }

  /** Tells what was not told yet, also while the page goes away. */
  async tell(): Promise<void> {
    clearTimeout(this.#timer);
    this.#timer = undefined;
    const sights = [...this.#untold].map(([slot, at]) => ({ slot, at }));
    if (sights.length === 0) return;
    try {
      await ask(`/api/attempts/${this.screen.view.attemptId}/sights`, { body: { sights }, keepalive: true });
      for (const { slot } of sights) this.#untold.delete(slot);
    } catch {
      // Told with the next one.
    }
  }
}
