import { index, jsonb, pgTable, primaryKey, smallint, text, uuid } from "drizzle-orm/pg-core";
import type { MarkedQuestion } from "@/core/kinds/kind";
import { attempt } from "./attempts";
import { createdAt, id, instant } from "./columns";

/** A run of what was missed in a returned attempt: outside the gradebook, with values of its own. */
export const practiceRun = pgTable(
  "practice_run",
  {
    id: id(),
    attemptId: uuid()
      .notNull()
      .references(() => attempt.id, { onDelete: "cascade" }),
    seed: text().notNull(),
    /** As of an attempt. */
    naming: smallint().notNull().default(1),
    /** The slots of the attempt that are practised, in order. */
    slots: jsonb().$type<number[]>().notNull(),
    createdAt: createdAt(),
  },
  (table) => [index().on(table.attemptId)],
);

/** What was written in a run, as it was marked at once. */
export const practiceAnswer = pgTable(
  "practice_answer",
  {
    runId: uuid()
      .notNull()
      .references(() => practiceRun.id, { onDelete: "cascade" }),
    slot: smallint().notNull(),
    answer: jsonb(),
    detail: jsonb().$type<MarkedQuestion>().notNull(),
    markedAt: instant().notNull(),
  },
  (table) => [primaryKey({ columns: [table.runId, table.slot] })],
);
