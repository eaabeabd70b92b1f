import { SECOND } from "@/core/time/instants";
import { Refusal } from "@/ui/requests";

const LONGEST_PAUSE = 10 * SECOND;

interface WaitingTerms {
  /** Saves everything and hands in. Resolves when it is done. @throws when it could not be done now. */
  readonly attempt: () => Promise<void>;
  /** It could not go now and is tried again by itself. */
  readonly onWaits: () => void;
  /** The server will not do it; its sentence. */
  readonly onRefused: (sentence: string) => void;
}

/** A hand-in that was pressed: tried until it is through, or until its student takes the pressing back. */
export class WaitingHandIn {
  #timer: ReturnType<typeof setTimeout> | undefined;
  #failures = 0;
  #stopped = false;
  #trying: Promise<void> | null = null;

  constructor(private readonly terms: WaitingTerms) {}

  /** Tries now; while one try is under way, that one is answered. */
  try(): Promise<void> {
    this.#trying ??= this.#once().finally(() => {
      this.#trying = null;
    });
    return this.#trying;
  }

  async #once(): Promise<void> {
    clearTimeout(this.#timer);
    if (this.#stopped) return;
    try {
      await this.terms.attempt();
      this.#stopped = true;
    } catch (error) {
      if (this.#stopped) return;
      // An ended session waits as well: after signing in again it goes by itself.
      const isFinal = error instanceof Refusal && error.status < 500 && error.status !== 401;
      if (isFinal) {
        this.#stopped = true;
        this.terms.onRefused(error.message);
        return;
      }
      this.terms.onWaits();
      this.#failures += 1;
      this.#timer = setTimeout(
        () => void this.try(),
        Math.min(LONGEST_PAUSE, SECOND * 1.6 ** this.#failures),
      );
    }
  }

  stop(): void {
    this.#stopped = true;
    clearTimeout(this.#timer);
  }
}
