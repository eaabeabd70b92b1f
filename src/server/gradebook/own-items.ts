import { and, asc, eq, sql } from "drizzle-orm";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { enrolment, gradebookCategory, gradebookItem, standIn } from "@/data/schema";
import type { Viewer } from "../access/viewer";

export type ItemRow = typeof gradebookItem.$inferSelect;

/** What an instructor set by hand, as it is read: the newest of it. */
export interface SetByHand {
  readonly marks: string | null;
  readonly excused: boolean;
  readonly reason: string;
  readonly by: string;
  readonly at: Instant;
}

/** A piece of work of a gradebook, with what was set by hand and chosen for one student. */
export interface OwnItem {
  readonly category: typeof gradebookCategory.$inferSelect;
  readonly item: ItemRow | null;
  readonly set: SetByHand | null;
  /** Whether its student chose that other work stands in for it. */
  readonly chosen: boolean;
}

/** The pieces of work of a person's courses, or of one, with what was set by hand and chosen for them: one query. */
export async function itemsOf(viewer: Pick<Viewer, "id">, courseId?: string): Promise<OwnItem[]> {
  const newest = sql<{
    marks: string | null;
    excused: boolean;
    reason: string;
    by: string;
    at: string;
  } | null>`(select jsonb_build_object('marks', a.marks::text, 'excused', a.excused, 'reason', a.reason,
      'by', p.name, 'at', a.created_at)
    from adjustment a join person p on p.id = a.set_by
    where a.item_id = ${gradebookItem.id} and a.person_id = ${viewer.id} and not a.withdrawn
      and a.added = (select max(b.added) from adjustment b where b.item_id = a.item_id and b.person_id = a.person_id))`;
  const rows = await database()
    .select({
      category: gradebookCategory,
      item: gradebookItem,
      set: newest,
      chosen: sql<boolean>`exists (select 1 from ${standIn} where ${standIn.itemId} = ${gradebookItem.id} and ${standIn.personId} = ${viewer.id})`,
    })
    .from(enrolment)
    .innerJoin(gradebookCategory, eq(gradebookCategory.courseId, enrolment.courseId))
    .leftJoin(gradebookItem, eq(gradebookItem.categoryId, gradebookCategory.id))
    .where(
      and(eq(enrolment.personId, viewer.id), courseId ? eq(gradebookCategory.courseId, courseId) : undefined),
    )
    .orderBy(asc(gradebookCategory.position), asc(gradebookItem.position));
  return rows.map(({ set, ...row }) => ({
    ...row,
    set: set && { ...set, excused: set.excused || set.marks === null, at: Date.parse(set.at) },
  }));
}
