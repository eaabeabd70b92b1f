import { and, asc, eq, inArray, isNotNull } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { said } from "@/core/said";
import { type Database, database, inTransaction } from "@/data/database";
import { attempt, handMarking, marginNote, person } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { currentMarksOf, type NewMark, setMarks } from "../attempts/marks";
import { now } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { badInput } from "../base/problems";
import { note } from "../base/record";
import { notify } from "../notices/notify";
import { publishWork } from "./publish-work";
import { papersToReturn } from "./returning";
import { openRoom, type Room } from "./room";
import { ruleMarksOf } from "./rule-marks";

const MOST = 10_000;
const ids = () =>
  yup
    .array()
    .of(
      yup
        .string()
        .strict()
        .test("uuid", said("server.marking.return-work.attemptids-holds-something-that-is-not"), (id) =>
          isUuid(id ?? ""),
        )
        .required(),
    )
    .max(MOST);

const body = yup
  .object({
    attemptIds: ids(),
    /** Those that are ready only, or all that are handed in; all by default. */
    which: yup.string().strict().oneOf(["all", "ready"]),
    section: yup
      .string()
      .strict()
      .test(
        "uuid",
        said("server.marking.share-pile.this-is-not-an-id"),
        (id) => id === undefined || isUuid(id),
      ),
  })
  .strict()
  .noUnknown();

/** Papers of a quiz as they stand now, held until the end of the transaction. */
const lockPapers = (tx: Database, quizId: string, only: readonly string[] | null) =>
  tx
    .select()
    .from(attempt)
    .where(
      and(
        eq(attempt.quizId, quizId),
        isNotNull(attempt.handedInAt),
        only === null ? undefined : inArray(attempt.id, [...only]),
      ),
    )
    .orderBy(asc(attempt.id))
    .for("update");

/** Which papers are meant. */
async function chosen(
  room: Room,
  { attemptIds, which = "all", section }: yup.InferType<typeof body>,
): Promise<readonly string[] | null> {
  if (which === "all" && section === undefined) return attemptIds ?? null;
  const papers = await papersToReturn(room);
  return papers
    .filter(({ attemptId }) => attemptIds?.includes(attemptId) ?? true)
    .filter(({ sections }) => section === undefined || sections.includes(section))
    .filter(({ state }) => which === "all" || state !== "not-ready")
    .map(({ attemptId }) => attemptId);
}

/**
 * Makes what was written to some papers visible: marks, notes and feedback together, as far as the reveal rules allow. Their
 * rows are locked. Returns those that are returned now for the first time, and those in which something is new.
 */
export async function makeReturned(tx: Database, papers: readonly (typeof attempt.$inferSelect)[], at: Date) {
  const changed = await publishWork(
    tx,
    papers.map(({ id }) => id),
    at,
  );
  const first = papers.filter(({ returnedAt }) => returnedAt === null);
  if (first.length > 0) {
    await tx
      .update(attempt)
      .set({ returnedAt: at })
      .where(
        inArray(
          attempt.id,
          first.map(({ id }) => id),
        ),
      );
  }
  return { first, again: papers.filter(({ id, returnedAt }) => returnedAt !== null && changed.has(id)) };
}

/**
 * An instructor returns handed-in work of a quiz: all of it, what is ready, a section, or some papers. What is decided becomes
 * visible in one piece, and everyone whose paper it is is told once. Work that was returned before and has changed since is
 * returned again. Returns how many papers that were.
 */
export async function returnWork(
  viewer: Viewer,
  quizId: string,
  input: unknown,
): Promise<{ readonly returned: number; readonly again: number }> {
  const wanted = inputOf(body, input);
  const room = await openRoom(viewer, quizId, "return");
  const { quiz } = room.opened;
  return inTransaction(async (tx) => {
    const papers = await lockPapers(tx, quiz.id, await chosen(room, wanted));
    const { first, again } = await makeReturned(tx, papers, new Date(now()));
    for (const { id } of first)
      await note(tx, { actorId: viewer.id, action: "returned", subject: "attempt", subjectId: id });
    for (const { id } of again)
      await note(tx, { actorId: viewer.id, action: "returned again", subject: "attempt", subjectId: id });
    await notify(tx, [
      ...first.map(({ id, personId, number }) => ({
        personId,
        kind: "returned" as const,
        text: said("server.marking.return-work.attempt-is-returned-its-marks-and", {
          title: quiz.title,
          number,
        }),
        path: `/attempts/${id}/paper`,
      })),
      ...again.map(({ id, personId, number }) => ({
        personId,
        kind: "returned" as const,
        text: said("server.marking.return-work.attempt-has-changed", { title: quiz.title, number }),
        path: `/attempts/${id}/paper`,
      })),
    ]);
    return { returned: first.length, again: again.length };
  });
}

const backBody = yup
  .object({
    attemptIds: ids()
      .min(1, said("server.marking.return-work.choose-what-is-taken-back"))
      .required(said("server.marking.return-work.choose-what-is-taken-back")),
    reason: yup
      .string()
      .strict()
      .test("words", said("server.marking.return-work.say-why-it-is-taken-back"), hasWords)
      .max(500)
      .required(said("server.marking.return-work.say-why-it-is-taken-back")),
  })
  .strict()
  .noUnknown();

/**
 * Takes a return back: marks by hand, notes and feedback are the markers' own again, and what the rules show "when returned" is
 * hidden. Its students are told, with the reason. Returns the names of those who had looked at it.
 */
export async function takeBackReturn(
  viewer: Viewer,
  quizId: string,
  input: unknown,
): Promise<{ readonly takenBack: number; readonly read: readonly string[] }> {
  const { attemptIds, reason } = inputOf(backBody, input);
  const room = await openRoom(viewer, quizId, "return");
  const { quiz } = room.opened;
  return inTransaction(async (tx) => {
    const papers = (await lockPapers(tx, quiz.id, attemptIds)).filter(
      ({ returnedAt }) => returnedAt !== null,
    );
    if (papers.length === 0) throw badInput(t("server.marking.return-work.none-of-these-is-returned"));
    const held = papers.map(({ id }) => id);
    const at = new Date(now());
    const marks = await currentMarksOf(tx, held);
    const rules = await ruleMarksOf(tx, held);
    await setMarks(
      tx,
      marks
        .filter(({ source }) => source === "hand")
        .flatMap(({ attemptId, slot }): (NewMark & { attemptId: string })[] => {
          const rule = rules.get(`${attemptId} ${slot}`);
          if (!rule) return [];
          return [
            {
              attemptId,
              slot,
              detail: rule.detail,
              source: "rule",
              reason: said("server.marking.return-work.the-return-was-taken-back", { reason }),
              markedBy: viewer.id,
              at: at.getTime(),
              ...(rule.versionId ? { versionId: rule.versionId } : {}),
            },
          ];
        }),
    );
    const within = (column: typeof marginNote.attemptId | typeof handMarking.attemptId) =>
      inArray(column, held);
    await tx.update(marginNote).set({ withdrawnAt: at }).where(within(marginNote.attemptId));
    await tx.update(handMarking).set({ returnedVersion: null }).where(within(handMarking.attemptId));
    await tx.update(attempt).set({ returnedAt: null, feedback: null }).where(inArray(attempt.id, held));
    for (const { id } of papers)
      await note(tx, {
        actorId: viewer.id,
        action: "return taken back",
        subject: "attempt",
        subjectId: id,
        details: { reason },
      });
    await notify(
      tx,
      papers.map(({ id, personId, number }) => ({
        personId,
        kind: "returned" as const,
        text: said("server.marking.return-work.is-with-your-instructor-again", {
          title: quiz.title,
          number,
          reason,
        }),
        path: `/attempts/${id}/slip`,
      })),
    );
    const readers = papers.filter(
      ({ returnedAt, paperReadAt }) =>
        returnedAt !== null && paperReadAt !== null && paperReadAt >= returnedAt,
    );
    if (readers.length === 0) return { takenBack: papers.length, read: [] };
    const names = await database()
      .select({ name: person.name })
      .from(person)
      .where(
        inArray(
          person.id,
          readers.map(({ personId }) => personId),
        ),
      )
      .orderBy(asc(person.name));
    return { takenBack: papers.length, read: names.map(({ name }) => name) };
  });
}
