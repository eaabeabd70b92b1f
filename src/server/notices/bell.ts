import { and, desc, eq, isNull, lte, notInArray } from "drizzle-orm";
import { type NoticeKind, SECURITY_KINDS } from "@/core/notices/notice-kinds";
import type { Instant } from "@/core/time/instants";
import { database } from "@/data/database";
import { personNotice } from "@/data/schema";
import { say } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";

export interface BellLine {
  readonly id: string;
  readonly kind: NoticeKind;
  readonly text: string;
  readonly path: string;
  readonly at: Instant;
  /** Not seen before this look. */
  readonly isNew: boolean;
}

const MOST = 100;

/** What a person was told, newest first; looking at it is what makes it seen. */
export async function bellOf(viewer: Viewer): Promise<BellLine[]> {
  const at = new Date(now());
  const rows = await database()
    .select()
    .from(personNotice)
    .where(and(eq(personNotice.personId, viewer.id), notInArray(personNotice.kind, [...SECURITY_KINDS])))
    .orderBy(desc(personNotice.createdAt), desc(personNotice.id))
    .limit(MOST);
  if (rows.some(({ readAt }) => readAt === null)) {
    // Only what was on the page: what arrives meanwhile stays new.
    const newest = rows[0]?.createdAt ?? at;
    await database()
      .update(personNotice)
      .set({ readAt: at })
      .where(
        and(
          eq(personNotice.personId, viewer.id),
          isNull(personNotice.readAt),
          lte(personNotice.createdAt, newest),
        ),
      );
  }
  return rows.map(({ id, kind, text, path, createdAt, readAt }) => ({
    id,
    kind,
    text: say(text),
    path,
    at: createdAt.getTime(),
    isNew: readAt === null,
  }));
}
