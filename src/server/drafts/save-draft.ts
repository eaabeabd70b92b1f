import { and, eq, inArray } from "drizzle-orm";
import * as yup from "yup";
import type { RefusedEntry } from "@/core/desk/desk-view";
import type { DraftReceipt, StandingPiece } from "@/core/draft/draft-view";
import { isPiece, LARGEST_PIECE, NOT_A_PIECE } from "@/core/draft/piece-shape";
import { type DraftPiece, PIECES_END } from "@/core/draft/pieces";
import { exactObject } from "@/core/kinds/shapes";
import type { Said } from "@/core/said";
import { sameValue } from "@/core/same-value";
import { type Database, inTransaction } from "@/data/database";
import { asset, draft, draftLog } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { notFound } from "../base/problems";
import { cleanPiece, type PieceToWrite, piecesSince, writePieces } from "./draft-pieces";
import { openDraft } from "./open-draft";

const MOST_ENTRIES = 200;
const FARTHEST = Date.UTC(2100, 0, 1);

const entryShape = exactObject({
  slot: yup
    .number()
    .strict()
    .integer()
    .min(1)
    .max(PIECES_END - 1)
    .required(),
  device: yup.string().strict().uuid().required(),
  revision: yup.number().strict().integer().min(1).max(Number.MAX_SAFE_INTEGER).required(),
  writtenAt: yup.number().strict().integer().min(0).max(FARTHEST).required(),
  base: yup.number().strict().integer().min(0).max(1_000_000_000).required(),
  piece: yup.mixed().defined(),
});

const body = exactObject({ entries: yup.array(entryShape).strict().max(MOST_ENTRIES).required() });

type Entry = yup.InferType<typeof entryShape>;

/** Why a piece cannot be kept as it is; null: it can. */
async function problemOf(tx: Database, courseId: string, { slot, piece }: Entry): Promise<Said | null> {
  if (!isPiece(piece, slot)) return NOT_A_PIECE;
  if (JSON.stringify(piece).length > LARGEST_PIECE) return t("server.drafts.save-draft.too-long");
  const file =
    piece.piece === "picture"
      ? piece.picture.asset
      : piece.piece === "recording"
        ? piece.recording.asset
        : null;
  if (file === null) return null;
  // What another course keeps is not to be shown by naming it.
  const [known] = await tx
    .select({ id: asset.id })
    .from(asset)
    .where(and(eq(asset.id, file), eq(asset.courseId, courseId)));
  return known ? null : t("server.drafts.save-draft.no-such-file");
}

/** What was saved under the names of these entries before, by name. */
async function loggedOf(tx: Database, draftId: string, entries: readonly Entry[]) {
  const slots = [...new Set(entries.map(({ slot }) => slot))];
  const devices = [...new Set(entries.map(({ device }) => device))];
  const rows = await tx
    .select({
      slot: draftLog.slot,
      device: draftLog.device,
      revision: draftLog.revision,
      piece: draftLog.piece,
      version: draftLog.version,
    })
    .from(draftLog)
    .where(
      and(
        eq(draftLog.draftId, draftId),
        inArray(draftLog.slot, slots),
        inArray(draftLog.device, devices),
        inArray(
          draftLog.revision,
          entries.map(({ revision }) => revision),
        ),
      ),
    );
  return new Map(rows.map((row) => [`${row.slot} ${row.device} ${row.revision}`, row]));
}

/**
 * Saves what an author writes in a draft, piece by piece, however unfinished it is. What another page wrote meanwhile is never
 * overwritten: the entry is refused, and what stands is sent back. The same entry again is the same.
 */
export async function saveDraft(viewer: Viewer, draftId: string, input: unknown): Promise<DraftReceipt> {
  const { entries } = inputOf(body, input);
  const opened = await openDraft(viewer, draftId);
  const saved: DraftReceipt["saved"][number][] = [];
  const refused: RefusedEntry[] = [];
  const standing = new Map<number, StandingPiece>();
  await inTransaction(async (tx) => {
    // One after the other, whoever writes in this draft.
    const [held] = await tx
      .select({ removedAt: draft.removedAt })
      .from(draft)
      .where(eq(draft.id, opened.draft.id))
      .for("update");
    if (!held || held.removedAt !== null) throw notFound();
    const slots = [...new Set(entries.map(({ slot }) => slot))];
    const found = slots.length === 0 ? [] : await piecesSince(tx, opened.draft.id, 0, slots);
    const stands = new Map(found.map((each) => [each.slot, each] as const));
    const logged = entries.length === 0 ? new Map() : await loggedOf(tx, opened.draft.id, entries);
    const toWrite: PieceToWrite[] = [];
    for (const entry of entries) {
      const { slot, revision, base } = entry;
      const device = entry.device.toLowerCase();
      const refuse = (type: string, sentence: Said) =>
        refused.push({ slot, device, revision, type, sentence });
      const problem = await problemOf(tx, opened.course.id, entry);
      if (problem !== null) {
        refuse("bad-input", problem);
        continue;
      }
      const piece = cleanPiece(entry.piece as DraftPiece);
      const before = logged.get(`${slot} ${device} ${revision}`);
      if (before) {
        if (sameValue(before.piece, piece)) saved.push({ slot, device, revision, version: before.version });
        else refuse("number-taken", t("server.drafts.save-draft.this-number-was-given"));
        continue;
      }
      const held = stands.get(slot);
      // One's own page writes on, one change after the other.
      const own = held?.device === device && held.revision < revision;
      if (!own && (held?.version ?? 0) !== base) {
        if (held) standing.set(slot, held);
        refuse(
          "written-elsewhere",
          t("server.drafts.save-draft.wrote-here-meanwhile", { author: held?.author ?? "" }),
        );
        continue;
      }
      const version = (held?.version ?? 0) + 1;
      toWrite.push({ slot, piece, version, device, revision });
      stands.set(slot, { slot, piece, version, device, revision, author: "" });
      saved.push({ slot, device, revision, version });
    }
    await writePieces(tx, opened.draft.id, viewer.id, toWrite);
  });
  return { serverNow: now(), saved, refused, standing: [...standing.values()], newer: [] };
}
