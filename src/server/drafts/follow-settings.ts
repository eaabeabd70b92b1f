import { randomUUID } from "node:crypto";
import { and, eq } from "drizzle-orm";
import { RULES } from "@/core/draft/pieces";
import { settingsTogether } from "@/core/draft/settings-together";
import { sameValue } from "@/core/same-value";
import type { Database } from "@/data/database";
import { draft, draftPiece, quiz } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { writePieces } from "./draft-pieces";

/**
 * Takes into a draft what was changed in the settings of its quiz elsewhere, so that they are never told, or assigned, as they
 * were. What the draft itself changed in them stays.
 */
export async function followSettings(
  tx: Database,
  viewer: Viewer,
  { id, quizId }: Pick<typeof draft.$inferSelect, "id" | "quizId">,
): Promise<void> {
  if (quizId === null) return;
  const [set] = await tx.select({ settings: quiz.settings }).from(quiz).where(eq(quiz.id, quizId));
  const [known] = await tx.select({ settings: draft.settings }).from(draft).where(eq(draft.id, id));
  if (!set || !known?.settings || sameValue(set.settings, known.settings)) return;
  const [held] = await tx.select().from(draft).where(eq(draft.id, id)).for("update");
  if (!held?.settings || sameValue(set.settings, held.settings)) return;
  const [row] = await tx
    .select()
    .from(draftPiece)
    .where(and(eq(draftPiece.draftId, id), eq(draftPiece.slot, RULES)));
  if (row?.piece.piece === "rules") {
    const rules = settingsTogether(row.piece.rules, held.settings, set.settings);
    if (!sameValue(rules, row.piece.rules))
      await writePieces(tx, id, viewer.id, [
        {
          slot: RULES,
          piece: { piece: "rules", rules },
          version: row.version + 1,
          device: randomUUID(),
          revision: 1,
        },
      ]);
  }
  await tx.update(draft).set({ settings: set.settings }).where(eq(draft.id, id));
}
