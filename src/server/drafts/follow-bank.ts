import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { bankFollowed } from "@/core/draft/bank";
import type { StandingPiece } from "@/core/draft/draft-view";
import { outlineOf, type Pieces } from "@/core/draft/pieces";
import type { Database, Queryable } from "@/data/database";
import { bankUse, draft } from "@/data/schema";
import { bankQuestions } from "../bank/bank-questions";
import { cleanPiece, piecesSince, writePieces } from "./draft-pieces";
import { newSlots } from "./new-slots";

/** What a draft takes from banks as they change: the questions that follow, and the topics that its sections draw from. */
function wantedFrom(pieces: Pieces) {
  const { sections } = outlineOf(pieces);
  const slots = new Set(sections.flatMap(({ questions }) => questions));
  const ids = [...pieces].flatMap(([slot, piece]) =>
    piece.piece === "question" && piece.bank?.follows && slots.has(slot) ? [piece.bank.id] : [],
  );
  return { ids, choices: sections.flatMap(({ bank }) => (bank ? [bank] : [])) };
}

/** Whether a draft takes anything from a bank. */
export function takesFromBank(standing: readonly StandingPiece[]): boolean {
  const { ids, choices } = wantedFrom(new Map(standing.map(({ slot, piece }) => [slot, piece])));
  return ids.length > 0 || choices.length > 0;
}

/**
 * Takes into a draft what its banks have now, so that it is never shown, tried or assigned as they were.
 * @param by who is written down for it
 */
export async function followBank(
  tx: Database,
  by: string,
  { id, courseId }: Pick<typeof draft.$inferSelect, "id" | "courseId">,
): Promise<void> {
  if (!takesFromBank(await piecesSince(tx, id, 0))) return;
  // One after the other, whoever writes in this draft.
  await tx.select({ id: draft.id }).from(draft).where(eq(draft.id, id)).for("update");
  const now = await piecesSince(tx, id, 0);
  const pieces = new Map(now.map(({ slot, piece }) => [slot, piece]));
  const changed = bankFollowed(pieces, await bankQuestions(tx, courseId, wantedFrom(pieces)), newSlots());
  const versionOf = new Map(now.map(({ slot, version }) => [slot, version]));
  const device = randomUUID();
  await writePieces(
    tx,
    id,
    by,
    [...changed].map(([slot, piece], i) => ({
      slot,
      piece: cleanPiece(piece),
      version: (versionOf.get(slot) ?? 0) + 1,
      device,
      revision: i + 1,
    })),
  );
}

/** Writes down which questions of banks a quiz asks, and in which version. */
export async function noteBankUse(tx: Queryable, quizId: string, pieces: Pieces): Promise<void> {
  const slots = new Set(outlineOf(pieces).sections.flatMap(({ questions }) => questions));
  for (const [slot, piece] of pieces) {
    if (piece.piece !== "question" || !piece.bank?.follows || !slots.has(slot)) continue;
    const { id: bankId, version } = piece.bank;
    await tx
      .insert(bankUse)
      .values({ bankId, quizId, questionId: piece.question.id, version })
      .onConflictDoUpdate({ target: [bankUse.bankId, bankUse.quizId, bankUse.questionId], set: { version } });
  }
}
