import { and, asc, eq, inArray, lte } from "drizzle-orm";
import type { Transporter } from "nodemailer";
import { firstWords } from "@/core/text/plain-text";
import { type Instant, MINUTE } from "@/core/time/instants";
import { database, inTransaction } from "@/data/database";
import { person, personNotice } from "@/data/schema";
import { say, t } from "@/words/t";
import { now } from "../base/clock";
import { config } from "../base/config";
import { inLanguage } from "../base/language";
import { log } from "../base/log";
import { mailTransport } from "./transport";

/** After so many refusals a notice is no longer sent by mail; it stays at the bell. */
const MOST_TRIES = 6;

/** After a refusal; each pause is four times the one before, so that the last try comes after most of a day. */
const PAUSE = MINUTE;

const bodyOf = (name: string, words: string, path: string): string =>
  [
    t("server.mail.send-waiting.dear", { name }),
    "",
    words,
    "",
    `${config.address}${path}`,
    "",
    t("server.mail.send-waiting.which-notices-also-come-by-mail", { address: config.address }),
    "",
    config.institution,
  ].join("\n");

/** While one process sends, no other takes the same notice; if it dies on the way, another one does after this. */
const TAKEN_FOR = 5 * MINUTE;

/** Takes notices that wait to be mailed, oldest first: they are this process's own for a while. */
const takeWaiting = (most: number, at: Instant) =>
  inTransaction(async (tx) => {
    const waiting = await tx
      .select({ notice: personNotice, name: person.name, email: person.email, language: person.language })
      .from(personNotice)
      .innerJoin(person, eq(person.id, personNotice.personId))
      .where(and(eq(personNotice.mail, "waiting"), lte(personNotice.mailFrom, new Date(at))))
      .orderBy(asc(personNotice.mailFrom))
      .limit(most)
      .for("update", { of: personNotice, skipLocked: true });
    if (waiting.length > 0) {
      await tx
        .update(personNotice)
        .set({ mailFrom: new Date(at + TAKEN_FOR) })
        .where(
          inArray(
            personNotice.id,
            waiting.map(({ notice }) => notice.id),
          ),
        );
    }
    return waiting;
  });

/**
 * Sends notices that wait to be mailed, oldest first; returns how many were tried. Any number of processes may call it: each
 * takes its own. No transaction is held while a mail server is spoken to. One that was sent while the answer was lost is
 * sent again rather than never.
 */
export async function sendWaiting(
  most = 20,
  mail: Pick<Transporter, "sendMail"> = mailTransport(),
): Promise<number> {
  const at = now();
  const waiting = await takeWaiting(most, at);
  for (const { notice, name, email, language } of waiting) {
    const tries = notice.mailTries + 1;
    let state: "sent" | "waiting" | "failed" = "sent";
    try {
      const { subject, text } = inLanguage(language, () => {
        const words = say(notice.text);
        return { subject: firstWords(words, 70), text: bodyOf(name, words, notice.path) };
      });
      await mail.sendMail({ from: config.mailFrom, to: { name, address: email }, subject, text });
    } catch (error) {
      state = tries >= MOST_TRIES ? "failed" : "waiting";
      log.warn({ err: error, notice: notice.id, tries }, "a notice could not be mailed");
    }
    await database()
      .update(personNotice)
      .set({ mail: state, mailTries: tries, mailFrom: new Date(at + PAUSE * 4 ** tries) })
      .where(eq(personNotice.id, notice.id));
  }
  return waiting.length;
}
