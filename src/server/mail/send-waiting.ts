import { and, asc, eq, lte } from "drizzle-orm";
import type { Transporter } from "nodemailer";
import { firstWords } from "@/core/kinds/text";
import { MINUTE } from "@/core/time/instants";
import { type Database, database } from "@/data/database";
import { person, personNotice } from "@/data/schema";
import { now } from "../clock";
import { config } from "../config";
import { log } from "../log";
import { mailTransport } from "./transport";

/** After so many refusals a notice is no longer sent by mail; it stays at the bell. */
const MOST_TRIES = 6;

/** After a refusal; each pause is four times the one before, so that the last try comes after most of a day. */
const PAUSE = MINUTE;

const bodyOf = (name: string, { text, path }: typeof personNotice.$inferSelect): string =>
  [
    `${name},`,
    "",
    text,
    "",
    `${config.address}${path}`,
    "",
    `Which notices also come by mail is switched in your profile: ${config.address}/profile#notices`,
    "",
    config.institution,
  ].join("\n");

/**
 * Sends notices that wait to be mailed, oldest first; answers how many were tried. Any number of processes may call it: each
 * takes its own. One that was sent while the answer was lost is sent again rather than never.
 */
export async function sendWaiting(
  most = 20,
  db: Database = database(),
  mail: Pick<Transporter, "sendMail"> = mailTransport(),
): Promise<number> {
  const at = now();
  return db.transaction(async (tx) => {
    const waiting = await tx
      .select({ notice: personNotice, name: person.name, email: person.email })
      .from(personNotice)
      .innerJoin(person, eq(person.id, personNotice.personId))
      .where(and(eq(personNotice.mail, "waiting"), lte(personNotice.mailFrom, new Date(at))))
      .orderBy(asc(personNotice.mailFrom))
      .limit(most)
      .for("update", { of: personNotice, skipLocked: true });
    for (const { notice, name, email } of waiting) {
      const tries = notice.mailTries + 1;
      let state: "sent" | "waiting" | "failed" = "sent";
      try {
        await mail.sendMail({
          from: config.mailFrom,
          to: { name, address: email },
          subject: firstWords(notice.text, 70),
          text: bodyOf(name, notice),
        });
      } catch (error) {
        state = tries >= MOST_TRIES ? "failed" : "waiting";
        log.warn({ err: error, notice: notice.id, tries }, "a notice could not be mailed");
      }
      await tx
        .update(personNotice)
        .set({ mail: state, mailTries: tries, mailFrom: new Date(at + PAUSE * 4 ** tries) })
        .where(eq(personNotice.id, notice.id));
    }
    return waiting.length;
  });
}
