import { type AnyColumn, sql } from "drizzle-orm";
import { assignment, quiz } from "@/data/schema";

/** Whether a quiz is for everybody of its course, or this person is on its list; for a query that reads quizzes. */
export const isAssignedTo = (personId: string | AnyColumn) =>
  sql<boolean>`(not ${quiz.onlyAssigned} or exists (select 1 from ${assignment} where ${assignment.quizId} = ${quiz.id} and ${assignment.personId} = ${personId}))`;
