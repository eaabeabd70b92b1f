import { and, asc, eq, gt, inArray, max } from "drizzle-orm";
import { asWritten } from "@/core/draft/blank";
import type { StandingPiece } from "@/core/draft/draft-view";
import type { DraftPiece, Pieces } from "@/core/draft/pieces";
import { mapFields, RECORDING_FIELDS, type TextUse } from "@/core/kinds/fields";
import { marking } from "@/core/kinds/marking";
import type { Database, Queryable } from "@/data/database";
import { draft, draftLog, draftPiece, person } from "@/data/schema";
import { now } from "../base/clock";
import { cleanText } from "../text/rich-text";

const clean = (text: string, use: TextUse): string => (use === "rich" ? cleanText(text) : text);

/** A piece as it may be kept and shown to another author: nothing in it runs, loads or styles. */
export function cleanPiece(piece: DraftPiece): DraftPiece {
  switch (piece.piece) {
    case "head":
      return mapFields(piece, { brief: "rich", reference: "rich" }, clean);
    case "outline":
      return mapFields(piece, { sections: [{ stimulus: { text: "rich" } }] }, clean);
    case "question":
      return { ...piece, question: mapFields(piece.question, marking(piece.question.kind).fields, clean) };
    case "recording":
      return { ...piece, recording: mapFields(piece.recording, RECORDING_FIELDS, clean) };
    default:
      return piece;
  }
}

/** A piece as a page gets it. */
const whole = (piece: DraftPiece): DraftPiece =>
  piece.piece === "question" ? { ...piece, question: asWritten(piece.question) } : piece;

/**
 * The pieces of a draft that were changed after a change; all of them after 0.
 * @param slots of these alone
 */
export async function piecesSince(
  db: Pick<Database, "select">,
  draftId: string,
  change: number,
  slots?: readonly number[],
): Promise<StandingPiece[]> {
  const rows = await db
    .select({
      slot: draftPiece.slot,
      piece: draftPiece.piece,
      version: draftPiece.version,
      author: person.name,
      device: draftPiece.device,
      revision: draftPiece.revision,
    })
    .from(draftPiece)
    .innerJoin(person, eq(person.id, draftPiece.authorId))
    .where(
      and(
        eq(draftPiece.draftId, draftId),
        gt(draftPiece.change, change),
        slots ? inArray(draftPiece.slot, [...slots]) : undefined,
      ),
    )
    .orderBy(asc(draftPiece.slot));
  return rows.map((row) => ({ ...row, piece: whole(row.piece) }));
}

/** A draft as it stands. */
export async function piecesOfDraft(db: Pick<Database, "select">, draftId: string): Promise<Pieces> {
  return new Map((await piecesSince(db, draftId, 0)).map(({ slot, piece }) => [slot, piece]));
}

/** The number of the newest change of a draft; 0: there is none. */
export async function newestChange(db: Pick<Database, "select">, draftId: string): Promise<number> {
  const [row] = await db
    .select({ change: max(draftPiece.change) })
    .from(draftPiece)
    .where(eq(draftPiece.draftId, draftId));
  return row?.change ?? 0;
}

/** A piece to be written, by whom and on which page. */
export interface PieceToWrite {
  readonly slot: number;
  readonly piece: DraftPiece;
  readonly version: number;
  readonly device: string;
  readonly revision: number;
}

/** Writes pieces of a draft whose row the caller holds. What they held before stays in the log. */
export async function writePieces(
  tx: Queryable,
  draftId: string,
  authorId: string,
  pieces: readonly PieceToWrite[],
): Promise<void> {
  const at = new Date(now());
  for (const each of pieces) {
    const values = { ...each, draftId, authorId, savedAt: at };
    const [logged] = await tx.insert(draftLog).values(values).returning({ change: draftLog.change });
    const stands = { ...values, change: logged?.change ?? 0 };
    await tx
      .insert(draftPiece)
      .values(stands)
      .onConflictDoUpdate({ target: [draftPiece.draftId, draftPiece.slot], set: stands });
  }
  const head = pieces.flatMap(({ piece }) => (piece.piece === "head" ? [piece] : [])).at(-1);
  if (pieces.length > 0)
    await tx
      .update(draft)
      .set({ changedAt: at, changedBy: authorId, ...(head ? { title: head.title } : {}) })
      .where(eq(draft.id, draftId));
}
