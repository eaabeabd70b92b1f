import { and, asc, desc, eq, isNotNull, or, sql } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { RemarkLine } from "@/core/desk/room-view";
import { said } from "@/core/said";
import { database } from "@/data/database";
import { person, remark } from "@/data/schema";
import { t } from "@/words/t";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { hasWords, inputOf } from "../base/input";
import { badInput, notFound } from "../base/problems";
import { openRoom } from "./room";

/** The remarks that somebody may bring in while marking in a course: their own, and those that others shared; most used first. */
export async function remarksOf(viewer: Viewer, courseId: string): Promise<RemarkLine[]> {
  const rows = await database()
    .select({ remark, author: person.name })
    .from(remark)
    .innerJoin(person, eq(person.id, remark.personId))
    .where(and(eq(remark.courseId, courseId), or(eq(remark.personId, viewer.id), isNotNull(remark.sharedAt))))
    .orderBy(desc(remark.used), asc(remark.short), asc(remark.id));
  return rows.map(({ remark: row, author }) => ({
    id: row.id,
    short: row.short,
    text: row.text,
    used: row.used,
    own: row.personId === viewer.id,
    shared: row.sharedAt !== null,
    author,
  }));
}

/** A bound against abuse. */
const MOST_REMARKS = 300;

const body = yup
  .object({
    keep: yup
      .object({
        short: yup
          .string()
          .strict()
          .matches(/^[\p{L}\p{N}-]{1,20}$/u, {
            message: said("server.marking.remarks.the-short-name-is-up-to"),
          })
          .required(said("server.marking.remarks.the-short-name-is-up-to")),
        text: yup
          .string()
          .strict()
          .test("words", said("server.marking.remarks.write-the-remark"), hasWords)
          .max(1_000, said("server.marking.remarks.a-remark-has-at-most"))
          .required(said("server.marking.remarks.write-the-remark")),
        shared: yup.boolean().strict().required(),
      })
      .strict()
      .noUnknown()
      .default(undefined),
    used: yup.string().strict(),
    remove: yup.string().strict(),
  })
  .strict()
  .noUnknown();

/**
 * Keeps a remark of one's own, under a short name; notes that one was brought in; or takes one's own away. Returns the remarks
 * as they are then.
 */
export async function changeRemarks(viewer: Viewer, quizId: string, input: unknown): Promise<RemarkLine[]> {
  const { keep, used, remove } = inputOf(body, input);
  const { opened } = await openRoom(viewer, quizId);
  const courseId = opened.course.id;
  const within = eq(remark.courseId, courseId);
  if (keep) {
    const all = await remarksOf(viewer, courseId);
    const isNew = !all.some(({ own, short }) => own && short === keep.short);
    if (isNew && all.filter(({ own }) => own).length >= MOST_REMARKS)
      throw badInput(t("server.marking.remarks.there-is-room-for", { most: MOST_REMARKS }));
    const sharedAt = keep.shared ? new Date(now()) : null;
    await database()
      .insert(remark)
      .values({ personId: viewer.id, courseId, short: keep.short, text: keep.text, sharedAt })
      .onConflictDoUpdate({
        target: [remark.personId, remark.courseId, remark.short],
        set: { text: keep.text, sharedAt },
      });
  }
  if (used !== undefined) {
    if (!isUuid(used)) throw notFound();
    await database()
      .update(remark)
      .set({ used: sql`${remark.used} + 1` })
      .where(
        and(eq(remark.id, used), within, or(eq(remark.personId, viewer.id), isNotNull(remark.sharedAt))),
      );
  }
  if (remove !== undefined) {
    if (!isUuid(remove)) throw notFound();
    await database()
      .delete(remark)
      .where(and(eq(remark.id, remove), within, eq(remark.personId, viewer.id)));
  }
  return remarksOf(viewer, courseId);
}
