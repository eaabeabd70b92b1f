import { desc } from "drizzle-orm";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { mailboxMail } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { config } from "../base/config";
import { notFound } from "../base/problems";

export interface MailboxView {
  /** Whether a mail server is set, so that nothing new comes here. */
  readonly hasServer: boolean;
  readonly mails: readonly {
    readonly id: string;
    readonly recipient: string;
    readonly subject: string;
    readonly text: string;
    readonly at: Instant;
  }[];
}

const MOST = 200;

/** The internal mailbox, for administrators; to anyone else there is none. */
export async function mailboxOf(viewer: Viewer): Promise<MailboxView> {
  if (!viewer.administrator) throw notFound();
  const rows = await database().select().from(mailboxMail).orderBy(desc(mailboxMail.id)).limit(MOST);
  return {
    hasServer: config.smtp !== null,
    mails: rows.map(({ createdAt, ...mail }) => ({ ...mail, at: createdAt.getTime() })),
  };
}
