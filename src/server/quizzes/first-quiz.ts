import { and, eq, isNotNull } from "drizzle-orm";
import type { Prerequisite } from "@/core/attempt/start-rules";
import { type Exact, exact } from "@/core/numbers/exact";
import { database } from "@/data/database";
import { attempt, quiz } from "@/data/schema";

/** The quiz that has to be done before another one, and how it stands for a person; one query, none where nothing is asked. */
export async function prerequisiteOf(
  row: Pick<typeof quiz.$inferSelect, "firstQuizId" | "firstAtLeast">,
  personId: string,
): Promise<Prerequisite | undefined> {
  if (row.firstQuizId === null) return undefined;
  const rows = await database()
    .select({ title: quiz.title, earned: attempt.earned, maximum: attempt.maximum, id: attempt.id })
    .from(quiz)
    .leftJoin(
      attempt,
      and(eq(attempt.quizId, quiz.id), eq(attempt.personId, personId), isNotNull(attempt.handedInAt)),
    )
    .where(eq(quiz.id, row.firstQuizId));
  const [first] = rows;
  if (!first) return undefined;
  const shares = rows.flatMap(({ earned, maximum }): Exact[] =>
    earned !== null && maximum !== null && exact(maximum).n !== 0n
      ? [exact(earned).div(exact(maximum)).mul(100)]
      : [],
  );
  return {
    title: first.title,
    handedIn: first.id !== null,
    atLeast: row.firstAtLeast,
    reached: shares.reduce<Exact | null>(
      (best, each) => (best === null || each.compare(best) > 0 ? each : best),
      null,
    ),
  };
}
