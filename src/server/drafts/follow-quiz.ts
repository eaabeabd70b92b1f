import { randomUUID } from "node:crypto";
import { and, eq, inArray } from "drizzle-orm";
import { keysFollowed } from "@/core/draft/keys-followed";
import { RULES, rulesOf } from "@/core/draft/pieces";
import { settingsTogether } from "@/core/draft/settings-together";
import { sameValue } from "@/core/same-value";
import type { Database } from "@/data/database";
import { course, draft, quiz, quizVersion } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { piecesSince, writePieces } from "./draft-pieces";

/**
 * Takes into a draft what was changed in its quiz elsewhere, its settings and what was put right in its keys, so that it is
 * never told, or assigned, as it was. What the draft itself changed stays.
 */
export async function followQuiz(
  tx: Database,
  viewer: Viewer,
  { id, quizId }: Pick<typeof draft.$inferSelect, "id" | "quizId">,
): Promise<void> {
  if (quizId === null) return;
  const [set] = await tx
    .select({ settings: quiz.settings, version: quiz.currentVersion, meanings: course.unitMeanings })
    .from(quiz)
    .innerJoin(course, eq(course.id, quiz.courseId))
    .where(eq(quiz.id, quizId));
  const isAsKnown = (known: { settings: unknown; ofVersion: number | null } | undefined) =>
    !known?.settings || (sameValue(set?.settings, known.settings) && known.ofVersion === set?.version);
  const [known] = await tx
    .select({ settings: draft.settings, ofVersion: draft.ofVersion })
    .from(draft)
    .where(eq(draft.id, id));
  if (!set || isAsKnown(known)) return;
  const [held] = await tx.select().from(draft).where(eq(draft.id, id)).for("update");
  if (!held?.settings || isAsKnown(held)) return;
  const standing = await piecesSince(tx, id, 0);
  const pieces = new Map(standing.map(({ slot, piece }) => [slot, piece]));
  const versions = await tx
    .select({ number: quizVersion.number, content: quizVersion.content })
    .from(quizVersion)
    .where(
      and(eq(quizVersion.quizId, quizId), inArray(quizVersion.number, [held.ofVersion ?? 0, set.version])),
    );
  const contentOf = (number: number | null) => versions.find((each) => each.number === number)?.content;
  const [base, now] = [contentOf(held.ofVersion), contentOf(set.version)];
  const changed = base && now ? keysFollowed(pieces, base, now, set.meanings) : new Map();
  const rules = settingsTogether(rulesOf(pieces), held.settings, set.settings);
  if (!sameValue(rules, rulesOf(pieces))) changed.set(RULES, { piece: "rules", rules });
  const versionOf = new Map(standing.map(({ slot, version }) => [slot, version]));
  const device = randomUUID();
  await writePieces(
    tx,
    id,
    viewer.id,
    [...changed].map(([slot, piece], i) => ({
      slot,
      piece,
      version: (versionOf.get(slot) ?? 0) + 1,
      device,
      revision: i + 1,
    })),
  );
  await tx.update(draft).set({ settings: set.settings, ofVersion: set.version }).where(eq(draft.id, id));
}
