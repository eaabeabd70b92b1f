import { DAY, type Instant } from "@/core/time/instants";
import * as meant from "@/core/time/said-times";
import { say as saySaid, speaker } from "./t";

const say = (form: string, values: Readonly<Record<string, number | string>>): string =>
  speaker().say(`time.${form}`, values);

/** "Wed 25 Nov, 23:59", in the institution's zone. */
export const dayAndTime = (at: Instant, zone: string): string => saySaid(meant.dayAndTime(at, zone));

/** "3 May 2029": a day that may lie years away. */
export const dateWithYear = (at: Instant, zone: string): string => say("date-with-year", { at, zone });

/** "Wed 25 Nov". */
export const dayOnly = (at: Instant, zone: string): string => say("day-only", { at, zone });

/** "Wed 25": where the month is plain. */
export const dayShort = (at: Instant, zone: string): string => say("day-short", { at, zone });

/** "Wednesday 25 November". */
export const dayInFull = (at: Instant, zone: string): string => say("day-in-full", { at, zone });

/** "14:32". */
export const timeOfDay = (at: Instant, zone: string): string => say("time-of-day", { at, zone });

/** "14:32:07". */
export const timeWithSeconds = (at: Instant, zone: string): string => say("time-with-seconds", { at, zone });

/** When something ends: "14:32:07", and with its day when that is half a day away or more: "Mon 30 Nov, 23:59". */
export const endTime = (at: Instant, now: Instant, zone: string): string =>
  at - now < DAY / 2 ? timeWithSeconds(at, zone) : dayAndTime(at, zone);

/** "GMT+1": named wherever a time could be misread. */
export const zoneName = (at: Instant, zone: string): string => say("zone-name", { at, zone });

/** "today 14:32", "tomorrow 09:00", "yesterday 16:21", else "Wed 25 Nov, 23:59". */
export const nearDay = (at: Instant, now: Instant, zone: string): string =>
  say("near-day", { at, now, zone });

/** A length of time, in milliseconds, in two units at most: "2 h 10 min", "1 d 22 h", "45 s". */
export const lengthInWords = (length: number): string => saySaid(meant.lengthInWords(length));

/** "in 2 h 10 min" or "5 min ago". */
export const fromNow = (at: Instant, now: Instant): string => saySaid(meant.fromNow(at, now));

/** A time taken, exact to the second: "18 min 4 s", "1 h 2 min 3 s". */
export const timeTaken = (length: number): string => say("taken", { length });

/** What the clock shows for the time left: "12:38", "1:02:03", "5 d 15 h"; a started second still shows. */
export const clockDigits = (left: number): string => saySaid(meant.clockDigits(left));

/** A time left as it is spoken: "10 minutes", "1 minute 30 seconds", "20 seconds". */
export const spokenLength = (length: number): string => say("spoken", { length });
