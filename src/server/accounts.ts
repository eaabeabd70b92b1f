import { hash, verify } from "@node-rs/argon2";
import { betterAuth } from "better-auth";
import { drizzleAdapter } from "better-auth/adapters/drizzle";
import { database } from "@/data/database";
import * as schema from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { config } from "./config";
import { log } from "./log";

export const SESSION_DAYS = 14;

/** Argon2id with the library's default strength. */
export const hashPassword = (password: string): Promise<string> => hash(password);

export const passwordMatches = (kept: string, password: string): Promise<boolean> => verify(kept, password);

function create() {
  if (config.secret.length < 32) {
    throw new Error("SHIZUKA_SECRET must be set to at least 32 random characters: it signs the sessions.");
  }
  return betterAuth({
    secret: config.secret,
    // Only used for redirects and callbacks, which Shizuka does not have; requests come through our own endpoints.
    baseURL: "http://localhost",
    database: drizzleAdapter(database(), { provider: "pg", schema: { ...schema, user: schema.person } }),
    user: { modelName: "person" },
    session: { expiresIn: SESSION_DAYS * 24 * 3600 },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      password: { hash: hashPassword, verify: ({ hash: kept, password }) => passwordMatches(kept, password) },
    },
    // Our own limit holds for every process; see sign-in.ts.
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    logger: { level: "error", log: (_, message) => log.error({ from: "the sign-in library" }, message) },
    advanced: { database: { generateId: () => newId() }, cookiePrefix: "shizuka" },
  });
}

let library: ReturnType<typeof create> | undefined;

/** The sign-in library: accounts, passwords, and ending sessions. The check on each request is our own, in viewer.ts. */
export function accounts() {
  library ??= create();
  return library;
}
