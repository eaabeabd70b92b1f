import { type AnyColumn, sql } from "drizzle-orm";
import { type Action, may, type Tie } from "@/core/access/may";
import { givenQuiz, quiz } from "@/data/schema";
import { notFound } from "../base/problems";

/** Whether a quiz was given to this person as an assistant; for a query that reads quizzes. */
export const isGivenTo = (personId: string | AnyColumn | ReturnType<typeof sql.placeholder>) =>
  sql<boolean>`exists (select 1 from ${givenQuiz} where ${givenQuiz.quizId} = ${quiz.id} and ${givenQuiz.personId} = ${personId})`;

/** Refuses what somebody may not do, as it refuses what does not exist. @throws Problem */
export function mustMay(tie: Tie, action: Action): void {
  if (!may(tie, action)) throw notFound();
}

/** Whether a quiz is to be seen by somebody at all: all of its course, but of assistants those to whom it was given. */
export const isSeenBy = ({ role, given }: Tie): boolean => role !== null && (role !== "assistant" || given);
