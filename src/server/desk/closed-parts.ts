import { eq } from "drizzle-orm";
import { withClosedParts } from "@/core/attempt/attempt-progress";
import { planAttempt } from "@/core/attempt/plan";
import type { Answer } from "@/core/kinds/answering";
import { database } from "@/data/database";
import { attempt } from "@/data/schema";
import { checksOf } from "../attempts/answers";
import { seedOf } from "../attempts/seeds";
import { versionContent } from "../quizzes/versions";

/**
 * What puts back, in an answer that arrives, the parts that checking has closed: they can no longer be changed. For
 * attempts in which answers may be checked.
 */
export async function closedParts(
  attemptId: string,
): Promise<(slot: number, answer: Answer | null) => Answer | null> {
  const [row] = await database().select().from(attempt).where(eq(attempt.id, attemptId));
  const quiz = row && (await versionContent(row.versionId));
  const { tries } = quiz?.rules ?? {};
  if (!row || !quiz || !tries) return (_, answer) => answer;
  const seed = await seedOf(row);
  const checks = await checksOf(database(), attemptId);
  const plan = planAttempt(quiz, seed);
  return (slot, answer) => {
    const question = plan[slot - 1]?.question;
    const checked = checks.get(slot) ?? [];
    return question && checked.length > 0 ? withClosedParts(question, seed, tries, checked, answer) : answer;
  };
}
