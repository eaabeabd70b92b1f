import { randomUUID } from "node:crypto";
import { and, asc, desc, eq, lte } from "drizzle-orm";
import * as yup from "yup";
import type { SavedState, StandingPiece } from "@/core/draft/draft-view";
import { type ChangeMade, statesOf } from "@/core/draft/saved-states";
import { exactObject } from "@/core/kinds/shapes";
import { sameValue } from "@/core/same-value";
import { database, inTransaction } from "@/data/database";
import { draft, draftLog, person } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { inputOf } from "../base/input";
import { notFound } from "../base/problems";
import { piecesSince, writePieces } from "./draft-pieces";
import { openDraft } from "./open-draft";

/** The newest changes that are looked at for states; what is older stays in the log. */
const MOST_CHANGES = 5_000;

/** The states of a draft that can be brought back, the newest first. */
export async function savedStates(viewer: Viewer, draftId: string): Promise<SavedState[]> {
  const opened = await openDraft(viewer, draftId);
  const rows = await database()
    .select({ change: draftLog.change, at: draftLog.savedAt, by: person.name })
    .from(draftLog)
    .innerJoin(person, eq(person.id, draftLog.authorId))
    .where(eq(draftLog.draftId, opened.draft.id))
    .orderBy(desc(draftLog.change))
    .limit(MOST_CHANGES);
  return statesOf(rows.reverse().map((row): ChangeMade => ({ ...row, at: row.at.getTime() }))).reverse();
}

const body = exactObject({
  change: yup.number().strict().integer().min(1).max(Number.MAX_SAFE_INTEGER).required(),
});

/** A draft as it was after a change, piece by piece. */
const piecesAt = (
  db: Pick<ReturnType<typeof database>, "selectDistinctOn">,
  draftId: string,
  change: number,
) =>
  db
    .selectDistinctOn([draftLog.slot], { slot: draftLog.slot, piece: draftLog.piece })
    .from(draftLog)
    .where(and(eq(draftLog.draftId, draftId), lte(draftLog.change, change)))
    .orderBy(asc(draftLog.slot), desc(draftLog.change));

/**
 * Brings a saved state of a draft back, as a change like any other: what stood until now is a saved state too. Answers with the
 * pieces that it changed.
 */
export async function bringBack(viewer: Viewer, draftId: string, input: unknown): Promise<StandingPiece[]> {
  const { change } = inputOf(body, input);
  const opened = await openDraft(viewer, draftId);
  return inTransaction(async (tx) => {
    const [held] = await tx.select().from(draft).where(eq(draft.id, opened.draft.id)).for("update");
    if (!held || held.removedAt !== null) throw notFound();
    const then = await piecesAt(tx, held.id, change);
    if (then.length === 0) throw notFound();
    const stands = new Map((await piecesSince(tx, held.id, 0)).map((each) => [each.slot, each]));
    const device = randomUUID();
    const toWrite = then
      .filter(({ slot, piece }) => !sameValue(piece, stands.get(slot)?.piece))
      .map(({ slot, piece }, i) => ({
        slot,
        piece,
        version: (stands.get(slot)?.version ?? 0) + 1,
        device,
        revision: i + 1,
      }));
    await writePieces(tx, held.id, viewer.id, toWrite);
    const changed = new Set(toWrite.map(({ slot }) => slot));
    return (await piecesSince(tx, held.id, 0)).filter(({ slot }) => changed.has(slot));
  });
}
