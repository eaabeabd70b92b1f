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
import type { QuizFile } from "@/core/quiz/quiz-file";
import type { Counts, Revealed, RevealRules } from "@/core/quiz/rules";
import { createdAt, id, instant } from "./columns";
import { course } from "./courses";
import { person } from "./people";

/** A quiz set in a course: its window and its current version. */
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
    /** What came to be shown before this is no news. */
    tellsShownFrom: instant().notNull().defaultNow(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.courseId)],
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

/** What a quiz says and asks. Never changed once an attempt has started with it. */
export const quizVersion = pgTable(
  "quiz_version",
  {
    id: id(),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    number: integer().notNull(),
    content: jsonb().$type<QuizFile>().notNull(),
    /** What lists need of the content, kept beside it so that they need not read it. */
    facts: jsonb().$type<QuizFacts>().notNull(),
    createdAt: createdAt(),
    createdBy: uuid().references(() => person.id),
  },
  (table) => [unique().on(table.quizId, table.number)],
);

/** The few facts of a version that lists show. */
export interface QuizFacts {
  readonly timeLimit: number | null;
  readonly attempts: number | null;
  readonly counts: Counts;
  readonly practice: boolean;
  readonly reveal: RevealRules;
  /** Lost per started day late, in per cent of the maximum; null: nothing. */
  readonly lateCostPerDay: number | string | null;
  readonly questions: number;
  /** Exact, as text. */
  readonly maximum: string;
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

/** What an instructor says to everybody who is taking a quiz, shown at their desks. */
export const deskNotice = pgTable(
  "desk_notice",
  {
    id: id(),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    authorId: uuid()
      .notNull()
      .references(() => person.id),
    text: text().notNull(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.quizId)],
);
