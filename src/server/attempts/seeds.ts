import { createHash, createHmac, randomBytes } from "node:crypto";
import { LRUCache } from "lru-cache";
import { type AttemptSeed, type Chance, chanceFrom, openSeed } from "@/core/numbers/seeded";
import { database } from "@/data/database";
import { serverKey } from "@/data/schema";

/** What an attempt, or a practice run, is drawn and named with. */
export interface Seeded {
  readonly id: string;
  readonly seed: string;
  readonly naming: number;
}

/** The naming of before there was a key. */
const OPEN = 1;

let keys: ReadonlyMap<number, Buffer> = new Map();

async function readKeys(): Promise<void> {
  const rows = await database().select().from(serverKey);
  keys = new Map(rows.map(({ number, secret }) => [number, secret]));
}

/** The key with which the names of new attempts are made. */
export async function currentNaming(): Promise<number> {
  if (keys.size === 0) await readKeys();
  return Math.max(OPEN, ...keys.keys());
}

async function keyOf(naming: number): Promise<Buffer> {
  if (!keys.has(naming)) await readKeys();
  const key = keys.get(naming);
  if (!key) throw new Error(`The server key ${naming} is missing, with which names of attempts were made.`);
  return key;
}

/**
 * A key of a person's own, in base 64, for what a device keeps of theirs; and a name for it that tells nothing of it. Made
 * from the oldest server key, so that it stays the same.
 */
export async function deviceKeyOf(
  personId: string,
): Promise<{ readonly name: string; readonly key: string }> {
  if (keys.size === 0) await readKeys();
  const secret = await keyOf(Math.min(...keys.keys()));
  const made = (what: string) =>
    createHmac("sha256", secret).update(`device\u0000${what}\u0000${personId}`).digest();
  return { name: made("name").toString("hex").slice(0, 16), key: made("key").toString("base64") };
}

// Presenting, reading and marking one attempt ask for the same names again and again; nothing of them ever changes.
const known = new LRUCache<string, AttemptSeed>({ max: 2_000 });

/** What everything drawn and named in an attempt comes from. No query but the first time that a key is needed. */
export async function seedOf({ id, seed, naming }: Seeded): Promise<AttemptSeed> {
  const held = known.get(id);
  if (held) return held;
  const made = naming === OPEN ? openSeed(seed) : secretSeed(id, seed, await keyOf(naming));
  known.set(id, made);
  return made;
}

/** 96 bits in letters and digits, beginning with a letter. */
const NAME_LENGTH = 16;

const chanceOf =
  (secret: string): AttemptSeed["chance"] =>
  (...words): Chance => {
    const state = createHash("sha256")
      .update([secret, ...words].join("\u0000"))
      .digest();
    return chanceFrom([
      state.readUInt32LE(0),
      state.readUInt32LE(4),
      state.readUInt32LE(8),
      state.readUInt32LE(12),
    ]);
  };

const newSecret = (): string => randomBytes(16).toString("hex");

/** The series in the text of a seed: what all attempts of a person at a quiz are drawn with, and which of them it is. */
function seriesIn(seed: string): { readonly secret: string; readonly turn: number } | null {
  const [, secret, turn] = /^([0-9a-f]{32})\.(\d{1,6})\./.exec(seed) ?? [];
  return secret === undefined ? null : { secret, turn: Number(turn) };
}

/**
 * The text of a new attempt's seed.
 * @param before that of the same person's last attempt at the quiz; null: there is none, or it had no series
 * @param skipped how many draws of the series came to nothing
 */
export function newSeed(before: string | null, skipped = 0): string {
  const known = before === null ? null : seriesIn(before);
  return `${known?.secret ?? newSecret()}.${(known ? known.turn + 1 : 0) + skipped}.${newSecret()}`;
}

/**
 * A seed of which nothing can be worked out from what is made with it: names are an HMAC-SHA-256 over attempt, question and
 * thing under a key that never leaves the server; each stream of chance begins with a SHA-256 of the attempt's own secret.
 */
function secretSeed(id: string, seed: string, key: Buffer): AttemptSeed {
  const names = new Map<string, string>();
  const named = (group: string, thing: string): string => {
    const whole = `${id}\u0000${group}\u0000${thing}`;
    const held = names.get(whole);
    if (held) return held;
    const name = `o${createHmac("sha256", key).update(whole).digest("base64url").slice(0, NAME_LENGTH)}`;
    names.set(whole, name);
    return name;
  };
  const series = seriesIn(seed);
  return {
    chance: chanceOf(seed),
    ...(series ? { series: { turn: series.turn, chance: chanceOf(series.secret) } } : {}),
    name: (group, thing) => named(`of ${group}`, thing),
    picture: (picture) => named("picture", picture),
  };
}
