import { subYears } from "date-fns";
import { DAY, type Instant } from "../time/instants";

/** Between a new rule and the first removal by it lies so long: whoever sees what it would remove can still change it. */
export const NOTICE = 7 * DAY;
export const MOST_YEARS = 50;

/**
 * Courses that ended before this are over for so long that what was written in them is no longer kept.
 * @example overBefore(2, Date.UTC(2026, 10, 27)) → 1_732_665_600_000
 */
export const overBefore = (years: number, at: Instant): Instant => subYears(at, years).getTime();
