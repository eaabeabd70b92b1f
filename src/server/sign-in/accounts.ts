import { hash, verify } from "@node-rs/argon2";
import { betterAuth } from "better-auth";
import { drizzleAdapter } from "better-auth/adapters/drizzle";
import { twoFactor } from "better-auth/plugins/two-factor";
import { database } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { config } from "../base/config";
import { cookieName } from "../base/cookies";
import { log } from "../base/log";

export const SESSION_DAYS = 14;

/** Argon2id with the library's default strength. */
export const hashPassword = (password: string): Promise<string> => hash(password);

export const passwordMatches = (stored: string, password: string): Promise<boolean> =>
  verify(stored, password);

const cookieTerms = { path: "/", httpOnly: true, sameSite: "lax", secure: config.isSecure } as const;

function create() {
  return betterAuth({
    secret: config.secret,
    // Only used for redirects and callbacks, which Shizuka does not have; requests come through our own endpoints.
    baseURL: "http://localhost",
    database: drizzleAdapter(database(), { provider: "pg", schema: { ...schema, user: schema.person } }),
    user: { modelName: "person" },
    // The end of a session is moved on by viewer.ts.
    session: { expiresIn: SESSION_DAYS * 24 * 3600, disableSessionRefresh: true },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      password: {
        hash: hashPassword,
        verify: ({ hash: stored, password }) => passwordMatches(stored, password),
      },
    },
    // Our own limit holds for every process; see sign-in.ts.
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    logger: {
      level: "error",
      log: (_, message) => log.error({ from: "the sign-in library" }, message),
    },
    plugins: [
      twoFactor({
        issuer: config.institution,
        twoFactorTable: "secondFactor",
        totpOptions: { digits: 6, period: 30 },
        backupCodeOptions: { amount: 10, length: 10 },
        // Tries are counted by try-pace.ts: they slow down and never lock anybody out.
        accountLockout: { enabled: false },
      }),
    ],
    advanced: {
      database: { generateId: () => newId() },
      cookiePrefix: "shizuka",
      useSecureCookies: false,
      cookies: {
        session_token: { name: cookieName("session_token"), attributes: cookieTerms },
        two_factor: { name: cookieName("two_factor"), attributes: cookieTerms },
        dont_remember: { name: cookieName("dont_remember"), attributes: cookieTerms },
      },
      defaultCookieAttributes: cookieTerms,
    },
  });
}

let library: ReturnType<typeof create> | undefined;

/** The sign-in library: accounts, passwords, and ending sessions. The check on each request is our own, in viewer.ts. */
export function accounts() {
  library ??= create();
  return library;
}
