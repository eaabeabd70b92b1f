/**
 * Works the order in which an author wrote four options (with the ids a, b, c, d) out of their names within an attempt, where
 * those are 64 bits of the old, open hash: the multiplications are undone, and what is left is tried. It stands here to show
 * that this was possible, and that from names made with a secret it is not.
 */
const [K1, K2, K3, K4] = [597399067, 2869860233, 951274213, 2716044179] as const;

function inverse(odd: number): number {
  let found = 1;
  for (let i = 0; i < 5; i += 1) found = Math.imul(found, 2 - Math.imul(odd, found));
  return found >>> 0;
}
const [K1_BACK, K2_BACK] = [inverse(K1), inverse(K2)];

/** All y with (y ^ y * K3) equal to a target, bit by bit from below: each bit of it depends on lower bits of y alone. */
function rootsOf(target: number, found: number[]): void {
  found.length = 0;
  const search = (bit: number, y: number): void => {
    if (bit > 0) {
      const value = y ^ Math.imul(y, K3);
      const mask = bit === 32 ? -1 : (1 << bit) - 1;
      if (((value ^ target) & mask) !== 0) return;
      if (bit === 32) {
        found.push(y);
        return;
      }
    }
    search(bit + 1, y);
    search(bit + 1, y | (1 << bit));
  };
  search(0, 0);
}

const BITS = 18;
const SHIFT = 32 - BITS;
const MASK = (1 << BITS) - 1;

/** The upper bits that one of the hash's words can have had before it was finished, from the two words that a name shows. */
function candidates(a: number, b: number): number[] {
  const b2 = a ^ b;
  const u = Math.imul(b2, K2_BACK);
  const d2 = Math.imul(b2 ^ (u >>> 19), K4);
  const q = a ^ b2 ^ d2;
  const roots: number[] = [];
  const found = new Set<number>();
  for (let t = 0; t < 1 << 15; t += 1) {
    // The two lowest bits of y ^ y * K3 are always nothing.
    if (((q ^ t) & 3) !== 0) continue;
    rootsOf(q ^ t, roots);
    for (const y of roots) {
      const w = Math.imul(y ^ t, K1_BACK);
      if (w >>> 17 === t) found.add(w >>> SHIFT);
    }
  }
  return [...found];
}

/** The words that a name can show, as the old naming wrote them: two numbers in base 32, one after the other. */
export function wordsOfOpenName(name: string): [number, number][] {
  const text = name.slice(1);
  const words: [number, number][] = [];
  for (let cut = 1; cut < text.length; cut += 1) {
    const [first, second] = [text.slice(0, cut), text.slice(cut)];
    if ((first.length > 1 && first.startsWith("0")) || (second.length > 1 && second.startsWith("0")))
      continue;
    const [a, b] = [Number.parseInt(first, 32), Number.parseInt(second, 32)];
    if (a < 2 ** 32 && b < 2 ** 32) words.push([a, b]);
  }
  return words;
}

/**
 * Which of the shown names is whose: the places of a, b, c and d among them, from the first to the last or from the last to
 * the first, which the upper bits alone do not tell apart; null where nothing fits.
 */
export function solveOrder(names: readonly (readonly [number, number][])[]): number[] | null {
  const each: number[][] = [];
  for (const words of names) {
    const found = words.flatMap(([a, b]) => candidates(a, b));
    if (found.length === 0) return null;
    each.push(found);
  }
  const [first = [], second = []] = each;
  const differences = new Uint8Array(1 << BITS);
  for (const a of first) for (const b of second) differences[a ^ b] = 1;
  for (let low = 0; low < 8; low += 1) {
    const added = [1, 2, 3, 4].map((code) => Math.imul(low ^ code, K3) >>> 0);
    const lower = added.map((value) => value & ((1 << SHIFT) - 1));
    for (const carryFrom of new Set([0, ...lower.map((value) => (1 << SHIFT) - value)])) {
      const ahead = added.map(
        (value, x) => (value >>> SHIFT) + (carryFrom + (lower[x] ?? 0) >= 1 << SHIFT ? 1 : 0),
      );
      const [e0 = 0, e1 = 0, e2 = 0, e3 = 0] = ahead;
      for (let top = 0; top <= MASK; top += 1) {
        const [p0, p1, p2, p3] = [(top + e0) & MASK, (top + e1) & MASK, (top + e2) & MASK, (top + e3) & MASK];
        const mayFit =
          differences[p0 ^ p1] ||
          differences[p0 ^ p2] ||
          differences[p0 ^ p3] ||
          differences[p1 ^ p2] ||
          differences[p1 ^ p3] ||
          differences[p2 ^ p3];
        const order = mayFit ? assigned([p0, p1, p2, p3], each, differences) : null;
        if (order) return order;
      }
    }
  }
  return null;
}

/** The places of the four predictions among the names, if some common difference makes all of them fit. */
function assigned(
  predicted: readonly number[],
  each: readonly (readonly number[])[],
  differences: Uint8Array,
): number[] | null {
  for (let x = 0; x < 4; x += 1) {
    for (let y = 0; y < 4; y += 1) {
      if (x === y || !differences[(predicted[x] ?? 0) ^ (predicted[y] ?? 0)]) continue;
      for (const held of each[0] ?? []) {
        const common = held ^ (predicted[x] ?? 0);
        const places = predicted.map((value) => each.findIndex((found) => found.includes(value ^ common)));
        if (places[x] === 0 && places[y] === 1 && new Set(places).size === 4 && !places.includes(-1)) {
          return places;
        }
      }
    }
  }
  return null;
}
