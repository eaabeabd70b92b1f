import {
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  numeric,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import type { QuizContent } from "@/core/quiz/quiz-file";
import type { QuizSettings, Revealed } from "@/core/quiz/rules";
import { createdAt, id, instant } from "./columns";
import { course } from "./courses";
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

/** Extra time, extra attempts or an own window of one student on one quiz. */
export const allowance = pgTable(
  "allowance",
  {
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    factor: doublePrecision().notNull().default(1),
    extraMinutes: doublePrecision().notNull().default(0),
    extraAttempts: integer().notNull().default(0),
    opens: instant(),
    due: instant(),
    closes: instant(),
    reason: text().notNull(),
    grantedBy: uuid().references(() => person.id),
    createdAt: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.quizId, table.personId] })],
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
