import { createHmac, timingSafeEqual } from "node:crypto";
import { and, eq, gt, sql } from "drizzle-orm";
import { DAY, HOUR, type Instant, MINUTE } from "@/core/time/instants";
import { database, prepared } from "@/data/database";
import { person, session } from "@/data/schema";
import { rememberWhose } from "../base/budgets";
import { iso, now } from "../base/clock";
import { config } from "../base/config";
import { cookieIn, cookieName } from "../base/cookies";
import { notSignedIn } from "../base/problems";
import { TRIAL_COOKIE, trialSessionFor } from "./trial-cookie";

/** Who is asking, from the session. */
export interface Viewer {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly administrator: boolean;
}

export const SESSION_COOKIE = cookieName("session_token");

/** The session token of a signed cookie (`token.signature`, HMAC-SHA256), or null if it is missing or not ours. */
export function sessionToken(cookie: string | undefined): string | null {
  const at = cookie?.lastIndexOf(".") ?? -1;
  if (!cookie || at < 1) return null;
  const token = cookie.slice(0, at);
  const signature = Buffer.from(cookie.slice(at + 1), "base64");
  const right = createHmac("sha256", config.secret).update(token).digest();
  return signature.length === right.length && timingSafeEqual(signature, right) ? token : null;
}

/** The session token that holds at a path: one's own, or of a quiz that is tried out, that of its student. */
export const tokenAt = (path: string, own: string | undefined, trial: string | undefined): string | null =>
  sessionToken(trialSessionFor(path, trial) ?? own);

/** A session token as its cookie holds it: signed. */
export const signedToken = (token: string): string =>
  `${token}.${createHmac("sha256", config.secret).update(token).digest("base64")}`;

/** The session token of a request that goes beside the framework, or null. */
export const tokenOf = ({
  headers,
  url,
}: {
  readonly headers: { readonly cookie?: string | undefined };
  readonly url?: string | undefined;
}): string | null =>
  tokenAt(url ?? "", cookieIn(headers.cookie, SESSION_COOKIE), cookieIn(headers.cookie, TRIAL_COOKIE));

const viewerQuery = prepared((db) =>
  db
    .select({
      id: person.id,
      name: person.name,
      email: person.email,
      administrator: person.administrator,
      expiresAt: session.expiresAt,
      startedAt: session.createdAt,
      unseen: sql<number>`(select count(*)::int from person_notice n where n.person_id = ${person.id} and n.read_at is null)`,
    })
    .from(session)
    .innerJoin(person, eq(person.id, session.userId))
    .where(and(eq(session.token, sql.placeholder("token")), gt(session.expiresAt, sql.placeholder("now"))))
    .prepare("viewer"),
);

/** However much it is used, a session ends after so long. */
const LONGEST_SESSION = 14 * DAY;
/** While it is used its end is moved on, and not more often than this. */
const MOVED_ON_EACH = 10 * MINUTE;

/** When a session ends in which something is asked now: a while after that, and at the latest some days after its start. */
export const sessionEnd = (startedAt: Instant, at: Instant): Instant =>
  Math.min(at + config.idleHours * HOUR, startedAt + LONGEST_SESSION);

/** The person of a session that has not ended, with how many notices they have not seen yet, in one query. */
export async function viewerOf(token: string | null): Promise<(Viewer & { readonly unseen: number }) | null> {
  if (token === null) return null;
  const at = now();
  const [found] = await viewerQuery().execute({ token, now: iso(at) });
  if (!found) return null;
  rememberWhose(token, found.id);
  const { expiresAt, startedAt, ...viewer } = found;
  const end = sessionEnd(startedAt.getTime(), at);
  if (end - expiresAt.getTime() > MOVED_ON_EACH) {
    await database()
      .update(session)
      .set({ expiresAt: new Date(end) })
      .where(and(eq(session.token, token), gt(session.expiresAt, new Date(at))));
  }
  return viewer;
}

/** The viewer, or the answer that one must sign in. */
export function signedIn(viewer: Viewer | null | undefined): Viewer {
  if (!viewer) throw notSignedIn();
  return viewer;
}
