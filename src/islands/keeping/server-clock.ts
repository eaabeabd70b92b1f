import type { Instant } from "@/core/time/instants";

/** A disagreement of the device's two clocks beyond this means that it slept or that its clock was set. */
const DRIFT = 800;
/** A measurement this much slower than the best one says little; it only replaces one that is old or broken. */
const WORTHWHILE = 1.5;
const OLD = 120_000;
/** Half a trip is the most by which a measurement can be wrong: beyond this the digits could be a second off. */
const ROUGH = 1_000;
/** A rough measurement is tried again after this long, and then after twice as long each time. */
const FIRST_AGAIN = 1_000;
const LONGEST_AGAIN = 16_000;

interface Timers {
  /** Milliseconds that only ever grow (performance.now). */
  readonly monotonic: () => number;
  /** The device's own clock, right or wrong (Date.now). */
  readonly wall: () => number;
}

/**
 * The server's time on the device: an offset measured against the server, carried on by the monotonic timer. The
 * device's own clock is used for one thing only: to notice that the monotonic timer stood still in sleep.
 */
export class ServerClock {
  #server: Instant;
  #mono: number;
  #wall: number;
  #trip: number;
  #suspect = false;
  #again = FIRST_AGAIN;
  #againAt = Number.POSITIVE_INFINITY;

  /** Starts with the time that the page was made with, at the monotonic moment of its arrival. */
  constructor(
    serverNow: Instant,
    arrivedAt: number,
    private readonly timers: Timers = { monotonic: () => performance.now(), wall: () => Date.now() },
  ) {
    this.#server = serverNow;
    this.#mono = arrivedAt;
    this.#wall = timers.wall() - (timers.monotonic() - arrivedAt);
    this.#trip = Number.POSITIVE_INFINITY;
  }

  now(): Instant {
    return this.#server + (this.timers.monotonic() - this.#mono);
  }

  /** Goes on from a time that is only nearly right, until the server can be asked. */
  resume(nearly: Instant): void {
    this.#server = nearly;
    this.#mono = this.timers.monotonic();
    this.#wall = this.timers.wall();
    this.#suspect = true;
  }

  /** Takes in an answer of the server: its time, and when the request left and the answer came, monotonic. */
  measured(serverNow: Instant, sentAt: number, receivedAt: number): void {
    const trip = receivedAt - sentAt;
    const age = receivedAt - this.#mono;
    if (!this.#suspect && trip > this.#trip * WORTHWHILE && age < OLD) return;
    this.#server = serverNow + trip / 2;
    this.#mono = receivedAt;
    this.#wall = this.timers.wall();
    this.#trip = trip;
    this.#suspect = false;
    if (trip <= ROUGH) {
      this.#again = FIRST_AGAIN;
      this.#againAt = Number.POSITIVE_INFINITY;
    } else if (this.#againAt === Number.POSITIVE_INFINITY) this.#againAt = receivedAt + this.#again;
  }

  /**
   * Whether the device slept or its clock was set since the last measurement, or that one was so slow that it says
   * little: then one is due at once.
   */
  needsMeasuring(): boolean {
    const byWall = this.timers.wall() - this.#wall;
    const byMono = this.timers.monotonic() - this.#mono;
    if (Math.abs(byWall - byMono) > DRIFT) {
      this.#suspect = true;
      this.#wall = this.timers.wall() - byMono;
    }
    return this.#suspect || this.#isRoughTooLong();
  }

  /** Whether a slow answer, of a server that has just come back, say, has been believed for long enough. */
  #isRoughTooLong(): boolean {
    const mono = this.timers.monotonic();
    if (mono < this.#againAt) return false;
    this.#again = Math.min(LONGEST_AGAIN, this.#again * 2);
    this.#againAt = mono + this.#again;
    return true;
  }
}
