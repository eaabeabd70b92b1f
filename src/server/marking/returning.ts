import { and, asc, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { markFigure } from "@/core/marking/mark-words";
import { exact, ZERO } from "@/core/numbers/exact";
import { database } from "@/data/database";
import { attempt, handMarking, lateWriting, person, sectionMember } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { type HeldLine, linesOf } from "./pile";
import { openRoom, type Room } from "./room";

/** How far a paper is from being returned. */
export type ReturnState = "ready" | "not-ready" | "returned" | "changed";

export interface PaperToReturn {
  readonly attemptId: string;
  readonly paper: number;
  readonly number: number;
  /** Null: names are hidden. */
  readonly name: string | null;
  readonly state: ReturnState;
  /** Why it is not ready, in words; "" when it is. */
  readonly why: string;
  /** What its marks come to with all that is decided; a figure, or what is known of it. */
  readonly figure: string;
  readonly returnedAt: number | null;
  /** When its student looked at it last since it was returned; null: not since. */
  readonly readAt: number | null;
  readonly sections: readonly string[];
}

/** What a paper comes to once all that is decided of it is returned. */
function totalsWith(row: typeof attempt.$inferSelect, lines: readonly HeldLine[]) {
  let [earned, awaited] = [exact(row.earned ?? "0"), exact(row.awaited ?? "0")];
  for (const { state, points, returnedPoints, maximum } of lines) {
    if (points === null) continue;
    if (state === "marked") {
      earned = earned.add(points);
      awaited = awaited.sub(exact(maximum));
    } else if (state === "changed") earned = earned.add(points).sub(returnedPoints ?? ZERO);
  }
  return { earned, awaited };
}

/** All handed-in papers of a quiz, with what keeps each from being returned. */
export async function papersToReturn(room: Room): Promise<PaperToReturn[]> {
  const { quiz } = room.opened;
  const { lines } = await linesOf(room);
  const rows = await database()
    .select({ attempt, name: person.name })
    .from(attempt)
    .innerJoin(person, eq(person.id, attempt.personId))
    .where(and(eq(attempt.quizId, quiz.id), isNotNull(attempt.handedInAt), isNull(attempt.writtenRemovedAt)))
    .orderBy(asc(room.namesHidden ? attempt.paper : person.name), asc(attempt.number));
  const works = await database()
    .selectDistinct({ attemptId: handMarking.attemptId })
    .from(handMarking)
    .innerJoin(attempt, eq(attempt.id, handMarking.attemptId))
    .where(
      and(
        eq(attempt.quizId, quiz.id),
        sql`${handMarking.version} is distinct from ${handMarking.returnedVersion}`,
      ),
    );
  const late = new Set(
    (
      await database()
        .selectDistinct({ id: lateWriting.attemptId })
        .from(lateWriting)
        .innerJoin(attempt, eq(attempt.id, lateWriting.attemptId))
        .where(and(eq(attempt.quizId, quiz.id), isNull(lateWriting.decision)))
    ).map(({ id }) => id),
  );
  const people = rows.map((row) => row.attempt.personId);
  const members =
    people.length === 0
      ? []
      : await database()
          .select({ sectionId: sectionMember.sectionId, personId: sectionMember.personId })
          .from(sectionMember)
          .where(inArray(sectionMember.personId, people));
  return rows.map(({ attempt: row, name }): PaperToReturn => {
    const own = lines.filter(({ attemptId }) => attemptId === row.id);
    const waiting = own.filter(({ state }) => state === "awaits" || state === "begun").length;
    const unexplained = own.filter(
      ({ state, points, returnedPoints, saysWhy }) =>
        state === "changed" &&
        !saysWhy &&
        points !== null &&
        returnedPoints !== null &&
        !points.equals(returnedPoints),
    );
    const isChanged = works.some(({ attemptId }) => attemptId === row.id);
    const why = [
      waiting > 0 ? t("server.marking.returning.answers-await-marking", { count: waiting }) : "",
      late.has(row.id) ? t("server.marking.returning.late-writing-to-decide") : "",
      unexplained.length > 0 ? t("server.marking.returning.a-changed-mark-without-its-reason") : "",
    ].filter(Boolean);
    const returnedAt = row.returnedAt?.getTime() ?? null;
    const state: ReturnState =
      returnedAt === null
        ? why.length > 0
          ? "not-ready"
          : "ready"
        : why.length > 0
          ? "not-ready"
          : isChanged
            ? "changed"
            : "returned";
    const readAt = row.paperReadAt?.getTime() ?? null;
    return {
      attemptId: row.id,
      paper: row.paper ?? 0,
      number: row.number,
      name: room.namesHidden ? null : name,
      state,
      why: why.join(t("joint.commas")),
      figure: markFigure({ ...totalsWith(row, own), maximum: row.maximum }),
      returnedAt,
      readAt: returnedAt !== null && readAt !== null && readAt >= returnedAt ? readAt : null,
      sections: members.filter(({ personId }) => personId === row.personId).map(({ sectionId }) => sectionId),
    };
  });
}

/** The papers of a quiz as they can be returned, for its instructors. */
export async function returningOf(viewer: Viewer, quizId: string) {
  const room = await openRoom(viewer, quizId, "return");
  return { room, papers: await papersToReturn(room) };
}
