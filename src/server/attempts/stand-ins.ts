import { and, eq, isNotNull } from "drizzle-orm";
import type { Queryable } from "@/data/database";
import { gradebookItem, standIn } from "@/data/schema";
import { note } from "../base/record";

/** A student's choice for one piece of work: that other work stands in for it, or that it counts itself. */
interface StandInChoice {
  /** The work that is replaced. */
  readonly itemId: string;
  readonly personId: string;
  readonly chosen: boolean;
  /** The attempt in which it was declared; null: it was chosen in the gradebook. */
  readonly declaredIn: string | null;
}

/** Puts the choice down, and on record if it is another one than before. */
export async function setStandIn(
  db: Queryable,
  { itemId, personId, chosen, declaredIn }: StandInChoice,
): Promise<void> {
  const own = and(eq(standIn.itemId, itemId), eq(standIn.personId, personId));
  const before = await db.select().from(standIn).where(own);
  if (chosen) {
    await db
      .insert(standIn)
      .values({ itemId, personId, declaredIn })
      .onConflictDoUpdate({ target: [standIn.itemId, standIn.personId], set: { declaredIn } });
  } else await db.delete(standIn).where(own);
  if (before.length > 0 === chosen) return;
  await note(db, {
    actorId: personId,
    action: chosen ? "chose a stand-in" : "took a stand-in back",
    subject: "person",
    subjectId: personId,
    details: { item: itemId },
  });
}

/**
 * Follows what a student declared in a quiz, where the gradebook lets that quiz stand in for other work. Null: nothing is
 * declared (any more), so what this very attempt declared before goes.
 */
export async function followDeclaration(
  db: Queryable,
  { id, quizId, personId }: { readonly id: string; readonly quizId: string; readonly personId: string },
  chosen: boolean | null,
): Promise<void> {
  if (chosen === null) return forgetDeclared(db, id);
  const [item] = await db
    .select({ standsInForId: gradebookItem.standsInForId })
    .from(gradebookItem)
    .where(and(eq(gradebookItem.quizId, quizId), isNotNull(gradebookItem.standsInForId)));
  if (item?.standsInForId) {
    await setStandIn(db, { itemId: item.standsInForId, personId, chosen, declaredIn: id });
  }
}

/** Undoes what an attempt declared, because it was taken back or declares nothing any more. */
export async function forgetDeclared(db: Queryable, attemptId: string): Promise<void> {
  const declared = await db.select().from(standIn).where(eq(standIn.declaredIn, attemptId));
  for (const { itemId, personId } of declared) {
    await setStandIn(db, { itemId, personId, chosen: false, declaredIn: null });
  }
}
