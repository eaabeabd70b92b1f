import { integer, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import { attempt } from "./attempts";
import { instant } from "./columns";
import { quiz } from "./quizzes";

/** When the typed answers to a quiz were compared last, and how many there were. */
export const alikeRun = pgTable("alike_run", {
  quizId: uuid()
    .primaryKey()
    .references(() => quiz.id, { onDelete: "cascade" }),
  /** When it was asked for. */
  askedAt: instant().notNull(),
  /** When a process took it in hand; null: none did. */
  claimedAt: instant(),
  /** When it was done; null: not yet. */
  finishedAt: instant(),
  compared: integer().notNull().default(0),
});

/** Two answers to a question that share more than the others do: evidence for a person to look at. */
export const alikePair = pgTable(
  "alike_pair",
  {
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    /** Its id within the quiz. */
    questionId: text().notNull(),
    attemptA: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    attemptB: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    /** Shingles that both share, and those of the shorter. */
    shared: integer().notNull(),
    of: integer().notNull(),
  },
  (table) => [primaryKey({ columns: [table.quizId, table.questionId, table.attemptA, table.attemptB] })],
);
