import { and, desc, eq, inArray } from "drizzle-orm";
import { summaryOfReMarking } from "@/core/marking/re-mark";
import { shown } from "@/core/numbers/exact";
import { database, inTransaction } from "@/data/database";
import { person, reMarking } from "@/data/schema";
import { newId } from "@/data/schema/columns";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { badInput } from "../base/problems";
import { note } from "../base/record";
import { attemptsWith, contentOf, type Plan, planAll, toTell } from "./re-marking-plan";
import { wantedIn } from "./re-marking-request";
import { openRoom } from "./room";

/** Whose mark changes, from what to what. */
export interface ReMarkingPreview {
  /** Attempts that have the question. */
  readonly attempts: number;
  readonly changed: number;
  readonly gain: number;
  readonly lose: number;
  readonly meanBefore: string | null;
  readonly meanAfter: string | null;
  /** How many of those that change are seen by their students already: they are told. */
  readonly told: number;
  readonly lines: readonly {
    readonly name: string;
    readonly before: string;
    readonly after: string;
    readonly maximum: string;
  }[];
  /** Said again when it is done: it does exactly this, or nothing. */
  readonly expects: string;
}

async function previewed(quizId: string, plan: Plan, hidden: boolean): Promise<ReMarkingPreview> {
  const changed = plan.all.filter(({ marked }) => marked.changes.length > 0);
  const { gain, lose, meanBefore, meanAfter } = summaryOfReMarking(plan.all.map(({ marked }) => marked));
  const ids = changed.map(({ personId }) => personId);
  const people =
    ids.length === 0
      ? []
      : await database()
          .select({ id: person.id, name: person.name })
          .from(person)
          .where(inArray(person.id, ids));
  const names = new Map(people.map(({ id, name }) => [id, name]));
  const lines = changed.map(({ marked, personId }) => ({
    name: hidden ? "" : (names.get(personId) ?? ""),
    before: shown(marked.before.earned),
    after: shown(marked.after.earned),
    maximum: shown(marked.after.maximum),
  }));
  return {
    attempts: plan.all.length,
    changed: changed.length,
    gain,
    lose,
    meanBefore: meanBefore && shown(meanBefore),
    meanAfter: meanAfter && shown(meanAfter),
    told: (await toTell(quizId, plan)).size,
    lines: lines.sort((a, b) => a.name.localeCompare(b.name)),
    expects: plan.digest,
  };
}

/** How a re-marking goes. */
export interface ReMarkingState {
  readonly id: string;
  readonly question: string;
  readonly reason: string;
  readonly done: number;
  readonly total: number;
  readonly state: "working" | "done" | "refused" | "undone";
  readonly refused: string | null;
  readonly by: string;
  readonly at: number;
  /** Whether it takes another one back. */
  readonly isUndo: boolean;
}

/** The re-markings of a quiz, newest first. */
export async function reMarkingsOf(
  viewer: Viewer,
  quizId: string,
  question?: string,
): Promise<ReMarkingState[]> {
  const { opened } = await openRoom(viewer, quizId, "rule");
  const rows = await database()
    .select({ row: reMarking, by: person.name })
    .from(reMarking)
    .innerJoin(person, eq(person.id, reMarking.makerId))
    .where(
      and(
        eq(reMarking.quizId, opened.quiz.id),
        question === undefined ? undefined : eq(reMarking.questionId, question),
      ),
    )
    .orderBy(desc(reMarking.createdAt), desc(reMarking.id));
  return rows.map(({ row, by }) => ({
    id: row.id,
    question: row.questionId,
    reason: row.reason,
    done: row.done,
    total: row.total,
    state:
      row.undoneAt !== null
        ? "undone"
        : row.refused !== null
          ? "refused"
          : row.finishedAt !== null
            ? "done"
            : "working",
    refused: row.refused,
    by,
    at: row.createdAt.getTime(),
    isUndo: row.undoes !== null,
  }));
}

/**
 * Changes how a question is marked. Without `expects` it only shows what would change; with it, the change is begun: a job marks
 * again, and does exactly what was shown, or nothing.
 */
export async function changeMarking(
  viewer: Viewer,
  quizId: string,
  input: unknown,
): Promise<{ readonly preview: ReMarkingPreview } | { readonly id: string }> {
  const wanted = wantedIn(input);
  const { opened, namesHidden } = await openRoom(viewer, quizId, "rule");
  const { quiz: set } = opened;
  if (wanted.expects === null) {
    return { preview: await previewed(set.id, await planAll(database(), set.id, wanted), namesHidden) };
  }
  if (wanted.reason === "") throw badInput(t("server.marking.re-marking.say-why"));
  // What cannot be done is refused before anything is begun.
  await contentOf(database(), set.id, wanted);
  const rows = await attemptsWith(database(), set.id, wanted.question);
  const id = newId();
  await inTransaction(async (tx) => {
    await tx.insert(reMarking).values({
      id,
      quizId: set.id,
      questionId: wanted.question,
      change: wanted.correction,
      reason: wanted.reason,
      expects: wanted.expects ?? "",
      undoes: wanted.undoes,
      makerId: viewer.id,
      createdAt: new Date(now()),
      total: rows.length,
    });
    await note(tx, {
      actorId: viewer.id,
      action: "re-marking begun",
      subject: "quiz",
      subjectId: set.id,
      details: { question: wanted.question, change: wanted.correction.kind, reason: wanted.reason },
    });
  });
  return { id };
}
