/** Numbers in [0, 1), one after the other. */
export type Chance = () => number;

/**
 * What everything drawn and named within one attempt comes from: the same on every device and at every re-marking. What a
 * student gets holds names and orders that are made with it, so it must not be possible to work it out from them: the
 * server makes it with a secret (`server/attempts/seeds.ts`).
 */
export interface AttemptSeed {
  /** Chance that can be repeated: the same words, the same numbers. */
  readonly chance: (...words: readonly string[]) => Chance;
  /** The name of a thing of a question within this attempt: says nothing of what it is or where it was written. */
  readonly name: (group: string, thing: string) => string;
  /** The same for a picture of the quiz. */
  readonly picture: (id: string) => string;
  /** Absent: each attempt is drawn by itself. */
  readonly series?: SeedSeries;
}

/** What all attempts of one person at one quiz have in common, so that a later one can have what the earlier ones had not. */
export interface SeedSeries {
  /** How many attempts came before. */
  readonly turn: number;
  /** Chance that is the same in all of them. */
  readonly chance: AttemptSeed["chance"];
}

/**
 * A seed that anyone can work out from its text, for the command line, and for attempts that were started before names
 * were made with a secret. The hash is cyrb128 and the generator sfc32, both in the public domain. From four names the
 * order in which their author wrote the options can be worked out, so no attempt is started with it.
 */
export function openSeed(text: string): AttemptSeed {
  return {
    chance: (first = "", ...rest) => chance(first, text, ...rest),
    name: (group, thing) => opaqueName(["option", text, group], thing),
    picture: (id) => id,
  };
}

type HashState = readonly [number, number, number, number];

const BEGIN: HashState = [1779033703, 3144134277, 1013904242, 2773480762];

/** Takes a text into a hash; what follows can go on from there. */
function absorbed([a0, b0, c0, d0]: HashState, text: string): HashState {
  let [a, b, c, d] = [a0, b0, c0, d0];
  for (let i = 0; i < text.length; i += 1) {
    const code = text.charCodeAt(i);
    a = b ^ Math.imul(a ^ code, 597399067);
    b = c ^ Math.imul(b ^ code, 2869860233);
    c = d ^ Math.imul(c ^ code, 951274213);
    d = a ^ Math.imul(d ^ code, 2716044179);
  }
  return [a, b, c, d];
}

function finished([a0, b0, c0, d0]: HashState): HashState {
  let [a, b, c, d] = [a0, b0, c0, d0];
  a = Math.imul(c ^ (a >>> 18), 597399067);
  b = Math.imul(d ^ (b >>> 22), 2869860233);
  c = Math.imul(a ^ (c >>> 17), 951274213);
  d = Math.imul(b ^ (d >>> 19), 2716044179);
  a ^= b ^ c ^ d;
  return [a >>> 0, (b ^ a) >>> 0, (c ^ a) >>> 0, (d ^ a) >>> 0];
}

const hashed = (text: string): HashState => finished(absorbed(BEGIN, text));

/**
 * A stream of numbers in [0, 1) that depends on the seed words alone.
 * @example chance("seed")() === chance("seed")() → true
 */
export function chance(...seed: readonly string[]): Chance {
  return chanceFrom(hashed(seed.join("\u0000")));
}

/** A stream of numbers from a state of four whole numbers of 32 bits. */
export function chanceFrom(state: readonly [number, number, number, number]): Chance {
  let [a, b, c, d] = state;
  const next = () => {
    const t = (((a + b) | 0) + d) | 0;
    d = (d + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = ((c << 21) | (c >>> 11)) + t;
    return (t >>> 0) / 4294967296;
  };
  for (let i = 0; i < 12; i += 1) next();
  return next;
}

/**
 * The items in a random order (Fisher and Yates), each order equally likely.
 * @example shuffled(["a", "b", "c"], () => 0) → ["b", "c", "a"]
 */
export function shuffled<T>(items: readonly T[], next: Chance): T[] {
  const result = [...items];
  for (let i = result.length - 1; i > 0; i -= 1) {
    const j = Math.floor(next() * (i + 1));
    const held = result[i] as T;
    result[i] = result[j] as T;
    result[j] = held;
  }
  return result;
}

/** Names of one question are asked for again and again while it is presented and marked. */
const recent = new Map<string, { readonly state: HashState; readonly names: Map<string, string> }>();
const MOST_RECENT = 8;

/**
 * A short opaque name for something within an attempt: says nothing about the order in which it was written.
 * @example opaqueName(["seed"], "a") === opaqueName(["seed"], "a") → true
 */
export function opaqueName(shared: readonly string[], own: string): string {
  const prefix = shared.join("\u0000");
  let known = recent.get(prefix);
  if (!known) {
    if (recent.size >= MOST_RECENT) recent.delete(recent.keys().next().value ?? "");
    known = { state: absorbed(BEGIN, `${prefix}\u0000`), names: new Map() };
    recent.set(prefix, known);
  }
  const named = known.names.get(own);
  if (named) return named;
  const [a, b] = finished(absorbed(known.state, own));
  const name = `o${a.toString(32)}${b.toString(32)}`;
  known.names.set(own, name);
  return name;
}
