import { TZDate } from "@date-fns/tz";
import { differenceInCalendarDays, format } from "date-fns";
import { kept } from "../kept";
import { DAY, HOUR, type Instant, MINUTE, SECOND } from "./instants";

const inZone = (instant: Instant, zone: string) => new TZDate(instant, zone);

const written = new Map<string, string>();

/** An instant in a zone, by a pattern. Kept, as the ends of the same quizzes are written on every page. */
const inWords = (instant: Instant, zone: string, pattern: string): string =>
  kept(written, `${instant} ${zone} ${pattern}`, () => format(inZone(instant, zone), pattern));

/** "Wed 25 Nov, 23:59", in the institution's zone. */
export const dayAndTime = (instant: Instant, zone: string): string =>
  inWords(instant, zone, "EEE d MMM, HH:mm");

/** "3 May 2029": a day that may lie years away. */
export const dateWithYear = (instant: Instant, zone: string): string => inWords(instant, zone, "d MMM yyyy");

/** "Wed 25 Nov". */
export const dayOnly = (instant: Instant, zone: string): string => inWords(instant, zone, "EEE d MMM");

/** "Wednesday 25 November". */
export const dayInFull = (instant: Instant, zone: string): string => inWords(instant, zone, "EEEE d MMMM");

/** "14:32". */
export const timeOfDay = (instant: Instant, zone: string): string => inWords(instant, zone, "HH:mm");

/** "14:32:07". */
export const timeWithSeconds = (instant: Instant, zone: string): string => inWords(instant, zone, "HH:mm:ss");

/** When something ends: "14:32:07", and with its day when that is half a day away or more: "Mon 30 Nov, 23:59". */
export const endTime = (instant: Instant, now: Instant, zone: string): string =>
  instant - now < DAY / 2 ? timeWithSeconds(instant, zone) : dayAndTime(instant, zone);

/** "GMT+1": named wherever a time could be misread. */
export const zoneName = (instant: Instant, zone: string): string => inWords(instant, zone, "zzz");

/** Midnight of the day that holds the instant, moved by whole days. */
export function startOfDay(instant: Instant, zone: string, days = 0): Instant {
  const at = inZone(instant, zone);
  return new TZDate(at.getFullYear(), at.getMonth(), at.getDate() + days, zone).getTime();
}

/** "today 14:32", "tomorrow 09:00", "yesterday 16:21", else "Wed 25 Nov, 23:59". */
export function nearDay(instant: Instant, now: Instant, zone: string): string {
  const days = differenceInCalendarDays(inZone(instant, zone), inZone(now, zone));
  const word = days === 0 ? "today" : days === 1 ? "tomorrow" : days === -1 ? "yesterday" : null;
  return word ? `${word} ${timeOfDay(instant, zone)}` : dayAndTime(instant, zone);
}

/** A length of time in two units at most: "2 h 10 min", "1 d 22 h", "45 s". */
export function lengthInWords(length: number): string {
  const total = Math.max(0, length);
  if (total < MINUTE) return `${Math.ceil(total / SECOND)} s`;
  const days = Math.floor(total / DAY);
  const hours = Math.floor((total % DAY) / HOUR);
  const minutes = Math.floor((total % HOUR) / MINUTE);
  const pair =
    days > 0 ? [`${days} d`, hours && `${hours} h`] : [hours && `${hours} h`, minutes && `${minutes} min`];
  return pair.filter(Boolean).join(" ");
}

/** "in 2 h 10 min" or "5 min ago". */
export const fromNow = (instant: Instant, now: Instant): string =>
  instant >= now ? `in ${lengthInWords(instant - now)}` : `${lengthInWords(now - instant)} ago`;

/** A time taken, exact to the second: "18 min 4 s", "1 h 2 min 3 s". */
export function timeTaken(length: number): string {
  const seconds = Math.max(0, Math.floor(length / SECOND));
  const parts = [
    [Math.floor(seconds / 3600), "h"],
    [Math.floor((seconds % 3600) / 60), "min"],
    [seconds % 60, "s"],
  ] as const;
  const text = parts.filter(([count]) => count > 0).map(([count, unit]) => `${count} ${unit}`);
  return text.length > 0 ? text.join(" ") : "0 s";
}

/** What the clock shows for the time left: "12:38", "1:02:03", "5 d 15 h"; a started second still shows. */
export function clockDigits(left: number): string {
  if (left > DAY) return lengthInWords(left);
  const seconds = Math.max(0, Math.ceil(left / SECOND));
  const two = (value: number) => String(value).padStart(2, "0");
  const hours = Math.floor(seconds / 3600);
  const minutes = Math.floor((seconds % 3600) / 60);
  return hours > 0 ? `${hours}:${two(minutes)}:${two(seconds % 60)}` : `${minutes}:${two(seconds % 60)}`;
}

/** A time left as it is spoken: "10 minutes", "1 minute 30 seconds", "20 seconds". */
export function spokenLength(length: number): string {
  const seconds = Math.max(0, Math.round(length / SECOND));
  const hours = Math.floor(seconds / 3600);
  const minutes = Math.floor((seconds % 3600) / 60);
  const rest = seconds % 60;
  const said = [
    [hours, "hour"],
    [minutes, "minute"],
    [rest, "second"],
  ] as const;
  const words = said.filter(([count]) => count > 0).map(([count, unit]) => counted(count, unit));
  return words.length > 0 ? words.join(" ") : "no time";
}

const NUMBERS = ["no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"];

/** "one quiz", "three quizzes", "12 quizzes": small numbers in words, for running text. */
export const countedInWords = (count: number, one: string, many = `${one}s`): string =>
  `${NUMBERS[count] ?? count} ${count === 1 ? one : many}`;

/** "1 question", "12 questions"; a plural of its own may be given. */
export const counted = (count: number, one: string, many = `${one}s`): string =>
  `${count} ${count === 1 ? one : many}`;
