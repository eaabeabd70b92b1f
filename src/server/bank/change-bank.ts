import { and, eq, isNull } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import { exactObject } from "@/core/kinds/shapes";
import { inTransaction } from "@/data/database";
import { bankQuestion, bankShare, course, enrolment } from "@/data/schema";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";
import { now } from "../base/clock";
import { inputOf } from "../base/input";
import { notFound } from "../base/problems";
import { note } from "../base/record";
import { placeFields, tidied } from "./write-bank";

async function ownBank(viewer: Viewer, slug: string): Promise<CourseOfPerson> {
  const own = await courseOf(viewer, slug);
  mustMay({ role: own.role, given: false }, "rule");
  return own;
}

const placing = exactObject({ id: yup.string().strict().required(), ...placeFields });

/** Says anew which topic and tags a question of the bank has. Sections that draw from topics go with it. */
export async function placeInBank(viewer: Viewer, slug: string, input: unknown): Promise<void> {
  const { id, ...place } = inputOf(placing, input);
  const own = await ownBank(viewer, slug);
  await changed(viewer, own, id, tidied(place), { action: "placed in the bank" });
}

const naming = exactObject({ id: yup.string().strict().required() });

/** Puts a question of the bank away: quizzes that have it keep it as it is, and none takes it any more. */
export async function putAwayInBank(viewer: Viewer, slug: string, input: unknown): Promise<void> {
  const { id } = inputOf(naming, input);
  const own = await ownBank(viewer, slug);
  await changed(viewer, own, id, { removedAt: new Date(now()) }, { action: "put away in the bank" });
}

async function changed(
  viewer: Viewer,
  { id: courseId }: CourseOfPerson,
  id: string,
  values: Partial<typeof bankQuestion.$inferInsert>,
  { action }: { readonly action: string },
): Promise<void> {
  if (!isUuid(id)) throw notFound();
  await inTransaction(async (tx) => {
    const rows = await tx
      .update(bankQuestion)
      .set({ ...values, changedBy: viewer.id, changedAt: new Date(now()) })
      .where(
        and(eq(bankQuestion.id, id), eq(bankQuestion.courseId, courseId), isNull(bankQuestion.removedAt)),
      )
      .returning({ id: bankQuestion.id });
    if (rows.length === 0) throw notFound();
    await note(tx, {
      actorId: viewer.id,
      action,
      subject: "course",
      subjectId: courseId,
      details: { bank: id },
    });
  });
}

const sharing = exactObject({
  with: yup.string().strict().max(80).required(),
  shares: yup.boolean().strict().required(),
});

/** Lets another course that the same person teaches take from this bank, or no longer. */
export async function shareBank(viewer: Viewer, slug: string, input: unknown): Promise<void> {
  const { with: other, shares } = inputOf(sharing, input);
  const own = await ownBank(viewer, slug);
  await inTransaction(async (tx) => {
    const [found] = await tx
      .select({ id: course.id })
      .from(course)
      .innerJoin(enrolment, and(eq(enrolment.courseId, course.id), eq(enrolment.personId, viewer.id)))
      .where(and(eq(course.slug, other), eq(enrolment.role, "instructor")));
    if (!found || found.id === own.id) throw notFound();
    const pair = { courseId: own.id, withId: found.id };
    if (shares) await tx.insert(bankShare).values(pair).onConflictDoNothing();
    else
      await tx.delete(bankShare).where(and(eq(bankShare.courseId, own.id), eq(bankShare.withId, found.id)));
    await note(tx, {
      actorId: viewer.id,
      action: shares ? "shared the bank" : "shared the bank no longer",
      subject: "course",
      subjectId: own.id,
      details: { with: other },
    });
  });
}
