import { eq } from "drizzle-orm";
import { LRUCache } from "lru-cache";
import { presentAttempt } from "@/core/attempt/plan";
import type { PresentedQuestion } from "@/core/kinds/answering";
import type { QuizFile } from "@/core/quiz/quiz-file";
import { database } from "@/data/database";
import { attempt, quizVersion } from "@/data/schema";

// Both caches hold what never changes: the content of a version, and which questions an attempt has.
const contents = new LRUCache<string, QuizFile>({ max: 200 });
const presented = new LRUCache<string, readonly PresentedQuestion[]>({ max: 5_000 });

/** The content of a quiz version; one query at most, then none. */
export async function versionContent(versionId: string): Promise<QuizFile> {
  const known = contents.get(versionId);
  if (known) return known;
  const [row] = await database()
    .select({ content: quizVersion.content })
    .from(quizVersion)
    .where(eq(quizVersion.id, versionId));
  if (!row) throw new Error(`Quiz version ${versionId} is missing.`);
  contents.set(versionId, row.content);
  return row.content;
}

/** The questions of an attempt as its student sees them, or null when there is no such attempt. */
export async function presentedOf(attemptId: string): Promise<readonly PresentedQuestion[] | null> {
  const known = presented.get(attemptId);
  if (known) return known;
  const [row] = await database()
    .select({ versionId: attempt.versionId, seed: attempt.seed })
    .from(attempt)
    .where(eq(attempt.id, attemptId));
  if (!row) return null;
  const questions = presentAttempt(await versionContent(row.versionId), row.seed);
  presented.set(attemptId, questions);
  return questions;
}
