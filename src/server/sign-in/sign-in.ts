import { eq } from "drizzle-orm";
import * as yup from "yup";
import { said } from "@/core/said";
import { database } from "@/data/database";
import { person, session } from "@/data/schema";
import { t } from "@/words/t";
import { endTrialCookie, TRIAL_COOKIE, trialIn } from "../access/trial-cookie";
import { sessionEnd, sessionToken } from "../access/viewer";
import { now } from "../base/clock";
import { config } from "../base/config";
import { cookieIn, cookieName } from "../base/cookies";
import { languageCookie } from "../base/language";
import { Problem } from "../base/problems";
import { accounts, hashPassword } from "./accounts";
import { isNewDevice, knownDeviceOf, rememberDevice } from "./known-devices";
import { tellNewDevice } from "./security-mail";
import { countTry, forgiveTry, signInPaces } from "./try-pace";

export const signInForm = yup.object({
  email: yup.string().trim().max(200).required(said("server.sign-in.sign-in.write-the-e-mail-address-of")),
  password: yup.string().max(500).required(said("server.sign-in.sign-in.write-your-password")),
  /** "yes": others use this machine too; the session ends with the browser, and the browser is not remembered. */
  shared: yup.string().oneOf(["yes", ""]).default(""),
});

/** Where a request to sign in comes from. */
export interface SignInSource {
  /** The network address. */
  readonly address: string;
  readonly headers: Headers;
}

export interface SignedIn {
  /** The cookies to set. */
  readonly cookies: readonly string[];
  /** The password was right, and a code is asked for too: nobody is signed in yet. */
  readonly asksForCode: boolean;
}

const wrongWords = () =>
  new Problem(401, "wrong-sign-in", t("server.sign-in.sign-in.the-e-mail-address-or-the"));

/** What the sign-in library answered, once it has looked. @throws Problem when it said no */
async function look(
  email: string,
  password: string,
  rememberMe: boolean,
  headers: Headers,
): Promise<Response> {
  if (!yup.string().email().isValidSync(email)) {
    // The library would answer at once; it takes as long as any other wrong try.
    await hashPassword(password);
    throw wrongWords();
  }
  const answer = await accounts().api.signInEmail({
    body: { email, password, rememberMe },
    headers,
    asResponse: true,
  });
  if (answer.status >= 500) throw new Error(`The sign-in library answered ${answer.status}.`);
  if (!answer.ok) throw wrongWords();
  return answer;
}

/**
 * Signs a person in, or asks for a code. Wrong words and unknown people get the same answer in the same time; each try is
 * counted before anything is looked at.
 */
export async function signIn(
  fields: yup.InferType<typeof signInForm>,
  { address, headers }: SignInSource,
): Promise<SignedIn> {
  const { email, password } = fields;
  const device = await knownDeviceOf(email, headers);
  const paces = signInPaces(email, address, device);
  await countTry(paces);
  const isShared = fields.shared === "yes";
  const answer = await look(email, password, !isShared, headers);
  await forgiveTry(paces);
  const cookies = answer.headers.getSetCookie();
  const outcome = (await answer.json()) as { twoFactorRedirect?: boolean };
  if (outcome.twoFactorRedirect) return { cookies, asksForCode: true };
  return { cookies: await signedIn(cookies, headers, isShared), asksForCode: false };
}

/** The token of the session that the library's cookies begin. */
const tokenIn = (cookies: readonly string[]): string | null => {
  const name = `${cookieName("session_token")}=`;
  const value = cookies
    .find((each) => each.startsWith(name))
    ?.slice(name.length)
    .split(";")[0];
  return value ? sessionToken(decodeURIComponent(value)) : null;
};

/** Gives a session that the library has just begun its end; returns whose it is, or null where none was begun. */
export async function boundSession(cookies: readonly string[]): Promise<string | null> {
  const token = tokenIn(cookies);
  if (token === null) return null;
  const at = now();
  const [begun] = await database()
    .update(session)
    .set({ expiresAt: new Date(sessionEnd(at, at)) })
    .where(eq(session.token, token))
    .returning({ personId: session.userId });
  return begun?.personId ?? null;
}

/** Somebody is signed in: their session gets its end, and their browser is remembered, or told of. */
export async function signedIn(
  begun: readonly string[],
  headers: Headers,
  isShared: boolean,
): Promise<readonly string[]> {
  let cookies = begun;
  const personId = await boundSession(cookies);
  if (personId === null) throw new Error("The sign-in library began no session.");
  const [self] = await database()
    .select({ language: person.language })
    .from(person)
    .where(eq(person.id, personId));
  if (self?.language) cookies = [...cookies, languageCookie(self.language)];
  if (isShared) {
    if (await isNewDevice(personId, headers)) await tellNewDevice(personId, headers);
    return cookies;
  }
  const { cookie, isNews } = await rememberDevice(personId, headers);
  if (isNews) await tellNewDevice(personId, headers);
  return [...cookies, cookie];
}

/** Ends the session of the request; returns the cookies to set. */
export async function signOut(headers: Headers): Promise<string[]> {
  const answer = await accounts().api.signOut({ headers, asResponse: true });
  // Nothing that was tried out is left open to whoever comes next; and they may read another language.
  const trial = sessionToken(trialIn(cookieIn(headers.get("cookie") ?? undefined, TRIAL_COOKIE))?.session);
  if (trial !== null) await database().delete(session).where(eq(session.token, trial));
  return [...answer.headers.getSetCookie(), languageCookie(null), endTrialCookie()];
}

/** Whether an administrator has still to set up a second factor before what only administrators do. */
export async function owesSecondFactor(viewer: {
  readonly id: string;
  readonly administrator: boolean;
}): Promise<boolean> {
  if (!viewer.administrator || config.demo) return false;
  const [self] = await database()
    .select({ has: person.twoFactorEnabled })
    .from(person)
    .where(eq(person.id, viewer.id));
  return !self?.has;
}
