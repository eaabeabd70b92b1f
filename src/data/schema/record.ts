import { index, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { createdAt, id } from "./columns";

/** Who did what, when and why; only ever added to. */
export const record = pgTable(
  "record",
  {
    id: id(),
    at: createdAt(),
    /** Null: Shizuka itself, such as the clock. */
    actorId: uuid(),
    action: text().notNull(),
    /** What it was done to: "attempt", "quiz", ... and its key. */
    subject: text().notNull(),
    subjectId: uuid().notNull(),
    /** The course that it belongs to; null: none. */
    courseId: uuid(),
    details: jsonb().$type<Record<string, unknown>>().notNull(),
  },
  (table) => [index().on(table.subjectId), index().on(table.courseId, table.at)],
);
