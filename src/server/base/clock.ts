import type { Instant } from "@/core/time/instants";

/**
 * The server's time: the only place that reads the clock. Tests of what happens after a long time start the server
 * with its clock moved by SHIZUKA_CLOCK_SHIFT_MS.
 */
export const now = (): Instant => Date.now() + SHIFT;

const SHIFT = Number(process.env.SHIZUKA_CLOCK_SHIFT_MS ?? 0);

/** An instant as ISO text, and a date column as an instant. */
export const iso = (instant: Instant): string => new Date(instant).toISOString();
export const instantOf = (date: Date | null): Instant | null => (date === null ? null : date.getTime());
