import { max, sql } from "drizzle-orm";
import type { Instant } from "@/core/time/instants";
import { allowance, quiz } from "@/data/schema";

/** When the last of the group can still write, as the database says it; null: never set, or nobody writes. */
export interface GroupEnds {
  readonly groupDue: string | null;
  readonly groupCloses: string | null;
  readonly groupStillWritesUntil: string | null;
}

const instantIn = (text: string | null): Instant | null => (text === null ? null : new Date(text).getTime());

/** The same as instants, as the reveal rules look at them. */
export const groupInstants = (ends: GroupEnds) => ({
  groupDue: instantIn(ends.groupDue),
  groupCloses: instantIn(ends.groupCloses),
  groupStillWritesUntil: instantIn(ends.groupStillWritesUntil),
});

/** The latest due, closing and running deadline over all allowances, for a query that reads quizzes. */
export const groupEnds = {
  groupDue: sql<
    string | null
  >`greatest(${quiz.due}, (select ${max(allowance.due)} from ${allowance} where ${allowance.quizId} = ${quiz.id}))`,
  groupCloses: sql<
    string | null
  >`greatest(${quiz.closes}, (select ${max(allowance.closes)} from ${allowance} where ${allowance.quizId} = ${quiz.id}))`,
  groupStillWritesUntil: sql<
    string | null
  >`(select max(running.deadline) from attempt running where running.quiz_id = ${quiz.id} and running.handed_in_at is null)`,
};
