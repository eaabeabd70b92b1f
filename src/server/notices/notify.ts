import { inArray } from "drizzle-orm";
import { isSecurity, type NoticeKind } from "@/core/notices/notice-kinds";
import type { Said } from "@/core/said";
import type { Queryable } from "@/data/database";
import { person, personNotice } from "@/data/schema";
import { now } from "../base/clock";

/** One thing that one person is told. */
export interface NewNotice {
  readonly personId: string;
  readonly kind: NoticeKind;
  /** Plain sentences: what happened and what it means. */
  readonly text: Said;
  /** Where to read on, as a path of this site. */
  readonly path: string;
}

/**
 * Puts notices at people's bells, and into the waiting mail of those who want it there too. Takes the transaction in which
 * the thing itself happens: what is undone was never told.
 */
export async function notify(db: Queryable, tellings: readonly NewNotice[]): Promise<void> {
  if (tellings.length === 0) return;
  const readers = [...new Set(tellings.map(({ personId }) => personId))];
  const rows = await db
    .select({ id: person.id, mailOff: person.mailOff })
    .from(person)
    .where(inArray(person.id, readers));
  const off = new Map(rows.map(({ id, mailOff }) => [id, mailOff]));
  const createdAt = new Date(now());
  await db.insert(personNotice).values(
    tellings.map((telling) => ({
      ...telling,
      // What is about the account itself goes by mail, whatever was chosen, and stands at no bell.
      readAt: isSecurity(telling.kind) ? createdAt : null,
      mail: off.get(telling.personId)?.includes(telling.kind) ? ("off" as const) : ("waiting" as const),
      createdAt,
      mailFrom: createdAt,
    })),
  );
}
