import { index, pgTable, smallint, text, uuid } from "drizzle-orm/pg-core";
import { attempt } from "./attempts";
import { createdAt, id } from "./columns";
import { person } from "./people";

/** What a student asked about the mark of a question, and what was answered; each row is one that spoke. */
export const markQuery = pgTable(
  "mark_query",
  {
    id: id(),
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    authorId: uuid()
      .notNull()
      .references(() => person.id),
    text: text().notNull(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.attemptId)],
);
