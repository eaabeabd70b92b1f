import { index, integer, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { Correction } from "@/core/kinds/correction";
import { createdAt, id, instant } from "./columns";
import { person } from "./people";
import { quiz, quizVersion } from "./quizzes";

/**
 * A change to how one question is marked, and the job that marks its answers again. What it plans is worked out first, and
 * written in one piece: until then, and whatever happens, everyone reads the marks of before.
 */
export const reMarking = pgTable(
  "re_marking",
  {
    id: id(),
    quizId: uuid()
      .notNull()
      .references(() => quiz.id, { onDelete: "cascade" }),
    /** Its id within the quiz. */
    questionId: text().notNull(),
    change: jsonb().$type<Correction>().notNull(),
    /** Read by the students. */
    reason: text().notNull(),
    /** The version with the key as it should have been, made when it is written; null: not yet. */
    versionId: uuid().references(() => quizVersion.id),
    /** What it said beforehand that it would change, as a digest: it does exactly that, or nothing. */
    expects: text().notNull(),
    /** The re-marking that this one takes back; null: it takes back none. */
    undoes: uuid(),
    makerId: uuid()
      .notNull()
      .references(() => person.id),
    createdAt: createdAt(),
    /** How many attempts it has worked through, of how many. */
    done: integer().notNull().default(0),
    total: integer().notNull(),
    /** When a process took it in hand, or last said that it is at it; null: none did. */
    claimedAt: instant(),
    /** When it was written; null: not yet. */
    finishedAt: instant(),
    /** Why it was not: what it would have changed is no longer what was shown. */
    refused: text(),
    /** When it was taken back. */
    undoneAt: instant(),
  },
  (table) => [index().on(table.quizId, table.questionId)],
);
