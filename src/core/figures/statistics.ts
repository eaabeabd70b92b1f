/** The arithmetic mean; NaN of nothing. */
export const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** The sample variance, with n - 1; null for fewer than two values. */
export function variance(values: readonly number[]): number | null {
  if (values.length < 2) return null;
  const middle = mean(values);
  return values.reduce((sum, value) => sum + (value - middle) ** 2, 0) / (values.length - 1);
}

/** The sample standard deviation; null for fewer than two values. */
export function deviation(values: readonly number[]): number | null {
  const square = variance(values);
  return square === null ? null : Math.sqrt(square);
}

/** The middle value, of two middle ones their mean; null of nothing. */
export function median(values: readonly number[]): number | null {
  const sorted = [...values].sort((a, b) => a - b);
  const at = Math.floor(sorted.length / 2);
  const high = sorted[at];
  if (high === undefined) return null;
  return sorted.length % 2 === 1 ? high : ((sorted[at - 1] ?? high) + high) / 2;
}

/** Sums of floating numbers of the size of marks are not nearer than this. */
const NOTHING = 1e-12;

/**
 * Pearson's correlation of pairs; null where one of the two does not vary.
 * @example correlation([[1, 2], [2, 4], [3, 6]]) → 1
 */
export function correlation(pairs: readonly (readonly [number, number])[]): number | null {
  const [x, y] = [mean(pairs.map(([a]) => a)), mean(pairs.map(([, b]) => b))];
  let [xx, yy, xy] = [0, 0, 0];
  for (const [a, b] of pairs) {
    xx += (a - x) ** 2;
    yy += (b - y) ** 2;
    xy += (a - x) * (b - y);
  }
  if (pairs.length < 2 || xx < NOTHING || yy < NOTHING) return null;
  return Math.max(-1, Math.min(1, xy / Math.sqrt(xx * yy)));
}
