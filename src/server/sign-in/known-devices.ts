import { createHash, randomBytes } from "node:crypto";
import { and, eq, sql } from "drizzle-orm";
import { DAY } from "@/core/time/instants";
import { database } from "@/data/database";
import { knownDevice, person } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { now } from "../base/clock";
import { cookieIn, cookieName, setCookie } from "../base/cookies";

const DEVICE_COOKIE = cookieName("device");
/** A browser that was not used for so long is a new one. */
export const KNOWN_FOR = 365 * DAY;

const hashOf = (secret: string): string => createHash("sha256").update(secret).digest("base64url");

const secretIn = (headers: Headers): string | null => {
  const secret = cookieIn(headers.get("cookie") ?? undefined, DEVICE_COOKIE);
  return secret && /^[\w-]{43}$/.test(secret) ? secret : null;
};

/** The name, for counting, of a browser in which the person of an address signed in before; null for any other. */
export async function knownDeviceOf(email: string, headers: Headers): Promise<string | null> {
  const secret = secretIn(headers);
  if (secret === null) return null;
  const [found] = await database()
    .select({ id: knownDevice.id, usedAt: knownDevice.usedAt })
    .from(knownDevice)
    .innerJoin(person, eq(person.id, knownDevice.personId))
    .where(
      and(eq(sql`lower(${person.email})`, email.toLowerCase()), eq(knownDevice.secretHash, hashOf(secret))),
    );
  return found && now() - found.usedAt.getTime() < KNOWN_FOR ? found.id : null;
}

/** The browsers of a person, by the hash of each one's secret. */
async function hashesOf(personId: string): Promise<ReadonlySet<string>> {
  const rows = await database()
    .select({ secretHash: knownDevice.secretHash })
    .from(knownDevice)
    .where(eq(knownDevice.personId, personId));
  return new Set(rows.map(({ secretHash }) => secretHash));
}

/**
 * Remembers the browser in which somebody has signed in. Returns the cookie to set, and whether it is new to someone who has
 * signed in elsewhere before.
 */
export async function rememberDevice(
  personId: string,
  headers: Headers,
): Promise<{ readonly cookie: string; readonly isNews: boolean }> {
  const secret = secretIn(headers) ?? randomBytes(32).toString("base64url");
  const usedAt = new Date(now());
  const theirs = await hashesOf(personId);
  const secretHash = hashOf(secret);
  await database()
    .insert(knownDevice)
    .values({ id: newId(), personId, secretHash, usedAt })
    .onConflictDoUpdate({ target: [knownDevice.personId, knownDevice.secretHash], set: { usedAt } });
  return {
    cookie: setCookie(DEVICE_COOKIE, secret, KNOWN_FOR),
    isNews: theirs.size > 0 && !theirs.has(secretHash),
  };
}

/** Whether signing in from this browser is news to someone who has signed in elsewhere before; nothing is remembered. */
export async function isNewDevice(personId: string, headers: Headers): Promise<boolean> {
  const theirs = await hashesOf(personId);
  const secret = secretIn(headers);
  return theirs.size > 0 && (secret === null || !theirs.has(hashOf(secret)));
}
