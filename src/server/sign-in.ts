import { eq, inArray, sql } from "drizzle-orm";
import * as yup from "yup";
import { MINUTE } from "@/core/time/instants";
import { counted } from "@/core/time/words";
import { database } from "@/data/database";
import { signInTries } from "@/data/schema";
import { accounts } from "./accounts";
import { now } from "./clock";
import { Problem } from "./problems";

/** Failed tries allowed within the span, for one e-mail address and for one network address. */
const LIMITS = { email: 8, address: 60 } as const;
const SPAN = 15 * MINUTE;

const keysOf = (email: string, address: string) =>
  [`email:${email.toLowerCase()}`, `address:${address}`] as const;

async function refuseWhenTooMany(email: string, address: string): Promise<void> {
  const [byEmail, byAddress] = keysOf(email, address);
  const rows = await database()
    .select()
    .from(signInTries)
    .where(inArray(signInTries.who, [byEmail, byAddress]));
  const at = now();
  for (const { who, failed, since } of rows) {
    const left = since.getTime() + SPAN - at;
    if (left > 0 && failed >= (who === byEmail ? LIMITS.email : LIMITS.address)) {
      const wait = counted(Math.ceil(left / MINUTE), "minute");
      throw new Problem(429, "too-many-tries", `Too many tries that failed. Try again in ${wait}.`);
    }
  }
}

async function countFailure(email: string, address: string): Promise<void> {
  const at = new Date(now());
  const stale = new Date(now() - SPAN);
  await database()
    .insert(signInTries)
    .values(keysOf(email, address).map((who) => ({ who, failed: 1, since: at })))
    .onConflictDoUpdate({
      target: signInTries.who,
      set: {
        failed: sql`case when ${signInTries.since} < ${stale.toISOString()}::timestamptz then 1 else ${signInTries.failed} + 1 end`,
        since: sql`case when ${signInTries.since} < ${stale.toISOString()}::timestamptz then ${at.toISOString()}::timestamptz else ${signInTries.since} end`,
      },
    });
}

export const signInForm = yup.object({
  email: yup.string().trim().max(200).required("Write the e-mail address of your account."),
  password: yup.string().max(500).required("Write your password."),
});

/** Signs a person in; answers the cookies to set. Wrong words and unknown people get the same answer. */
export async function signIn(terms: {
  readonly email: string;
  readonly password: string;
  readonly address: string;
  readonly headers: Headers;
}): Promise<string[]> {
  const { email, password, address } = terms;
  await refuseWhenTooMany(email, address);
  const answer = await accounts().api.signInEmail({
    body: { email, password },
    headers: terms.headers,
    asResponse: true,
  });
  if (!answer.ok) {
    if (answer.status >= 500) throw new Error(`The sign-in library answered ${answer.status}.`);
    await countFailure(email, address);
    throw new Problem(
      401,
      "wrong-sign-in",
      "The e-mail address or the password is not right. Check both and try again.",
    );
  }
  await database()
    .delete(signInTries)
    .where(eq(signInTries.who, keysOf(email, address)[0]));
  return answer.headers.getSetCookie();
}

/** Ends the session of the request; answers the cookies to set. */
export async function signOut(headers: Headers): Promise<string[]> {
  const answer = await accounts().api.signOut({ headers, asResponse: true });
  return answer.headers.getSetCookie();
}
