import { type Coded, said } from "../said";
import type { Instant } from "./instants";

/**
 * "Wed 25 Nov, 23:59", in the institution's zone.
 * @example dayAndTime(Date.UTC(2026, 10, 27, 15), "Europe/London") → "Fri 27 Nov, 15:00"
 */
export const dayAndTime = (at: Instant, zone: string): Coded => said("time.day-and-time", { at, zone });

/**
 * A length of time, in milliseconds, in two units at most: "2 h 10 min", "1 d 22 h", "45 s".
 * @example lengthInWords(80_000) → "1 min"
 */
export const lengthInWords = (length: number): Coded => said("time.length", { length });

/**
 * "in 2 h 10 min" or "5 min ago".
 * @example fromNow(7_200_000, 0) → "in 2 h"
 */
export const fromNow = (instant: Instant, now: Instant): Coded =>
  instant >= now
    ? said("time.from-now", { length: lengthInWords(instant - now) })
    : said("time.ago", { length: lengthInWords(now - instant) });

/**
 * What the clock shows for a time left, in milliseconds: "12:38", "1:02:03", "5 d 15 h".
 * @example clockDigits(61_000) → "1:01"
 */
export const clockDigits = (left: number): Coded => said("time.clock", { left });
