import { TZDate } from "@date-fns/tz";
import type { Instant } from "./instants";

const two = (number: number): string => `${number}`.padStart(2, "0");

/**
 * An instant as a field for date and time holds it, in a zone, to the minute.
 * @example localText(Date.UTC(2026, 6, 1, 9, 30), "Europe/London") → "2026-07-01T10:30"
 */
export function localText(instant: Instant, zone: string): string {
  const at = new TZDate(instant, zone);
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T${two(at.getHours())}:${two(at.getMinutes())}`;
}

/**
 * The instant that such a field means; null: it holds none. Where a clock is put back and a time comes twice, the first one.
 * @example instantOfLocal("2026-07-01T10:30", "Europe/London") === Date.UTC(2026, 6, 1, 9, 30) → true
 */
export function instantOfLocal(text: string, zone: string): Instant | null {
  const found = /^(\d{4,6})-(\d{2})-(\d{2})T(\d{2}):(\d{2})/.exec(text);
  if (!found) return null;
  const [year = 0, month = 1, day = 1, hour = 0, minute = 0] = found.slice(1).map(Number);
  return new TZDate(year, month - 1, day, hour, minute, zone).getTime();
}
