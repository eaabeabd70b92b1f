import { and, eq, gt, lt, ne } from "drizzle-orm";
import * as yup from "yup";
import type { DraftNews } from "@/core/draft/draft-view";
import { exactObject } from "@/core/kinds/shapes";
import { database } from "@/data/database";
import { draftAuthor, person } from "@/data/schema";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { newestChange, piecesSince } from "./draft-pieces";
import { openDraft } from "./open-draft";

/** Who has not asked for so long has it open no longer, in milliseconds. */
const AWAY = 30_000;

const terms = exactObject({
  /** The newest change that the page knows. */
  change: yup.number().strict().integer().min(0).max(Number.MAX_SAFE_INTEGER).required(),
  device: yup.string().strict().uuid().required(),
  /** The piece that it has before it. */
  slot: yup
    .number()
    .strict()
    .integer()
    .min(0)
    .max(2 ** 31)
    .required(),
  leaves: yup.boolean().strict(),
});

/** What has changed in a draft since a page asked last, and who else has it open; notes that this page does. */
export async function draftNews(viewer: Viewer, draftId: string, input: unknown): Promise<DraftNews> {
  const { change, device, slot, leaves } = inputOf(terms, input);
  const opened = await openDraft(viewer, draftId);
  const { id } = opened.draft;
  const db = database();
  const at = now();
  const own = and(eq(draftAuthor.draftId, id), eq(draftAuthor.device, device));
  if (leaves) await db.delete(draftAuthor).where(own);
  else {
    const values = { draftId: id, device, personId: viewer.id, slot, seenAt: new Date(at) };
    await db
      .insert(draftAuthor)
      .values(values)
      .onConflictDoUpdate({ target: [draftAuthor.draftId, draftAuthor.device], set: values });
    await db
      .delete(draftAuthor)
      .where(and(eq(draftAuthor.draftId, id), lt(draftAuthor.seenAt, new Date(at - 10 * AWAY))));
  }
  // The number first: what is written between the two is told again, and never missed.
  const newest = await newestChange(db, id);
  const pieces = newest > change ? await piecesSince(db, id, change) : [];
  const others = await db
    .select({ name: person.name, slot: draftAuthor.slot, personId: draftAuthor.personId })
    .from(draftAuthor)
    .innerJoin(person, eq(person.id, draftAuthor.personId))
    .where(
      and(
        eq(draftAuthor.draftId, id),
        ne(draftAuthor.device, device),
        gt(draftAuthor.seenAt, new Date(at - AWAY)),
      ),
    )
    .orderBy(person.name);
  return {
    change: newest,
    pieces,
    others: others.map(({ personId, ...each }) => ({ ...each, isSelf: personId === viewer.id })),
    serverNow: at,
  };
}
