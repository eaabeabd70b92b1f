import { type Coded, said } from "../said";
import type { Instant } from "./instants";

/** "Wed 25 Nov, 23:59", in the institution's zone. */
export const dayAndTime = (at: Instant, zone: string): Coded => said("time.day-and-time", { at, zone });

/** A length of time, in milliseconds, in two units at most: "2 h 10 min", "1 d 22 h", "45 s". */
export const lengthInWords = (length: number): Coded => said("time.length", { length });

/** "in 2 h 10 min" or "5 min ago". */
export const fromNow = (instant: Instant, now: Instant): Coded =>
  instant >= now
    ? said("time.from-now", { length: lengthInWords(instant - now) })
    : said("time.ago", { length: lengthInWords(now - instant) });

/** What the clock shows for a time left, in milliseconds: "12:38", "1:02:03", "5 d 15 h". */
export const clockDigits = (left: number): Coded => said("time.clock", { left });
