import { sql } from "drizzle-orm";
import {
  boolean,
  check,
  doublePrecision,
  index,
  integer,
  jsonb,
  numeric,
  pgTable,
  primaryKey,
  text,
  unique,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { QuizContent } from "@/core/quiz/quiz-file";
import type { QuizSettings, Revealed } from "@/core/quiz/rules";
import { createdAt, id, instant } from "./columns";
import { course, courseSection } from "./courses";
import { person } from "./people";

/** A quiz set in a course: its window, its settings, and its current version. */
export const quiz = pgTable(
  "quiz",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    title: text().notNull(),
    opens: instant(),
    due: instant(),
    closes: instant(),
    /** What holds for all its attempts, whatever version they were written on; each change is kept. */
    settings: jsonb().$type<QuizSettings>().notNull(),
    /** Whose quiz it is: the person to ask. */
    instructorId: uuid()
      .notNull()
      .references(() => person.id),
    /** Another quiz that has to be handed in first, and the share in per cent that has to be reached in it, if any. */
    firstQuizId: uuid(),
    firstAtLeast: numeric({ precision: 7, scale: 4 }),
    /** Whether only those on its list may take it; the others of the course see it but cannot enter. */
    onlyAssigned: boolean().notNull().default(false),
    currentVersion: integer().notNull().default(1),
    /** Which things have come to be shown by the clock and were told to those who handed in. */
    shownTold: text().array().$type<(Revealed | "last")[]>().notNull().default([]),
    /** What came to be shown before this is not news. */
    tellsShownFrom: instant().notNull().defaultNow(),
    /** Openings up to this moment were told, or are no news. */
    openingTold: instant().notNull().defaultNow(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.courseId)],
);

/** What was changed in a quiz's settings, by whom and why; only ever added to. */
export const settingChange = pgTable(
  "setting_change",
  {
    id: id(),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    before: jsonb().$type<QuizSettings>().notNull(),
    after: jsonb().$type<QuizSettings>().notNull(),
    reason: text().notNull(),
    changedBy: uuid()
      .notNull()
      .references(() => person.id),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.quizId)],
);

/** Who may take a quiz that is not for everybody. */
export const assignment = pgTable(
  "assignment",
  {
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    createdAt: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.quizId, table.personId] })],
);

/** Which quizzes are given to which assistants: they see and mark no others. */
export const givenQuiz = pgTable(
  "given_quiz",
  {
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    createdAt: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.quizId, table.personId] })],
);

/** What a quiz asks, with its keys, and how it is taken. Never changed once an attempt has started with it. */
export const quizVersion = pgTable(
  "quiz_version",
  {
    id: id(),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    number: integer().notNull(),
    content: jsonb().$type<QuizContent>().notNull(),
    /** What lists need of the content, kept beside it so that they need not read it. */
    facts: jsonb().$type<QuizFacts>().notNull(),
    createdAt: createdAt(),
    createdBy: uuid().references(() => person.id),
  },
  (table) => [unique().on(table.quizId, table.number)],
);

/** The few facts of a version that lists show. */
export interface QuizFacts {
  readonly questions: number;
  /** Exact, as text. */
  readonly maximum: string;
  /** That of its texts, where it says one. */
  readonly language?: string;
}

/**
 * Extra time, extra attempts or a window of their own, for one student or one section, in one quiz or throughout a course.
 * Null in a column: as everyone. A row is never changed but to end it: what was given before is its history.
 */
export const allowance = pgTable(
  "allowance",
  {
    id: id(),
    /** The one quiz, or else the whole course. */
    quizId: uuid().references(() => quiz.id, { onDelete: "cascade" }),
    courseId: uuid().references(() => course.id, { onDelete: "cascade" }),
    /** The one student, or else all of a section. */
    personId: uuid().references(() => person.id, { onDelete: "cascade" }),
    sectionId: uuid().references(() => courseSection.id, { onDelete: "cascade" }),
    factor: doublePrecision(),
    extraMinutes: doublePrecision(),
    extraAttempts: integer(),
    opens: instant(),
    due: instant(),
    closes: instant(),
    /** Without a due time, or without a closing, whatever holds for everyone. */
    noDue: boolean().notNull().default(false),
    noClosing: boolean().notNull().default(false),
    /** Throughout a course: due and closing so many days after everyone's. */
    daysLater: integer(),
    reason: text().notNull(),
    grantedBy: uuid().references(() => person.id),
    createdAt: createdAt(),
    /** When another took its place, or it was taken back; null: it holds. */
    endedAt: instant(),
    endedBy: uuid().references(() => person.id),
    /** Why it was taken back; null: another took its place. */
    endReason: text(),
  },
  (table) => [
    check("allowance_of_one", sql`num_nonnulls(${table.quizId}, ${table.courseId}) = 1`),
    check("allowance_to_one", sql`num_nonnulls(${table.personId}, ${table.sectionId}) = 1`),
    check(
      "allowance_own_window_in_one_quiz",
      sql`${table.quizId} is not null or num_nonnulls(${table.opens}, ${table.due}, ${table.closes}) = 0`,
    ),
    check("allowance_days_in_a_course", sql`${table.courseId} is not null or ${table.daysLater} is null`),
    uniqueIndex("allowance_that_holds")
      .on(
        sql`coalesce(${table.quizId}, ${table.courseId})`,
        sql`coalesce(${table.personId}, ${table.sectionId})`,
      )
      .where(sql`${table.endedAt} is null`),
    index().on(table.quizId),
    index().on(table.courseId),
    index().on(table.personId),
    index().on(table.sectionId),
  ],
);

/** What an instructor says to everybody who is taking a quiz, or to one of them, shown at their desks. */
export const deskMessage = pgTable(
  "desk_message",
  {
    id: id(),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    authorId: uuid()
      .notNull()
      .references(() => person.id),
    /** The one attempt at whose desks it stands; null: at all of them. */
    attemptId: uuid(),
    text: text().notNull(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.quizId)],
);
