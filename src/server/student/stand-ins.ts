import { and, eq, isNotNull } from "drizzle-orm";
import type { Queryable } from "@/data/database";
import { gradebookItem, standIn } from "@/data/schema";
import { note } from "../record";

/** A student's choice for one piece of work: that other work stands in for it, or that it counts itself. */
interface StandInChoice {
  /** The work that is replaced. */
  readonly itemId: string;
  readonly personId: string;
  readonly chosen: boolean;
}

/** Puts the choice down, and on record if it is another one than before. */
export async function setStandIn(db: Queryable, { itemId, personId, chosen }: StandInChoice): Promise<void> {
  const changed = chosen
    ? await db.insert(standIn).values({ itemId, personId }).onConflictDoNothing().returning()
    : await db
        .delete(standIn)
        .where(and(eq(standIn.itemId, itemId), eq(standIn.personId, personId)))
        .returning();
  if (changed.length === 0) return;
  await note(db, {
    actorId: personId,
    action: chosen ? "chose a stand-in" : "took a stand-in back",
    subject: "person",
    subjectId: personId,
    details: { item: itemId },
  });
}

/** Follows what a student declared in a quiz, where the gradebook lets that quiz stand in for other work. */
export async function declareStandIn(
  db: Queryable,
  { quizId, personId }: { readonly quizId: string; readonly personId: string },
  chosen: boolean,
): Promise<void> {
  const [item] = await db
    .select({ standsInForId: gradebookItem.standsInForId })
    .from(gradebookItem)
    .where(and(eq(gradebookItem.quizId, quizId), isNotNull(gradebookItem.standsInForId)));
  if (item?.standsInForId) await setStandIn(db, { itemId: item.standsInForId, personId, chosen });
}
