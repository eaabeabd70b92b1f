import {
  type AnyPgColumn,
  bigint,
  boolean,
  index,
  integer,
  jsonb,
  numeric,
  pgEnum,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from "drizzle-orm/pg-core";
import type { GradebookPlan } from "@/core/gradebook/gradebook-plan";
import type { Scale } from "@/core/gradebook/scales";
import { createdAt, id, instant } from "./columns";
import { course } from "./courses";
import { person } from "./people";
import { quiz } from "./quizzes";

export const categoryMean = pgEnum("category_mean", ["by-points", "equal"]);

export const gradebookCategory = pgTable(
  "gradebook_category",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    title: text().notNull(),
    weight: numeric({ precision: 9, scale: 4 }).notNull(),
    mean: categoryMean().notNull().default("by-points"),
    dropLowest: integer().notNull().default(0),
    position: integer().notNull(),
  },
  (table) => [index().on(table.courseId)],
);

/** A piece of work that counts in a course: a quiz, or something marked elsewhere. */
export const gradebookItem = pgTable(
  "gradebook_item",
  {
    id: id(),
    categoryId: uuid()
      .notNull()
      .references(() => gradebookCategory.id, { onDelete: "cascade" }),
    quizId: uuid()
      .unique()
      .references(() => quiz.id),
    title: text().notNull(),
    maximum: numeric({ precision: 12, scale: 4 }).notNull(),
    position: integer().notNull(),
    /** Whether handing in gives full marks, whatever the score. */
    fullForTakingPart: boolean().notNull().default(false),
    /** The item that this one may stand in for, if the student chooses so. */
    standsInForId: uuid().references((): AnyPgColumn => gradebookItem.id, { onDelete: "set null" }),
    /** How its mark is shown beside the marks themselves; null: marks alone. */
    scale: jsonb().$type<Scale>(),
  },
  (table) => [index().on(table.categoryId)],
);

/** A student's choice that one item stands in for another. */
export const standIn = pgTable(
  "stand_in",
  {
    /** The item that is replaced. */
    itemId: uuid()
      .notNull()
      .references(() => gradebookItem.id, { onDelete: "cascade" }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    /** The attempt in which it was declared; null: it was chosen in the gradebook. */
    declaredIn: uuid(),
    createdAt: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.itemId, table.personId] })],
);

/** A mark set by hand for one student on one item, always with a reason; the newest holds. */
export const adjustment = pgTable(
  "adjustment",
  {
    itemId: uuid()
      .notNull()
      .references(() => gradebookItem.id, { onDelete: "cascade" }),
    personId: uuid()
      .notNull()
      .references(() => person.id, { onDelete: "cascade" }),
    id: uuid().notNull(),
    /** The database's own order. */
    added: bigint({ mode: "number" }).notNull().generatedAlwaysAsIdentity(),
    marks: numeric({ precision: 12, scale: 4 }),
    excused: boolean().notNull().default(false),
    /** Takes back what was set before it: the work itself counts again. */
    withdrawn: boolean().notNull().default(false),
    reason: text().notNull(),
    setBy: uuid()
      .notNull()
      .references(() => person.id),
    createdAt: createdAt(),
  },
  (table) => [primaryKey({ columns: [table.itemId, table.personId, table.id] })],
);

/** What counts in a course, and how much, from some moment on: its categories and work as they were set then; only ever added to. */
export const gradebookVersion = pgTable(
  "gradebook_version",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    number: integer().notNull(),
    plan: jsonb().$type<GradebookPlan>().notNull(),
    reason: text().notNull(),
    /** Null: it stood so before anything was changed. */
    madeBy: uuid().references(() => person.id),
    createdAt: createdAt(),
  },
  (table) => [unique().on(table.courseId, table.number)],
);

/** What an instructor says to a course. */
export const announcement = pgTable(
  "announcement",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    authorId: uuid()
      .notNull()
      .references(() => person.id),
    text: text().notNull(),
    shownUntil: instant(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.courseId)],
);
