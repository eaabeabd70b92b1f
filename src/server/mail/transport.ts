import { createTransport, type Transport, type Transporter } from "nodemailer";
import { database } from "@/data/database";
import { mailboxMail } from "@/data/schema";
import { config } from "../base/config";

/** Where mail goes while no mail server is set: a internal mailbox, which its administrator can read. */
const internalMailbox: Transport = {
  name: "internal mailbox",
  version: "1",
  send(mail, done) {
    const { subject = "", text = "" } = mail.data;
    const { to } = mail.message.getEnvelope();
    database()
      .insert(mailboxMail)
      .values({ recipient: to.join(", "), subject, text: String(text) })
      .then(
        () => done(null, { envelope: mail.message.getEnvelope(), messageId: mail.message.messageId() }),
        (error: Error) => done(error),
      );
  },
};

const LIMIT = 10_000;

let transporter: Transporter | null = null;

/** The way out for mail: the mail server that is set, or the internal mailbox. */
export function mailTransport(): Transporter {
  transporter ??= config.smtp
    ? createTransport(config.smtp, {
        connectionTimeout: LIMIT,
        greetingTimeout: LIMIT,
        socketTimeout: LIMIT,
      } as Parameters<typeof createTransport>[1])
    : createTransport(internalMailbox);
  return transporter;
}
