import { eq } from "drizzle-orm";
import { LRUCache } from "lru-cache";
import { type OrderRule, orderRuleOf, pagesOf } from "@/core/attempt/order";
import { presentAttempt } from "@/core/attempt/plan";
import type { PresentedQuestion } from "@/core/kinds/answering";
import type { QuizContent } from "@/core/quiz/quiz-file";
import { database } from "@/data/database";
import { attempt, quizVersion } from "@/data/schema";
import { seedOf } from "./attempts/seeds";

// Both caches hold what never changes: the content of a version, and which questions an attempt has.
const contents = new LRUCache<string, QuizContent>({ max: 200 });
const plans = new LRUCache<string, SavePlan>({ max: 5_000 });

/** What saving needs to know of an attempt. */
export interface SavePlan {
  /** The questions as the student sees them; index 0 is slot 1. */
  readonly questions: readonly PresentedQuestion[];
  /** The page of each slot, from 0; index 0 is slot 1. */
  readonly pageOf: readonly number[];
  readonly rule: OrderRule;
  /** Whether answers may be checked, so that parts of them may be closed. */
  readonly hasTries: boolean;
}

/** The content of a quiz version; one query at most, then none. */
export async function versionContent(versionId: string): Promise<QuizContent> {
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

/** What saving needs to know of an attempt, or null when there is no such attempt. */
export async function savePlanOf(attemptId: string): Promise<SavePlan | null> {
  const known = plans.get(attemptId);
  if (known) return known;
  const [row] = await database()
    .select({ id: attempt.id, versionId: attempt.versionId, seed: attempt.seed, naming: attempt.naming })
    .from(attempt)
    .where(eq(attempt.id, attemptId));
  if (!row) return null;
  const content = await versionContent(row.versionId);
  const questions = presentAttempt(content, await seedOf(row));
  const pages = pagesOf(content, questions.length);
  const plan = {
    questions,
    pageOf: questions.map((_, i) => pages.findIndex((page) => page.includes(i + 1))),
    rule: orderRuleOf(content.rules),
    hasTries: content.rules.tries !== undefined,
  };
  plans.set(attemptId, plan);
  return plan;
}
