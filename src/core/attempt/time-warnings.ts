import { MINUTE, SECOND } from "../time/instants";

/**
 * The times left at which a warning is given, longest first, in milliseconds: half the limit, a quarter of it, 2 min
 * and 20 s, or the quiz's own; only those shorter than the limit, equal ones once.
 * @example warningsFor(20 * 60_000) → [600_000, 300_000, 120_000, 20_000]
 */
export function warningsFor(limit: number, own?: readonly number[]): number[] {
  const wanted = own ?? [limit / 2, limit / 4, 2 * MINUTE, 20 * SECOND];
  return [...new Set(wanted.filter((left) => left > 0 && left < limit))].sort((a, b) => b - a);
}

/**
 * The warning that is current with so much time left: the latest one passed, or null before the first.
 * @example currentWarning([600_000, 120_000], 130_000) → 600_000
 */
export function currentWarning(warnings: readonly number[], left: number): number | null {
  const passed = warnings.filter((warning) => left <= warning);
  return passed.length > 0 ? Math.min(...passed) : null;
}
