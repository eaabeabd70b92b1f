import { sql } from "drizzle-orm";
import { index, integer, jsonb, pgEnum, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { NoticeKind } from "@/core/notices/notice-kinds";
import type { Said } from "@/core/said";
import { createdAt, id, instant } from "./columns";
import { person } from "./people";

/** Where the mail of a notice stands; "off": its reader does not want it by mail. */
export const mailState = pgEnum("mail_state", ["waiting", "sent", "off", "failed"]);

/** What one person is told: something was returned, moved, extended, answered. */
export const personNotice = pgTable(
  "person_notice",
  {
    id: id(),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    kind: text().$type<NoticeKind>().notNull(),
    /** What is said, as it is meant: its reader may read another language than who caused it. */
    text: jsonb().$type<Said>().notNull(),
    /** Where it is about, as a path of this site. */
    path: text().notNull(),
    readAt: instant(),
    mail: mailState().notNull(),
    mailTries: integer().notNull().default(0),
    /** When its mail may be tried next. */
    mailFrom: instant().notNull().defaultNow(),
    createdAt: createdAt(),
  },
  (table) => [
    index().on(table.personId, table.createdAt),
    index("unseen_notices").on(table.personId).where(sql`${table.readAt} is null`),
    index("waiting_mail").on(table.mailFrom).where(sql`${table.mail} = 'waiting'`),
  ],
);

/** Mail that went to the internal mailbox, because no mail server is set. */
export const mailboxMail = pgTable(
  "mailbox_mail",
  {
    id: id(),
    recipient: text().notNull(),
    subject: text().notNull(),
    text: text().notNull(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.createdAt)],
);
