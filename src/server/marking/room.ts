import { and, eq, isNotNull, isNull, sql } from "drizzle-orm";
import type { Action } from "@/core/access/may";
import { marking } from "@/core/kinds/marking";
import { database, inTransaction } from "@/data/database";
import { attempt, pileView } from "@/data/schema";
import { t } from "@/words/t";
import { openQuiz } from "../access/open-quiz";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { notFound, Problem } from "../base/problems";
import { versionContent } from "../quizzes/versions";

/** A quiz whose answers somebody may mark, as they want to see them. */
export interface Room {
  readonly viewer: Viewer;
  readonly opened: Awaited<ReturnType<typeof openQuiz>>;
  readonly namesHidden: boolean;
  readonly byStudent: boolean;
}

/** The room of a quiz, for who may do something there. @throws Problem "not found" */
export async function openRoom(viewer: Viewer, quizId: string, action: Action = "mark"): Promise<Room> {
  const opened = await openQuiz(viewer, quizId);
  mustMay(opened, action);
  const [view] = await database()
    .select()
    .from(pileView)
    .where(and(eq(pileView.quizId, opened.quiz.id), eq(pileView.personId, viewer.id)));
  return { viewer, opened, namesHidden: view?.namesHidden ?? false, byStudent: view?.byStudent ?? false };
}

/** A handed-in paper of a quiz, by its number in the pile. @throws Problem "not found", or that its student has taken it back */
export async function paperOf({ opened }: Room, paper: number): Promise<typeof attempt.$inferSelect> {
  if (!Number.isSafeInteger(paper) || paper < 1 || paper > 32_000) throw notFound();
  const [row] = await database()
    .select()
    .from(attempt)
    .where(and(eq(attempt.quizId, opened.quiz.id), eq(attempt.paper, paper)));
  if (!row || row.writtenRemovedAt !== null) throw notFound();
  if (row.handedInAt === null) throw takenBack();
  return row;
}

/** Its student writes again: nothing of a paper is marked until it is handed in. */
export const takenBack = (): Problem =>
  new Problem(409, "taken-back", t("server.marking.room.its-student-has-taken-it-back"));

/** A number in the address of a page or a request. */
export const numberIn = (text: string | undefined): number =>
  /^\d{1,5}$/.test(text ?? "") ? Number(text) : 0;

/** The ids of the questions of a quiz that a person marks, in all versions of it that were taken. */
export async function questionsByHand(quizId: string): Promise<ReadonlyMap<string, string>> {
  const versions = await database()
    .selectDistinct({ id: attempt.versionId })
    .from(attempt)
    .where(eq(attempt.quizId, quizId));
  const found = new Map<string, string>();
  for (const { id } of versions) {
    const content = await versionContent(id);
    for (const question of content.sections.flatMap(({ questions }) => questions))
      if (marking(question.kind).byHand) found.set(question.id, question.text);
  }
  return found;
}

/** Numbers are drawn from so many times as many as are needed, so that they do not tell who was first. */
const ROOM_TO_DRAW = 2;

/**
 * Gives every handed-in paper of a quiz a number by lot, once for ever: it is the same for all who mark, and tells neither
 * whose it is nor when it came.
 */
export async function numberPapers(quizId: string): Promise<void> {
  const without = and(eq(attempt.quizId, quizId), isNotNull(attempt.handedInAt), isNull(attempt.paper));
  const [one] = await database().select({ id: attempt.id }).from(attempt).where(without).limit(1);
  if (!one) return;
  await inTransaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`papers ${quizId}`}, 0))`);
    await tx.execute(sql`with needs as (
        select id, row_number() over (order by random()) as place from attempt
        where quiz_id = ${quizId} and handed_in_at is not null and paper is null
      ), size as (
        select greatest(20, (select count(*) from attempt where quiz_id = ${quizId}) * ${ROOM_TO_DRAW})::int as most
      ), free as (
        select number, row_number() over (order by random()) as place
        from size, generate_series(1, size.most) as number
        where number not in (select paper from attempt where quiz_id = ${quizId} and paper is not null)
      )
      update attempt set paper = free.number from needs join free using (place) where attempt.id = needs.id`);
  });
}
