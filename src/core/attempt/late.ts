import { atLeast, type Exact, exact, ZERO } from "../numbers/exact";
import { DAY, type Instant } from "../time/instants";

/** How many days late a hand-in is; a started day counts as one. 0: in time, or no due time. */
export const daysLate = (handedInAt: Instant, due: Instant | null): number =>
  due === null || handedInAt <= due ? 0 : Math.ceil((handedInAt - due) / DAY);

/** Marks after the cost of lateness: per cent of the maximum for each started day, never below zero. */
export const afterLateCost = (
  earned: Exact,
  maximum: Exact,
  days: number,
  costPerDay: number | string,
): Exact => atLeast(earned.sub(maximum.mul(exact(costPerDay)).mul(days).div(100)), ZERO);
