import { type Exact, exact, rounded, ZERO } from "./exact";

/** The power of ten of the first significant figure: 2.84 -> 0, 540 -> 2, 0.05 -> -2. */
function leadingPower(value: Exact): number {
  const { n, d } = value;
  let power = n.toString().length - d.toString().length;
  const tens = (count: number) => 10n ** BigInt(Math.abs(count));
  const below = power >= 0 ? n < d * tens(power) : n * tens(power) < d;
  if (below) power -= 1;
  return power;
}

/**
 * A number rounded to n significant figures (halves away from zero), with the size of one unit in its last place.
 * @example toFigures(exact("0.012345"), 3) → { value: exact("123/10000"), unit: exact("1/10000") }
 */
export function toFigures(value: Exact, figures: number): { value: Exact; unit: Exact } {
  if (value.n === 0n) return { value: ZERO, unit: ZERO };
  const power = leadingPower(value) - figures + 1;
  const unit = power >= 0 ? exact((10n ** BigInt(power)).toString()) : exact(`1/${10n ** BigInt(-power)}`);
  const steps = value.abs().div(unit);
  const whole = (steps.n * 2n + steps.d) / (steps.d * 2n);
  const rounded = unit.mul(whole.toString());
  return { value: value.s < 0n ? rounded.neg() : rounded, unit };
}

/**
 * Whether two numbers agree to n significant figures: both rounded to n, at most `units` apart in the last place of the key.
 * @example agreeToFigures(exact("3.8"), exact("3.79"), 2) → true
 */
export function agreeToFigures(written: Exact, key: Exact, figures: number, units = 0): boolean {
  const right = toFigures(key, figures);
  const given = toFigures(written, figures);
  return given.value.sub(right.value).abs().compare(right.unit.mul(units)) <= 0;
}

/**
 * A number written with exactly n significant figures: 6 with 2 figures is "6.0", 540.3 with 2 is "540".
 * @example inFigures(exact(1200), 3) → "1200"
 */
export function inFigures(value: Exact, figures: number): string {
  if (value.n === 0n) return "0";
  const near = toFigures(value, figures).value;
  return rounded(near, Math.max(0, figures - 1 - leadingPower(near)));
}
