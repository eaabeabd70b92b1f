import { pgTable, smallint, uuid } from "drizzle-orm/pg-core";
import { createdAt, id, instant } from "./columns";
import { person } from "./people";

/** How long what was written is kept; the newest row holds, the others are its history. */
export const retentionRule = pgTable("retention_rule", {
  id: id(),
  /** Years after a course's end; null: without end. */
  years: smallint(),
  decidedBy: uuid()
    .notNull()
    .references(() => person.id),
  /** Nothing is removed before. */
  holdsFrom: instant().notNull(),
  createdAt: createdAt(),
});
