import { startOfDay } from "@/core/time/days";
import { DAY, type Instant } from "@/core/time/instants";

/** The shared time axis of Today: yesterday, today and the five days after. */
export interface Axis {
  readonly from: Instant;
  readonly to: Instant;
  /** The start of each day. */
  readonly days: readonly Instant[];
}

const DAYS_BEFORE = 1;
const DAYS_SHOWN = 7;

export function axisAround(now: Instant, zone: string): Axis {
  const days = Array.from({ length: DAYS_SHOWN }, (_, i) => startOfDay(now, zone, i - DAYS_BEFORE));
  return { from: days[0] ?? now, to: startOfDay(now, zone, DAYS_SHOWN - DAYS_BEFORE), days };
}

/** Where an instant lies on the axis, in per cent of its length; what is off the axis lies at its end. */
export function placeOn(axis: Axis, instant: Instant): number {
  const share = (instant - axis.from) / (axis.to - axis.from);
  return Math.round(Math.min(1, Math.max(0, share)) * 10_000) / 100;
}

export interface Piece {
  readonly x: number;
  readonly width: number;
}

/** A stretch of time on the axis; null ends reach beyond it. At least wide enough to be seen. */
export function stretch(axis: Axis, from: Instant | null, to: Instant | null): Piece | null {
  const start = from ?? axis.from - DAY;
  const end = to ?? axis.to + DAY;
  if (end <= axis.from || start >= axis.to) return null;
  const x = placeOn(axis, start);
  return { x, width: Math.max(1.2, Math.round((placeOn(axis, end) - x) * 100) / 100) };
}
