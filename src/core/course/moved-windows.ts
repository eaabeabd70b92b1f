import type { Instant } from "../time/instants";
import { instantOfLocal, localText } from "../time/local-time";

/** When a quiz opens, is due and closes; null: it does not. */
export interface PlannedWindow {
  readonly opens: Instant | null;
  readonly due: Instant | null;
  readonly closes: Instant | null;
}

/** Days of a calendar without teaching, both included, as "2027-02-15". */
export interface Break {
  readonly from: string;
  readonly to: string;
}

const DAY = 86_400_000;
/** A break of so many days leaves out whole weeks; a shorter one only its days. */
const LONG = 5;
/** Nothing is moved further than this to get out of breaks, in days. */
const FURTHEST = 800;

/** Days of the calendar as numbers that follow each other. */
const dayNumber = (day: string): number => Math.round(Date.parse(`${day}T00:00:00Z`) / DAY);
const dayText = (number: number): string => new Date(number * DAY).toISOString().slice(0, 10);

const momentsOf = ({ opens, due, closes }: PlannedWindow): Instant[] =>
  [opens, due, closes].filter((at) => at !== null);

/**
 * The day of the calendar on which the first of some windows has its first date; null: none has any.
 * @example firstDay([{ opens: Date.UTC(2026, 8, 7, 9), due: null, closes: null }], "Europe/London") → "2026-09-07"
 */
export function firstDay(windows: readonly PlannedWindow[], zone: string): string | null {
  const all = windows.flatMap(momentsOf);
  return all.length === 0 ? null : localText(Math.min(...all), zone).slice(0, 10);
}

/** The instant at the same time of day, so many days later. */
function later(at: Instant, days: number, zone: string): Instant {
  const [day = "", time = ""] = localText(at, zone).split("T");
  const within = at - (instantOfLocal(`${day}T${time}`, zone) ?? at);
  return (instantOfLocal(`${dayText(dayNumber(day) + days)}T${time}`, zone) ?? at + days * DAY) + within;
}

/**
 * The windows of quizzes moved together to another term: all by as many days as the first one is moved, each later by the
 * weeks of the breaks before it, and out of the days of breaks. A window is moved whole, so nothing in it comes nearer.
 * @param first the day on which the first date of all comes to lie
 */
export function movedWindows(
  windows: readonly PlannedWindow[],
  first: string,
  breaks: readonly Break[],
  zone: string,
): PlannedWindow[] {
  const began = firstDay(windows, zone);
  if (began === null) return [...windows];
  const base = dayNumber(first) - dayNumber(began);
  const out = breaks
    .map(({ from, to }) => ({ from: dayNumber(from), to: dayNumber(to) }))
    .filter(({ from, to }) => from <= to)
    .sort((a, b) => a.from - b.from);
  return windows.map((window) => {
    const days = momentsOf(window).map((at) => dayNumber(localText(at, zone).slice(0, 10)));
    if (days.length === 0) return window;
    let shift = base;
    for (const { from, to } of out) {
      const length = to - from + 1;
      if (length >= LONG && Math.min(...days) + shift >= from) shift += Math.ceil(length / 7) * 7;
    }
    for (;;) {
      const hit = out.find(({ from, to }) => days.some((day) => day + shift >= from && day + shift <= to));
      if (!hit || shift - base > FURTHEST) break;
      // The day of the week stays where a week is left out.
      shift += hit.to - hit.from + 1 >= LONG ? 7 : 1;
    }
    const move = (at: Instant | null) => (at === null ? null : later(at, shift, zone));
    return { opens: move(window.opens), due: move(window.due), closes: move(window.closes) };
  });
}
