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
  return prerequisiteFrom(
    first.title,
    row.firstAtLeast,
    rows.filter(({ id }) => id !== null),
  );
}

/** The prerequisite from the attempts that were handed in at the quiz that comes first. */
export function prerequisiteFrom(
  title: string,
  atLeast: string | null,
  handedIn: readonly { readonly earned: string | null; readonly maximum: string | null }[],
): Prerequisite {
  const shares = handedIn.flatMap(({ earned, maximum }): Exact[] =>
    earned !== null && maximum !== null && exact(maximum).n !== 0n
      ? [exact(earned).div(exact(maximum)).mul(100)]
      : [],
  );
  return {
    title,
    handedIn: handedIn.length > 0,
    atLeast,
    reached: shares.reduce<Exact | null>(
      (best, each) => (best === null || each.compare(best) > 0 ? each : best),
      null,
    ),
  };
}
