import { boolean, index, integer, jsonb, pgTable, text, unique, uuid } from "drizzle-orm/pg-core";
import type { NoticeKind } from "@/core/notices/notice-kinds";
import { createdAt, id, instant } from "./columns";

/** Anyone who can sign in. The sign-in library keeps its accounts in this table and the next three. */
export const person = pgTable("person", {
  id: id(),
  name: text().notNull(),
  email: text().notNull().unique(),
  emailVerified: boolean().notNull().default(true),
  image: text(),
  administrator: boolean().notNull().default(false),
  /** Whether signing in also asks for a code. */
  twoFactorEnabled: boolean().notNull().default(false),
  /** The secret part of the address of this person's calendar; null until it was asked for. */
  calendarKey: text().unique(),
  /** The kinds of notices that do not also come by mail. */
  mailOff: jsonb().$type<NoticeKind[]>().notNull().default([]),
  /** The language this person reads, by its short name; null: the institution's own. */
  language: text(),
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

/**
 * How fast something secret may be tried: each try that was counted pays for a while ahead, and who has paid too far ahead
 * waits. One row for each of whom, or whence, tries are counted.
 */
export const tryPace = pgTable("try_pace", {
  /** "person and network ...", "network ...", "device ...". */
  who: text().primaryKey(),
  paidUntil: instant().notNull(),
});

/** A browser from which somebody signed in before: others' tries do not slow it, and signing in there is no news. */
export const knownDevice = pgTable(
  "known_device",
  {
    id: id(),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    /** SHA-256 of the secret in its cookie. */
    secretHash: text().notNull(),
    usedAt: instant().notNull(),
    createdAt: createdAt(),
  },
  (table) => [unique().on(table.personId, table.secretHash)],
);

/** A person's second factor: the secret of its time codes and the recovery codes, encrypted by the sign-in library. */
export const secondFactor = pgTable("second_factor", {
  id: id(),
  userId: uuid("person_id")
    .notNull()
    .unique()
    .references(() => person.id, { onDelete: "cascade" }),
  secret: text().notNull(),
  backupCodes: text().notNull(),
  /** False until its first code was given. */
  verified: boolean().notNull().default(false),
  failedVerificationCount: integer().notNull().default(0),
  lockedUntil: instant(),
});
