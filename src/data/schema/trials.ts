import { index, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { createdAt, id, instant } from "./columns";
import { course } from "./courses";
import { draft } from "./drafts";
import { person } from "./people";
import { quiz } from "./quizzes";

/** An address by which a colleague without any right may check one quiz, until it ends. */
export const checkLink = pgTable(
  "check_link",
  {
    id: id(),
    draftId: uuid()
      .notNull()
      .references(() => draft.id, { onDelete: "cascade" }),
    /** SHA-256 of the secret in the address. */
    secretHash: text().notNull().unique(),
    /** For whom it is, in the words of who made it. */
    forWhom: text().notNull(),
    createdBy: uuid()
      .notNull()
      .references(() => person.id),
    createdAt: createdAt(),
    endsAt: instant().notNull(),
  },
  (table) => [index().on(table.draftId)],
);

/**
 * A quiz that is tried out: in a course of its own, with one student of its own, so that nothing of it is in any gradebook,
 * list or figure. It goes with all of that when it ends.
 */
export const trial = pgTable(
  "trial",
  {
    id: id(),
    draftId: uuid()
      .notNull()
      .references(() => draft.id, { onDelete: "cascade" }),
    courseId: uuid()
      .notNull()
      .references(() => course.id, { onDelete: "cascade" }),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    /** Its student. */
    personId: uuid()
      .notNull()
      .unique()
      .references(() => person.id, { onDelete: "cascade" }),
    /** Who tries it out; null: somebody by a link. */
    byId: uuid().references(() => person.id, { onDelete: "cascade" }),
    linkId: uuid().references(() => checkLink.id, { onDelete: "cascade" }),
    createdAt: createdAt(),
    endsAt: instant().notNull(),
  },
  (table) => [index().on(table.draftId), index().on(table.endsAt)],
);
