import { TZDate } from "@date-fns/tz";
import type { Instant } from "./instants";

/**
 * Midnight of the day that holds the instant, moved by whole days.
 * @example startOfDay(Date.UTC(2026, 10, 27, 15), "Europe/London", 1) === Date.UTC(2026, 10, 28) → true
 */
export function startOfDay(instant: Instant, zone: string, days = 0): Instant {
  const at = new TZDate(instant, zone);
  return new TZDate(at.getFullYear(), at.getMonth(), at.getDate() + days, zone).getTime();
}
