import { and, eq, isNull } from "drizzle-orm";
import { database } from "@/data/database";
import { attempt, quiz } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { isOverdue } from "../attempts/settle";
import { instantOf, now } from "../base/clock";

/** The attempts of a person that run now; one query. */
export async function runningAttempts(
  viewer: Viewer,
): Promise<readonly { readonly id: string; readonly title: string; readonly deadline: number | null }[]> {
  const rows = await database()
    .select({ attempt, title: quiz.title })
    .from(attempt)
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .where(and(eq(attempt.personId, viewer.id), isNull(attempt.handedInAt)));
  return rows
    .filter((row) => !isOverdue(row.attempt, now()))
    .map((row) => ({ id: row.attempt.id, title: row.title, deadline: instantOf(row.attempt.deadline) }));
}
