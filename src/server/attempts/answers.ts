import { asc, eq, inArray } from "drizzle-orm";
import {
  type AttemptProgress,
  type AttemptWork,
  type CheckedAnswer,
  progressOf,
} from "@/core/attempt/attempt-progress";
import type { Reached } from "@/core/attempt/order";
import type { SlotWork } from "@/core/marking/mark-attempt";
import type { QuizContent } from "@/core/quiz/quiz-file";
import type { Queryable } from "@/data/database";
import { answer, answerCheck, type attempt } from "@/data/schema";
import { seedOf } from "./seeds";

type AttemptRow = typeof attempt.$inferSelect;

/** What stands on the server for an attempt, with the answers as they are kept. */
export interface StoredWork extends AttemptWork {
  readonly rows: readonly (typeof answer.$inferSelect)[];
}

/** What was checked in an attempt, in order, by slot: the answers as they were then. One query. */
export async function checksOf(
  db: Queryable,
  attemptId: string,
): Promise<ReadonlyMap<number, readonly CheckedAnswer[]>> {
  const checked = await db
    .select({ slot: answerCheck.slot, answer: answerCheck.answer, part: answerCheck.part })
    .from(answerCheck)
    .where(eq(answerCheck.attemptId, attemptId))
    .orderBy(asc(answerCheck.slot), asc(answerCheck.number));
  const checks = new Map<number, CheckedAnswer[]>();
  for (const { slot, ...check } of checked) checks.set(slot, [...(checks.get(slot) ?? []), check]);
  return checks;
}

/** What stands on the server for an attempt: its answers, and what was checked. Two queries, or one. */
export async function workOf(db: Queryable, attemptId: string, quiz: QuizContent): Promise<StoredWork> {
  const rows = await db.select().from(answer).where(eq(answer.attemptId, attemptId));
  const checks = quiz.rules.tries ? await checksOf(db, attemptId) : new Map<number, CheckedAnswer[]>();
  return { rows, answers: new Map(rows.map((each) => [each.slot, each.answer])), checks };
}

/** What stands on the server for many attempts, as it is marked: two queries, however many there are. */
export async function worksOf(
  db: Queryable,
  attemptIds: readonly string[],
): Promise<ReadonlyMap<string, ReadonlyMap<number, SlotWork>>> {
  const works = new Map<string, Map<number, { answer: unknown; checks: CheckedAnswer[] }>>();
  const slotOf = (attemptId: string, slot: number) => {
    const work = works.get(attemptId) ?? new Map<number, { answer: unknown; checks: CheckedAnswer[] }>();
    works.set(attemptId, work);
    const held = work.get(slot) ?? { answer: null, checks: [] };
    work.set(slot, held);
    return held;
  };
  const ids = [...attemptIds];
  const [kept, checked] = await Promise.all([
    db
      .select({ id: answer.attemptId, slot: answer.slot, answer: answer.answer })
      .from(answer)
      .where(inArray(answer.attemptId, ids)),
    db
      .select({
        id: answerCheck.attemptId,
        slot: answerCheck.slot,
        answer: answerCheck.answer,
        part: answerCheck.part,
      })
      .from(answerCheck)
      .where(inArray(answerCheck.attemptId, ids))
      .orderBy(asc(answerCheck.attemptId), asc(answerCheck.slot), asc(answerCheck.number)),
  ]);
  for (const each of kept) slotOf(each.id, each.slot).answer = each.answer;
  for (const each of checked)
    slotOf(each.id, each.slot).checks.push({ answer: each.answer, part: each.part });
  return works;
}

const reachedIn = (row: Pick<AttemptRow, "page" | "told" | "checkedOff">): Reached => ({
  page: row.page,
  told: new Set(row.told),
  checkedOff: new Set(row.checkedOff),
});

/** Where an attempt stands, with what of it may be on its student's device now. */
export const progressIn = async (
  row: AttemptRow,
  quiz: QuizContent,
  work: AttemptWork,
): Promise<AttemptProgress> => progressOf(quiz, await seedOf(row), reachedIn(row), work);
