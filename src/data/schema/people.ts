import { boolean, index, integer, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { NoticeKind } from "@/core/notices/kinds";
import { createdAt, id, instant } from "./columns";

/** Anyone who can sign in. The sign-in library keeps its accounts in this table and the next three. */
export const person = pgTable("person", {
  id: id(),
  name: text().notNull(),
  email: text().notNull().unique(),
  emailVerified: boolean().notNull().default(true),
  image: text(),
  administrator: boolean().notNull().default(false),
  /** The secret part of the address of this person's calendar; null until it was asked for. */
  calendarKey: text().unique(),
  /** The kinds of notices that do not also come by mail. */
  mailOff: jsonb().$type<NoticeKind[]>().notNull().default([]),
  createdAt: createdAt(),
  updatedAt: createdAt(),
});

export const session = pgTable(
  "session",
  {
    id: id(),
    userId: uuid("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    token: text().notNull().unique(),
    expiresAt: instant().notNull(),
    ipAddress: text(),
    userAgent: text(),
    createdAt: createdAt(),
    updatedAt: createdAt(),
  },
  (table) => [index().on(table.userId)],
);

/** A way to sign in; for a password, its argon2 hash. */
export const account = pgTable(
  "account",
  {
    id: id(),
    userId: uuid("person_id")
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    accountId: text().notNull(),
    providerId: text().notNull(),
    password: text(),
    accessToken: text(),
    refreshToken: text(),
    idToken: text(),
    accessTokenExpiresAt: instant(),
    refreshTokenExpiresAt: instant(),
    scope: text(),
    createdAt: createdAt(),
    updatedAt: createdAt(),
  },
  (table) => [index().on(table.userId)],
);

export const verification = pgTable(
  "verification",
  {
    id: id(),
    identifier: text().notNull(),
    value: text().notNull(),
    expiresAt: instant().notNull(),
    createdAt: createdAt(),
    updatedAt: createdAt(),
  },
  (table) => [index().on(table.identifier)],
);

/** Failed sign-ins of one e-mail address or one network address within the current span. */
export const signInTries = pgTable("sign_in_tries", {
  /** "email:..." or "address:..." */
  who: text().primaryKey(),
  failed: integer().notNull(),
  since: instant().notNull(),
});
