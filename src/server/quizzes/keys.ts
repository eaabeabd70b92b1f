import { and, asc, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import type { KeyOf } from "@/core/marking/mark-attempt";
import type { QuizContent } from "@/core/quiz/quiz-file";
import type { Queryable } from "@/data/database";
import { quizVersion, reMarking } from "@/data/schema";
import { versionContent } from "./versions";

/** The key that holds for a question, and the version that has it. */
interface HeldKey {
  readonly versionId: string;
  readonly content: QuizContent;
}

/** The keys that hold for attempts at a quiz, by the version that they were written on. */
export interface HeldKeys {
  /** The version by whose key a question is marked. */
  readonly versionOf: (writtenOn: string, questionId: string) => string;
  readonly keyOf: (writtenOn: string) => KeyOf;
}

const OWN: HeldKeys = { versionOf: (writtenOn) => writtenOn, keyOf: () => () => undefined };

/**
 * By which keys attempts at some quizzes are marked now: their own version's, but of a question that was marked again since
 * the key of its last re-marking. One query, and one for each version that is not known yet.
 */
export async function heldKeys(
  db: Queryable,
  quizIds: readonly string[],
): Promise<(quizId: string) => HeldKeys> {
  const rows = await db
    .select({
      quizId: reMarking.quizId,
      questionId: reMarking.questionId,
      versionId: quizVersion.id,
      number: quizVersion.number,
    })
    .from(reMarking)
    .innerJoin(quizVersion, eq(quizVersion.id, reMarking.versionId))
    .where(
      and(
        inArray(reMarking.quizId, [...quizIds]),
        isNotNull(reMarking.finishedAt),
        isNull(reMarking.refused),
      ),
    )
    .orderBy(asc(quizVersion.number));
  if (rows.length === 0) return () => OWN;
  const numbers = new Map<string, number>();
  const versions = await db
    .select({ id: quizVersion.id, number: quizVersion.number })
    .from(quizVersion)
    .where(inArray(quizVersion.quizId, [...quizIds]));
  for (const { id, number } of versions) numbers.set(id, number);
  const contents = new Map<string, HeldKey>();
  for (const versionId of new Set(rows.map((row) => row.versionId)))
    contents.set(versionId, { versionId, content: await versionContent(versionId) });
  return (quizId) => {
    const newest = new Map(
      rows.filter((row) => row.quizId === quizId).map((row) => [row.questionId, row] as const),
    );
    const held = (writtenOn: string, questionId: string): HeldKey | undefined => {
      const row = newest.get(questionId);
      const isLater = row !== undefined && row.number > (numbers.get(writtenOn) ?? 0);
      return isLater ? contents.get(row.versionId) : undefined;
    };
    return {
      versionOf: (writtenOn, questionId) => held(writtenOn, questionId)?.versionId ?? writtenOn,
      keyOf: (writtenOn) => (questionId) => held(writtenOn, questionId)?.content,
    };
  };
}

/** Holds the keys of some quizzes as they are until the end of the transaction; any number may hold them at once. */
export async function holdKeys(db: Queryable, quizIds: readonly string[]): Promise<void> {
  // In one order, so that two that hold several never wait for each other.
  for (const id of [...quizIds].sort())
    await db.execute(sql`select pg_advisory_xact_lock_shared(hashtextextended(${`keys ${id}`}, 0))`);
}

/** Changes keys of a quiz: waits for all who mark by them, and lets nobody mark until the end of the transaction. */
export async function changeKeys(db: Queryable, quizId: string): Promise<void> {
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`keys ${quizId}`}, 0))`);
}
