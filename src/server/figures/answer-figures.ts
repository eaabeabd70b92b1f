import { and, asc, desc, eq, inArray } from "drizzle-orm";
import { mean } from "@/core/figures/statistics";
import type { MarkState } from "@/core/kinds/kind";
import { answerGroups } from "@/core/marking/answer-groups";
import type { Said } from "@/core/said";
import { database } from "@/data/database";
import { attemptQuestion, mark } from "@/data/schema";

/** An answer to a question, with who gave it. */
export interface AnswerFigures {
  readonly label: Said | null;
  readonly written: Said;
  readonly why: Said;
  readonly state: MarkState;
  readonly count: number;
  /** Of all attempts that had the question, 0 to 1. */
  readonly share: number;
  /** What those who gave it reached in all other questions, in the mean, 0 to 1; null: nothing. */
  readonly rest: number | null;
}

/**
 * All answers to a question with counts and how those who gave them did otherwise, most frequent first.
 * @param rest the attempts that are counted, each with what it reached in all other questions
 */
export async function answerFigures(
  question: string,
  rest: ReadonlyMap<string, number>,
): Promise<AnswerFigures[]> {
  if (rest.size === 0) return [];
  const rows = await database()
    .selectDistinctOn([mark.attemptId, mark.slot], {
      attemptId: mark.attemptId,
      slot: mark.slot,
      marked: mark.detail,
    })
    .from(mark)
    .innerJoin(
      attemptQuestion,
      and(eq(attemptQuestion.attemptId, mark.attemptId), eq(attemptQuestion.slot, mark.slot)),
    )
    .where(and(inArray(mark.attemptId, [...rest.keys()]), eq(attemptQuestion.questionId, question)))
    .orderBy(asc(mark.attemptId), asc(mark.slot), desc(mark.added));
  return answerGroups(rows).map(({ label, written, why, state, attempts }) => ({
    label,
    written: written[0] ?? "",
    why,
    state,
    count: attempts.length,
    share: attempts.length / rows.length,
    rest: attempts.length === 0 ? null : mean(attempts.map((id) => rest.get(id) ?? 0)),
  }));
}
