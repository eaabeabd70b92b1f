import { LRUCache } from "lru-cache";
import pLimit, { type LimitFunction } from "p-limit";
import { RateLimiterMemory, RateLimiterRes } from "rate-limiter-flexible";
import { SECOND } from "@/core/time/instants";
import { t } from "@/words/t";
import { config } from "./config";
import { Problem } from "./problems";

/**
 * What one person may ask of one process, far above what anyone needs who works with our pages. Sizes of bodies are in
 * bytes, all else in requests. Saving what was typed has no budget: it has an order, see `oneByOne`.
 */
const BUDGETS = {
  /** Looking at things: a desk with twenty pictures takes thirty. */
  reading: { points: 600, duration: 60 },
  /** Whatever changes something, but for saves. */
  doing: { points: 120, duration: 60 },
  /** Bodies that are long, such as essays and pieces of files: a long essay that is typed takes a twentieth. */
  bytes: { points: 60_000_000, duration: 60 },
  /** Long saves are cleaned, which costs the server more than taking bytes. */
  essays: { points: 6_000_000, duration: 60 },
  /** New practice of what was missed. */
  practice: { points: 30, duration: 3_600 },
  /** Taking out all that is kept about oneself. */
  takingOut: { points: 6, duration: 3_600 },
} as const;
export type Budget = keyof typeof BUDGETS;

const limiters = new Map<Budget, RateLimiterMemory>();

function limiterOf(budget: Budget): RateLimiterMemory {
  const known = limiters.get(budget);
  if (known) return known;
  const { points, duration } = BUDGETS[budget];
  const made = new RateLimiterMemory({ points: points * config.budget, duration });
  limiters.set(budget, made);
  return made;
}

const tooMany = (wait: number) =>
  new Problem(429, "too-much", t("server.base.budgets.that-is-more-than-shizuka-takes", { wait }), {
    retryAfter: wait,
  });

/** Whose session a token is, as far as this process has seen it: several sessions of one person have one budget. */
const people = new LRUCache<string, string>({ max: 20_000 });
export const rememberWhose = (token: string, personId: string): void => {
  people.set(token, personId);
};
export const whose = (token: string): string => people.get(token) ?? token;

/** Takes from someone's budget. @throws Problem when it is used up, with how long to wait. */
export async function spend(budget: Budget, who: string, points = 1): Promise<void> {
  try {
    await limiterOf(budget).consume(who, points);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    throw tooMany(Math.max(1, Math.ceil(error.msBeforeNext / SECOND)));
  }
}

/** More than any desk has under way, even one that comes back with everything at once. */
const MOST_WAITING = 50;
const lanes = new LRUCache<string, LimitFunction>({ max: 20_000 });

/**
 * Does the work of one person one piece after the other, so that whoever sends a thousand at once waits behind themselves
 * and nobody else does. @throws Problem when too many wait already.
 */
export async function oneByOne<T>(who: string, work: () => Promise<T>): Promise<T> {
  const lane = lanes.get(who) ?? pLimit(1);
  lanes.set(who, lane);
  if (lane.pendingCount >= MOST_WAITING) throw tooMany(5);
  return lane(work);
}
