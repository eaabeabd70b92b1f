import { index, integer, pgEnum, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { id, instant } from "./columns";
import { course } from "./courses";
import { quiz } from "./quizzes";

/** A week or a topic of a course's plan. */
export const planSection = pgTable(
  "plan_section",
  {
    id: id(),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    title: text().notNull(),
    /** Its first day; null: a topic without one. */
    starts: instant(),
    position: integer().notNull(),
  },
  (table) => [index().on(table.courseId)],
);

export const planEntryKind = pgEnum("plan_entry_kind", ["quiz", "reading", "note"]);

/** What stands in a section: a quiz, something to read, or a word of the instructor. */
export const planEntry = pgTable(
  "plan_entry",
  {
    id: id(),
    sectionId: uuid()
      .notNull()
      .references(() => planSection.id, { onDelete: "cascade" }),
    kind: planEntryKind().notNull(),
    quizId: uuid().references(() => quiz.id, { onDelete: "cascade" }),
    /** Rich text; empty for a quiz, which says its own title. */
    text: text().notNull(),
    position: integer().notNull(),
  },
  (table) => [index().on(table.sectionId)],
);
