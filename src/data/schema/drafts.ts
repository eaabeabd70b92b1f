import { sql } from "drizzle-orm";
import {
  bigint,
  customType,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import type { PlannedWindow } from "@/core/course/moved-windows";
import type { DraftPiece } from "@/core/draft/pieces";
import type { QuizSettings } from "@/core/quiz/rules";
import { createdAt, id, instant } from "./columns";
import { course } from "./courses";
import { person } from "./people";
import { quiz } from "./quizzes";

const bytes = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => "bytea" });

/** A quiz that is being written. It is no quiz: whatever lists quizzes, shows them or hands them out does not know of it. */
export const draft = pgTable(
  "draft",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    /** The quiz that it was assigned as, or was made from; null: none yet. */
    quizId: uuid().references(() => quiz.id, { onDelete: "set null" }),
    /** The version of that quiz which it was made of, or last became. */
    ofVersion: integer(),
    /** The quiz's settings that its rules were written on: the quiz's may be changed elsewhere; null: no quiz yet. */
    settings: jsonb().$type<QuizSettings>(),
    /** When it is meant to be set, where it was copied with its dates; null: nothing was said. */
    planned: jsonb().$type<PlannedWindow>(),
    /** The title in its head, for lists. */
    title: text().notNull(),
    createdBy: uuid()
      .notNull()
      .references(() => person.id),
    createdAt: createdAt(),
    /** When something in it was changed last, and by whom. */
    changedAt: instant().notNull().defaultNow(),
    changedBy: uuid()
      .notNull()
      .references(() => person.id),
    /** When it last became a version of its quiz; null: never. */
    assignedAt: instant(),
    /** When it was put away; null: it is there. */
    removedAt: instant(),
  },
  (table) => [
    index().on(table.courseId),
    index().on(table.quizId),
    // One quiz is written in one place.
    unique("draft_of_quiz").on(table.quizId),
  ],
);

/** What stands in each piece of a draft now. */
export const draftPiece = pgTable(
  "draft_piece",
  {
    draftId: uuid()
      .notNull()
      .references(() => draft.id, { onDelete: "cascade" }),
    slot: integer().notNull(),
    piece: jsonb().$type<DraftPiece>().notNull(),
    /** Counted from 1 with each change. */
    version: integer().notNull(),
    /** The number of its change among all changes of drafts: who asks what is new names the last one they know. */
    change: bigint({ mode: "number" }).notNull(),
    device: uuid().notNull(),
    revision: bigint({ mode: "number" }).notNull(),
    authorId: uuid()
      .notNull()
      .references(() => person.id),
    savedAt: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.draftId, table.slot] })],
);

/** Every saved change of a draft, in order; only ever added to. */
export const draftLog = pgTable(
  "draft_log",
  {
    change: bigint({ mode: "number" }).notNull().generatedAlwaysAsIdentity(),
    draftId: uuid()
      .notNull()
      .references(() => draft.id, { onDelete: "cascade" }),
    slot: integer().notNull(),
    piece: jsonb().$type<DraftPiece>().notNull(),
    version: integer().notNull(),
    device: uuid().notNull(),
    revision: bigint({ mode: "number" }).notNull(),
    authorId: uuid()
      .notNull()
      .references(() => person.id),
    savedAt: instant().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.draftId, table.slot, table.device, table.revision] }),
    index("draft_log_order").on(table.draftId, table.change),
  ],
);

/** Who has a draft open, and which piece of it: told to others who write in it. Grows old by itself. */
export const draftAuthor = pgTable(
  "draft_author",
  {
    draftId: uuid()
      .notNull()
      .references(() => draft.id, { onDelete: "cascade" }),
    device: uuid().notNull(),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    slot: integer().notNull(),
    seenAt: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.draftId, table.device] })],
);

/** A picture, a sound or a film that a course's quizzes may show; each content once. */
export const asset = pgTable(
  "asset",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    /** Told by the content. */
    type: text().notNull(),
    /** SHA-256 of the bytes. */
    digest: text().notNull(),
    /** Width through height; of sounds 1. */
    aspect: doublePrecision().notNull().default(sql`1`),
    bytes: bytes().notNull(),
    createdBy: uuid()
      .notNull()
      .references(() => person.id),
    createdAt: createdAt(),
  },
  (table) => [unique().on(table.courseId, table.digest)],
);
