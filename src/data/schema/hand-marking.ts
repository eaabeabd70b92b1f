import {
  bigint,
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import type { HandWork } from "@/core/marking/hand-work";
import type { NoteAnchor } from "@/core/reveal/note-anchor";
import { attempt } from "./attempts";
import { createdAt, id, instant } from "./columns";
import { course } from "./courses";
import { person } from "./people";
import { quiz } from "./quizzes";

/**
 * What markers are writing to an answer: the newest state, which no student's page reads. Returning makes marks, notes and
 * feedback of it, in tables of their own. Slot 0 is the attempt as a whole.
 */
export const handMarking = pgTable(
  "hand_marking",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    work: jsonb().$type<HandWork>().notNull(),
    /** Whether nothing is left to decide. */
    done: boolean().notNull(),
    /** Digest of the answer that it was written of; "" where nothing was written, or of a paper as a whole. */
    answerDigest: text().notNull().default(""),
    /** Grows by one with each change: what is written on an older state than the one stored is refused. */
    version: integer().notNull(),
    /** The page that wrote it, and its own number of the change. */
    device: uuid().notNull(),
    revision: bigint({ mode: "number" }).notNull(),
    authorId: uuid()
      .notNull()
      .references(() => person.id),
    writtenAt: instant().notNull(),
    savedAt: instant().notNull(),
    /** The version that was returned last; null: none. */
    returnedVersion: integer(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.slot] })],
);

/** Every change of what markers write, in order of arrival; only ever added to. */
export const handMarkingLog = pgTable(
  "hand_marking_log",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    device: uuid().notNull(),
    revision: bigint({ mode: "number" }).notNull(),
    work: jsonb().$type<HandWork>().notNull(),
    version: integer().notNull(),
    authorId: uuid().notNull(),
    writtenAt: instant().notNull(),
    savedAt: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.slot, table.device, table.revision] })],
);

/** A margin note that was returned, beside a question: to all of the answer, to words of it, or to a place on a page. */
export const marginNote = pgTable(
  "margin_note",
  {
    /** Made where it is written; it is a name within its attempt only. */
    id: uuid().notNull(),
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    authorId: uuid()
      .notNull()
      .references(() => person.id),
    /** Null: the whole answer. */
    anchor: jsonb().$type<NoteAnchor>(),
    /** Rich text, cleaned on the way in. */
    text: text().notNull(),
    createdAt: createdAt(),
    /** When it was returned with other words, or at another place, last. */
    editedAt: instant(),
    /** When it was taken away; null: it stands. */
    withdrawnAt: instant(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.id] })],
);

/** Who has an answer on their screen to mark it, and until when, unless they say so again. */
export const claim = pgTable(
  "claim",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    /** The page that has it. */
    device: uuid().notNull(),
    until: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.slot] })],
);

/** Whose paper it is to mark, where a pile is shared out. */
export const sharedPaper = pgTable(
  "shared_paper",
  {
    attemptId: uuid()
      .primaryKey()
      .references(() => attempt.id, { onDelete: "cascade" }),
    markerId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
  },
  (table) => [index().on(table.markerId)],
);

/** How somebody wants to see the pile of a quiz. */
export const pileView = pgTable(
  "pile_view",
  {
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    /** Whether nothing on the screen may tell whose answer it is. */
    namesHidden: boolean().notNull().default(false),
    /** Whether it goes by student, all answers of one together, and not by question. */
    byStudent: boolean().notNull().default(false),
  },
  (table) => [primaryKey({ columns: [table.quizId, table.personId] })],
);

/** A sentence that a marker keeps to use again. */
export const remark = pgTable(
  "remark",
  {
    id: id(),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    /** What is typed after the stroke to bring it in. */
    short: text().notNull(),
    text: text().notNull(),
    /** When it was shared with the other markers of the course; null: it is one's own. */
    sharedAt: instant(),
    /** How often it was brought in. */
    used: integer().notNull().default(0),
    createdAt: createdAt(),
  },
  (table) => [unique().on(table.personId, table.courseId, table.short), index().on(table.courseId)],
);
