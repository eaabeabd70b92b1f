import { sql } from "drizzle-orm";
import { index, integer, jsonb, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import type { BankPicture } from "@/core/draft/bank";
import type { Question } from "@/core/kinds/marking";
import { createdAt, id, instant } from "./columns";
import { course } from "./courses";
import { person } from "./people";
import { quiz } from "./quizzes";

/** A question that a course keeps for its quizzes, as it is now. Only instructors ever read it. */
export const bankQuestion = pgTable(
  "bank_question",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    topic: text().notNull(),
    tags: text().array().notNull().default(sql`'{}'::text[]`),
    /** Counted from 1 with each change of the question. */
    version: integer().notNull(),
    question: jsonb().$type<Question>().notNull(),
    /** What it shows: files of the same course. */
    pictures: jsonb().$type<readonly BankPicture[]>().notNull(),
    createdAt: createdAt(),
    changedBy: uuid()
      .notNull()
      .references(() => person.id),
    changedAt: instant().notNull().defaultNow(),
    /** When it was put away; null: it is there. */
    removedAt: instant(),
  },
  (table) => [index().on(table.courseId, table.topic)],
);

/** Every version of a question of the bank; only ever added to. */
export const bankVersion = pgTable(
  "bank_version",
  {
    bankId: uuid()
      .notNull()
      .references(() => bankQuestion.id, { onDelete: "cascade" }),
    version: integer().notNull(),
    question: jsonb().$type<Question>().notNull(),
    byId: uuid()
      .notNull()
      .references(() => person.id),
    at: instant().notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.bankId, table.version] })],
);

/** The bank of a course that another course may take from. */
export const bankShare = pgTable(
  "bank_share",
  {
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    withId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
  },
  (table) => [primaryKey({ columns: [table.courseId, table.withId] }), index().on(table.withId)],
);

/** Which assigned quizzes asked a question of the bank, and as which of their questions. */
export const bankUse = pgTable(
  "bank_use",
  {
    bankId: uuid()
      .notNull()
      .references(() => bankQuestion.id, { onDelete: "cascade" }),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    questionId: text().notNull(),
    /** The version of the bank's question that was asked last. */
    version: integer().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.bankId, table.quizId, table.questionId] }),
    index().on(table.quizId),
  ],
);
