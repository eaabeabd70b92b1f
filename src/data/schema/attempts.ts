import { sql } from "drizzle-orm";
import {
  bigint,
  boolean,
  check,
  index,
  integer,
  jsonb,
  numeric,
  pgEnum,
  pgTable,
  primaryKey,
  smallint,
  text,
  unique,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { MarkedQuestion } from "@/core/kinds/kind";
import type { CriteriaMarks } from "@/core/kinds/rubric";
import type { Revealed } from "@/core/quiz/rules";
import type { Said } from "@/core/said";
import { createdAt, id, instant } from "./columns";
import { person } from "./people";
import { quiz, quizVersion } from "./quizzes";
import { reMarking } from "./re-marking";

export const handedInBy = pgEnum("handed_in_by", ["student", "clock", "instructor"]);

/** One student's go at a quiz. Its questions follow from the version and the seed. */
export const attempt = pgTable(
  "attempt",
  {
    id: id(),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id),
    versionId: uuid()
      .notNull()
      .references(() => quizVersion.id),
    personId: uuid()
      .notNull()
      .references(() => person.id),
    number: integer().notNull(),
    seed: text().notNull(),
    /** Which key its names are made with (`server_key`); 1: those of the first naming, without a key. */
    naming: smallint().notNull().default(1),
    /** When the server first sent the questions; null until then. */
    sentAt: instant(),
    /** When the clock started: until the desk confirms, the moment at which it would start by itself. */
    startedAt: instant().notNull(),
    confirmed: boolean().notNull().default(false),
    /** When it ends, worked out from limit, allowance, window and `addedMs`; null: nothing ends it but its writer. */
    deadline: instant(),
    /** The sum of the time that instructors added to it, in milliseconds. */
    addedMs: bigint({ mode: "number" }).notNull().default(0),
    handedInAt: instant(),
    handedInBy: handedInBy(),
    /** The question that was on the screen last. */
    here: smallint().notNull().default(1),
    /** The page that was reached, from 0: what is before it may be closed, what is after it not sent yet. */
    page: smallint().notNull().default(0),
    /** Slots that were told at once, and so are closed. */
    told: jsonb().$type<number[]>().notNull().default([]),
    /** Slots that checking has closed: right, or without tries left, in all their parts. */
    checkedOff: jsonb().$type<number[]>().notNull().default([]),
    /** Totals over its current marks, once handed in. */
    earned: numeric({ precision: 12, scale: 4 }),
    awaited: numeric({ precision: 12, scale: 4 }),
    maximum: numeric({ precision: 12, scale: 4 }).notNull(),
    returnedAt: instant(),
    /** When its student looked at its marked paper last, with something on it to read. */
    paperReadAt: instant(),
    /** The instructor's words on the whole of it, as they were returned; rich text. */
    feedback: text(),
    /** Its number in the pile of its quiz, drawn by lot when it is first listed: it tells nothing of whose it is. */
    paper: smallint(),
    /** When what was written in it was removed by the rule on how long it is kept; its total stays. */
    writtenRemovedAt: instant(),
  },
  (table) => [
    unique().on(table.quizId, table.personId, table.number),
    unique().on(table.quizId, table.paper),
    // Two starts at once make one attempt.
    uniqueIndex("one_running_attempt")
      .on(table.quizId, table.personId)
      .where(sql`${table.handedInAt} is null`),
    index("running_deadlines").on(table.deadline).where(sql`${table.handedInAt} is null`),
    index().on(table.personId),
  ],
);

/** Which question stands at which slot of an attempt, written when it starts: so the answers to a question are found. */
export const attemptQuestion = pgTable(
  "attempt_question",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    /** Its id within the quiz. */
    questionId: text().notNull(),
    /** When it was first on the screen, as its desk told; null: it did not. */
    seenAt: instant(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.slot] }), index().on(table.questionId)],
);

/** What stands in each slot now. */
export const answer = pgTable(
  "answer",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    answer: jsonb(),
    ribbon: boolean().notNull().default(false),
    ruledOut: jsonb().$type<string[]>().notNull().default([]),
    revision: bigint({ mode: "number" }).notNull(),
    device: uuid().notNull(),
    /** The server's time at the writing, as the device reckoned it. */
    writtenAt: instant().notNull(),
    savedAt: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.slot] })],
);

/** Every saved change, in order of arrival; only ever added to. */
export const answerLog = pgTable(
  "answer_log",
  {
    attemptId: uuid().notNull(),
    slot: smallint().notNull(),
    device: uuid().notNull(),
    revision: bigint({ mode: "number" }).notNull(),
    answer: jsonb(),
    ribbon: boolean().notNull(),
    ruledOut: jsonb().$type<string[]>().notNull(),
    writtenAt: instant().notNull(),
    savedAt: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.slot, table.device, table.revision] })],
);

/** What a student checked during the attempt, in order; each may be a try. */
export const answerCheck = pgTable(
  "answer_check",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    number: integer().notNull(),
    answer: jsonb(),
    /** Which of its parts was checked, by its place; null: all of them. */
    part: smallint(),
    createdAt: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.slot, table.number] })],
);

export const lateDecision = pgEnum("late_decision", ["taken", "left"]);

/** What a device wrote in time but delivered after the end: kept apart, for the instructor to accept or leave. */
export const lateWriting = pgTable(
  "late_writing",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    device: uuid().notNull(),
    revision: bigint({ mode: "number" }).notNull(),
    answer: jsonb(),
    ribbon: boolean().notNull().default(false),
    ruledOut: jsonb().$type<string[]>().notNull().default([]),
    writtenAt: instant().notNull(),
    arrivedAt: instant().notNull(),
    /** What of the marked paper its student could see when it came: the device's word for its time weighs less then. */
    shown: jsonb().$type<Revealed[]>().notNull().default([]),
    /** What an instructor decided of it, when, and why; null: nothing yet. Its student reads it. */
    decision: lateDecision(),
    decidedAt: instant(),
    decidedBy: uuid().references(() => person.id),
    reason: text(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.slot, table.device, table.revision] })],
);

export const markSource = pgEnum("mark_source", ["rule", "hand"]);

/** The marks of a slot, only ever added to: the newest row of a slot holds, the others are its history. */
export const mark = pgTable(
  "mark",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    id: uuid().notNull(),
    /** The database's own order: what was added later has the larger number, whatever any clock says. */
    added: bigint({ mode: "number" }).notNull().generatedAlwaysAsIdentity(),
    marks: numeric({ precision: 12, scale: 4 }).notNull(),
    awaiting: numeric({ precision: 12, scale: 4 }).notNull(),
    maximum: numeric({ precision: 12, scale: 4 }).notNull(),
    source: markSource().notNull(),
    /** The question's id within the quiz; missing only in what is older than this column, until it was carried over. */
    questionId: text(),
    /** The version by whose key it was made. */
    versionId: uuid().references(() => quizVersion.id),
    /** The re-marking that made it; null: none did. */
    batchId: uuid().references(() => reMarking.id),
    /** Which hand-in of the attempt it is the mark of: an attempt that was taken back has several. */
    handIn: smallint().notNull().default(1),
    /** By a rubric: what was reached in each criterion, and what was said of it. */
    criteria: jsonb().$type<CriteriaMarks>(),
    /** What the marker says of the whole answer; rich text. */
    feedback: text(),
    /** Part by part, exact, with the reasons in words. */
    detail: jsonb().$type<MarkedQuestion>().notNull(),
    /** Why it was set: a sentence as it is meant, or what an instructor wrote. */
    reason: jsonb().$type<Said>().notNull(),
    markedBy: uuid().references(() => person.id),
    createdAt: createdAt(),
  },
  (table) => [
    primaryKey({ columns: [table.attemptId, table.slot, table.id] }),
    index("mark_batch").on(table.batchId).where(sql`${table.batchId} is not null`),
    // Not asked of what is older: that is carried over when the application starts.
    check("mark_names_its_question", sql`${table.questionId} is not null`),
  ],
);

/** The proof of a hand-in; each hand-in has its own. */
export const slip = pgTable(
  "slip",
  {
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    number: integer().notNull(),
    code: text().notNull().unique(),
    handedInAt: instant().notNull(),
    handedInBy: handedInBy().notNull(),
    answered: integer().notNull(),
    /** Answered in part; counted in none of the others. */
    inPart: integer().notNull().default(0),
    questions: integer().notNull(),
    /** SHA-256 of each slot's answer, in order; "" where nothing was written. */
    digests: jsonb().$type<string[]>().notNull(),
    /** When this hand-in was taken back; null: it stands. */
    takenBackAt: instant(),
  },
  (table) => [primaryKey({ columns: [table.attemptId, table.number] })],
);

/**
 * A desk that is open, in whichever process: a row for each stream of events, with when it was last known to be there. A
 * process that is killed leaves its rows behind, and they grow old.
 */
export const openDesk = pgTable(
  "open_desk",
  {
    stream: uuid().primaryKey(),
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    personId: uuid().notNull(),
    /** The page as a writer of answers: what it writes itself it need not be told. */
    device: uuid(),
    seenAt: instant().notNull(),
  },
  (table) => [index().on(table.attemptId), index().on(table.seenAt)],
);
