import { lt } from "drizzle-orm";
import { MINUTE } from "@/core/time/instants";
import { database } from "@/data/database";
import { knownDevice, session, tryPace, verification } from "@/data/schema";
import { now } from "../base/clock";
import { KNOWN_FOR } from "./known-devices";

/** Forgets what coming in has left behind: ended sessions, old tries and steps, browsers that nobody uses any more. */
export async function forgetEnded(): Promise<void> {
  const db = database();
  const at = now();
  await db.delete(session).where(lt(session.expiresAt, new Date(at)));
  await db.delete(tryPace).where(lt(tryPace.paidUntil, new Date(at - 10 * MINUTE)));
  await db.delete(verification).where(lt(verification.expiresAt, new Date(at)));
  await db.delete(knownDevice).where(lt(knownDevice.usedAt, new Date(at - KNOWN_FOR)));
}
