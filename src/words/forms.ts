import { memo } from "@/core/memo";
import type { Said, SaidValue } from "@/core/said";
import { DAY, HOUR, type Instant, MINUTE, SECOND } from "@/core/time/instants";

/** What stands in a sentence, by its name. */
export type Values = Readonly<Record<string, SaidValue>>;

/** What a form needs of whoever speaks. */
interface Speaks {
  readonly language: string;
  readonly tag: string;
  readonly say: (code: string, values?: Values) => string;
  readonly saySaid: (said: Said) => string;
}

type Form = (values: Values, speaker: Speaks) => string;

const formats = new Map<string, Intl.DateTimeFormat>();

/** How a language writes instants of a zone. Kept: making one takes as long as writing a hundred. */
const formatOf = (tag: string, zone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat =>
  memo(
    formats,
    `${tag} ${zone} ${Object.entries(options).join()}`,
    () => new Intl.DateTimeFormat(tag, { timeZone: zone, ...options }),
  );

const PARTS: Intl.DateTimeFormatOptions = {
  weekday: "short",
  day: "numeric",
  month: "short",
  year: "numeric",
  hour: "2-digit",
  minute: "2-digit",
  second: "2-digit",
  hourCycle: "h23",
  timeZoneName: "short",
};

/** The parts of an instant in a zone, as a language writes them. */
const dateParts = (at: Instant, zone: string, tag: string): Readonly<Record<string, string>> =>
  Object.fromEntries(
    formatOf(tag, zone, PARTS)
      .formatToParts(at)
      .map(({ type, value }) => [type, value]),
  );

/** The names of the day and the month in full. */
const namesInFull = (at: Instant, zone: string, tag: string): { weekday: string; month: string } => ({
  weekday: formatOf(tag, zone, { weekday: "long" }).format(at),
  month: formatOf(tag, zone, { month: "long" }).format(at),
});

const written = new Map<string, string>();

const number = (values: Values, name: string): number => Number(values[name] ?? 0);
const text = (values: Values, name: string): string => String(values[name] ?? "");

/** A moment by one of the patterns of the catalogue, which puts its parts in the order of the language. */
const moment =
  (pattern: string): Form =>
  (values, speaker) => {
    const [at, zone] = [number(values, "at"), text(values, "zone")];
    // The ends of the same quizzes are written on every page.
    return memo(written, `${speaker.language} ${pattern} ${at} ${zone}`, () => {
      const parts = dateParts(at, zone, speaker.tag);
      const full = pattern === "day-in-full" ? namesInFull(at, zone, speaker.tag) : {};
      return speaker.say(`time.pattern.${pattern}`, { ...parts, ...full });
    });
  };

/** In two units at most: "2 h 10 min". */
const length: Form = (values, speaker) => {
  const total = Math.max(0, number(values, "length"));
  const unit = (name: string, count: number) =>
    count > 0 ? speaker.say(`time.unit.${name}`, { count }) : "";
  if (total < MINUTE) return speaker.say("time.unit.seconds", { count: Math.ceil(total / SECOND) });
  const days = Math.floor(total / DAY);
  const hours = Math.floor((total % DAY) / HOUR);
  const minutes = Math.floor((total % HOUR) / MINUTE);
  const pair =
    days > 0 ? [unit("days", days), unit("hours", hours)] : [unit("hours", hours), unit("minutes", minutes)];
  return pair.filter(Boolean).join(speaker.say("time.between"));
};

/** A whole number of seconds in hours, minutes and seconds, as many of them as there are: "" for none. */
function unitsOf(seconds: number, speaker: Speaks, units: "unit" | "spoken", between: string): string {
  const parts = [
    [Math.floor(seconds / 3600), "hours"],
    [Math.floor((seconds % 3600) / 60), "minutes"],
    [seconds % 60, "seconds"],
  ] as const;
  return parts
    .filter(([count]) => count > 0)
    .map(([count, unit]) => speaker.say(`time.${units}.${unit}`, { count }))
    .join(speaker.say(between));
}

/** Exact to the second. */
const taken: Form = (values, speaker) =>
  unitsOf(Math.max(0, Math.floor(number(values, "length") / SECOND)), speaker, "unit", "time.between") ||
  speaker.say("time.unit.seconds", { count: 0 });

/** As a clock shows it; more than a day in words. A started second still shows. */
const clock: Form = (values, speaker) => {
  const left = number(values, "left");
  if (left > DAY) return length({ length: left }, speaker);
  const seconds = Math.max(0, Math.ceil(left / SECOND));
  const two = (value: number) => String(value).padStart(2, "0");
  const hours = Math.floor(seconds / 3600);
  const minutes = Math.floor((seconds % 3600) / 60);
  return hours > 0 ? `${hours}:${two(minutes)}:${two(seconds % 60)}` : `${minutes}:${two(seconds % 60)}`;
};

/** As it is spoken: "1 minute 30 seconds". */
const spoken: Form = (values, speaker) =>
  unitsOf(
    Math.max(0, Math.round(number(values, "length") / SECOND)),
    speaker,
    "spoken",
    "time.between-spoken",
  ) || speaker.say("time.spoken.none");

/** The day of an instant in a zone, as the instant at which that day begins in UTC. */
const calendarDay = (at: Instant, zone: string): Instant =>
  Date.parse(formatOf("en-CA", zone, { dateStyle: "short" }).format(at));

/** "today 14:32", "tomorrow 09:00", "yesterday 16:21", else the day and the time. */
const nearDay: Form = (values, speaker) => {
  const [at, now, zone] = [number(values, "at"), number(values, "now"), text(values, "zone")];
  const days = Math.round((calendarDay(at, zone) - calendarDay(now, zone)) / DAY);
  const near: Readonly<Record<number, string>> = { 0: "today", 1: "tomorrow", [-1]: "yesterday" };
  const day = near[days];
  return day
    ? speaker.say(`time.${day}-at`, { time: speaker.say("time.time-of-day", { at, zone }) })
    : speaker.say("time.day-and-time", { at, zone });
};

const lists = new Map<string, Intl.ListFormat>();

/** A list as the language writes one: "a, b and c". */
const list =
  (kind: "conjunction" | "disjunction"): Form =>
  ({ parts }, speaker) => {
    const words = (parts as readonly Said[]).map((part) => speaker.saySaid(part));
    return memo(
      lists,
      `${speaker.tag} ${kind}`,
      () => new Intl.ListFormat(speaker.tag, { type: kind, style: "long" }),
    ).format(words);
  };

const joined =
  (joint: string): Form =>
  ({ parts }, speaker) =>
    (parts as readonly Said[])
      .map((part) => speaker.saySaid(part))
      .filter((part) => part !== "")
      .join(speaker.say(`joint.${joint}`));

/** What is said by more than a message: times, lengths, lists. */
export const FORMS: Readonly<Record<string, Form>> = {
  "time.day-and-time": moment("day-and-time"),
  "time.time-of-day": moment("time-of-day"),
  "time.time-with-seconds": moment("time-with-seconds"),
  "time.day-only": moment("day-only"),
  "time.day-short": moment("day-short"),
  "time.day-in-full": moment("day-in-full"),
  "time.date-with-year": moment("date-with-year"),
  "time.zone-name": (values, speaker) =>
    dateParts(number(values, "at"), text(values, "zone"), speaker.tag).timeZoneName ?? "",
  "time.near-day": nearDay,
  "time.length": length,
  "time.taken": taken,
  "time.clock": clock,
  "time.spoken": spoken,
  "joined.sentences": joined("sentences"),
  "joined.commas": joined("commas"),
  "joined.semicolons": joined("semicolons"),
  "joined.dots": joined("dots"),
  "joined.spaces": joined("spaces"),
  "joined.nothing": ({ parts }, speaker) =>
    (parts as readonly Said[]).map((part) => speaker.saySaid(part)).join(""),
  // A sentence as it stands behind a colon.
  "joined.clause": ({ sentence }, speaker) => {
    const words = speaker.saySaid(sentence as Said).replace(/[.。]$/, "");
    return `${words.charAt(0).toLowerCase()}${words.slice(1)}`;
  },
  "joined.and": list("conjunction"),
  "joined.or": list("disjunction"),
};
