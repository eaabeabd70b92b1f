import { eq } from "drizzle-orm";
import { LRUCache } from "lru-cache";
import { type OrderRule, orderRuleOf, pagesOf } from "@/core/attempt/order";
import { presentAttempt } from "@/core/attempt/plan";
import type { PresentedQuestion } from "@/core/kinds/answering";
import { database } from "@/data/database";
import { attempt } from "@/data/schema";
import { versionContent } from "../quizzes/versions";
import { seedOf } from "./seeds";

// Which questions an attempt has never changes.
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
