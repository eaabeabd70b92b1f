/** An instant: milliseconds since 1970 in UTC. The core never asks for the present one; it is always an argument. */
export type Instant = number;

export const SECOND = 1_000;
export const MINUTE = 60 * SECOND;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;

/** How long after the deadline a save may still arrive: the network's time, not the student's. */
export const GRACE = 5 * SECOND;

/** How long after the server sent the questions the clock starts by itself, if the desk never confirms. */
export const START_ALLOWANCE = 10 * SECOND;
