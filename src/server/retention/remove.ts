import { and, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { type Database, inTransaction } from "@/data/database";
import {
  answer,
  answerCheck,
  answerLog,
  attempt,
  handMarking,
  handMarkingLog,
  lateWriting,
  marginNote,
  mark,
  markQuery,
  practiceRun,
  quiz,
  upload,
} from "@/data/schema";
import { now } from "../base/clock";
import { note } from "../base/record";
import { removalsOf, retentionRuleNow } from "./rule";

/** Attempts in one transaction: none of them for long. */
const AT_ONCE = 100;

/** Everything that holds what was written in an attempt, or words about it. Its total, its slip and its times stay. */
const WRITTEN = [
  answer,
  answerLog,
  answerCheck,
  lateWriting,
  upload,
  practiceRun,
  markQuery,
  marginNote,
  handMarking,
  handMarkingLog,
  mark,
];

async function removeFrom(tx: Database, courseId: string): Promise<number> {
  const due = await tx
    .select({ id: attempt.id })
    .from(attempt)
    .innerJoin(quiz, eq(quiz.id, attempt.quizId))
    .where(
      and(
        eq(quiz.courseId, courseId),
        isNotNull(attempt.handedInAt),
        isNull(attempt.writtenRemovedAt),
        sql`coalesce(${attempt.awaited}, 0) = 0`,
      ),
    )
    .limit(AT_ONCE)
    .for("update", { of: attempt, skipLocked: true });
  const ids = due.map(({ id }) => id);
  if (ids.length === 0) return 0;
  for (const table of WRITTEN) await tx.delete(table).where(inArray(table.attemptId, ids));
  await tx
    .update(attempt)
    .set({ writtenRemovedAt: new Date(now()), feedback: null })
    .where(inArray(attempt.id, ids));
  for (const id of ids) {
    await note(tx, {
      actorId: null,
      action: "removed what was written, by the rule on how long it is kept",
      subject: "attempt",
      subjectId: id,
    });
  }
  return ids.length;
}

/** Removes what the rule no longer keeps, a part at a time; returns whether there may be more. Any process may do it. */
export async function removeWhatIsOver(): Promise<boolean> {
  const rule = await retentionRuleNow();
  const at = now();
  if (rule === null || rule.years === null || rule.holdsFrom > at) return false;
  for (const { courseId, attempts } of await removalsOf(rule.years, at)) {
    if (attempts === 0) continue;
    if ((await inTransaction((tx) => removeFrom(tx, courseId))) > 0) return true;
  }
  return false;
}
