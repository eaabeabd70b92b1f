import { and, count, desc, eq, gt, isNull, or } from "drizzle-orm";
import { validate as isUuid } from "uuid";
import * as yup from "yup";
import type { AnnouncementView } from "@/core/course/announcement-view";
import { said } from "@/core/said";
import { startOfDay } from "@/core/time/days";
import { DAY } from "@/core/time/instants";
import { instantOfLocal } from "@/core/time/local-time";
import { database, inTransaction } from "@/data/database";
import { announcement, enrolment, person } from "@/data/schema";
import { t } from "@/words/t";
import { courseOf } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { instantOf, now } from "../base/clock";
import { config } from "../base/config";
import { hasWords, inputOf } from "../base/input";
import { badInput, notFound } from "../base/problems";
import { note } from "../base/record";
import { notify } from "../notices/notify";
import { courseToWrite } from "./course-to-write";
import { dayShape } from "./day-shape";

/** So many are listed, the newest ones. */
const MOST_LISTED = 100;

const id = () =>
  yup
    .string()
    .strict()
    .test("uuid", said("server.course.announce.not-an-id"), (text) => isUuid(text ?? ""))
    .required();

const body = yup
  .object({
    /** Made where it is written: sent twice, it is said once. */
    id: id(),
    text: yup
      .string()
      .strict()
      .test("words", said("server.course.announce.write-something"), hasWords)
      .max(2_000, said("server.course.announce.too-long"))
      .required(said("server.course.announce.write-something")),
    /** The last day on which it stands on Today, "2026-11-30"; null: it stands there for good. */
    until: dayShape(),
  })
  .strict()
  .noUnknown();

const takeDownShape = yup.object({ id: id() }).strict().noUnknown();

/** Says something to everyone who takes a course: on Today, at the bell, and by mail, once. */
export async function announce(
  viewer: Viewer,
  slug: string,
  input: unknown,
): Promise<{ readonly told: number }> {
  const { id: key, text, until } = inputOf(body, input);
  const course = await courseToWrite(viewer, slug);
  const from = until ? instantOfLocal(`${until}T00:00`, config.zone) : null;
  const shownUntil = from === null ? null : startOfDay(from + DAY / 2, config.zone, 1);
  if (shownUntil !== null && shownUntil <= now()) throw badInput(t("server.course.announce.until-is-past"));
  return inTransaction(async (tx) => {
    const [made] = await tx
      .insert(announcement)
      .values({
        id: key,
        courseId: course.id,
        authorId: viewer.id,
        text,
        shownUntil: shownUntil === null ? null : new Date(shownUntil),
        createdAt: new Date(now()),
      })
      .onConflictDoNothing()
      .returning({ id: announcement.id });
    const students = await tx
      .select({ personId: enrolment.personId })
      .from(enrolment)
      .where(and(eq(enrolment.courseId, course.id), eq(enrolment.role, "student")));
    if (!made) {
      const [held] = await tx.select().from(announcement).where(eq(announcement.id, key));
      if (held?.courseId !== course.id || held.authorId !== viewer.id || held.text !== text)
        throw badInput(t("server.course.announce.not-an-id"));
      return { told: students.length };
    }
    await note(tx, {
      actorId: viewer.id,
      action: "announced",
      subject: "course",
      subjectId: course.id,
      details: { announcementId: key, text },
    });
    await notify(
      tx,
      students.map(({ personId }) => ({
        personId,
        kind: "announced" as const,
        text: said("server.course.announce.announced", { course: course.title, text }),
        path: `/courses/${course.slug}/announcements`,
      })),
    );
    return { told: students.length };
  });
}

/** Takes an announcement off Today; it stays in the list, and what was told stays told. */
export async function takeDown(viewer: Viewer, slug: string, input: unknown): Promise<void> {
  const { id: key } = inputOf(takeDownShape, input);
  const course = await courseToWrite(viewer, slug);
  const at = new Date(now());
  await inTransaction(async (tx) => {
    const [held] = await tx
      .select()
      .from(announcement)
      .where(and(eq(announcement.id, key), eq(announcement.courseId, course.id)))
      .for("update");
    if (!held) throw notFound();
    if (held.shownUntil !== null && held.shownUntil <= at) return;
    await tx.update(announcement).set({ shownUntil: at }).where(eq(announcement.id, key));
    await note(tx, {
      actorId: viewer.id,
      action: "took an announcement down",
      subject: "course",
      subjectId: course.id,
      details: { announcementId: key },
    });
  });
}

/** What was said to a course, newest first, for everyone in it. */
export async function announcementsOf(viewer: Viewer, slug: string) {
  const course = await courseOf(viewer, slug);
  const rows = await database()
    .select({ announcement, author: person.name })
    .from(announcement)
    .innerJoin(person, eq(person.id, announcement.authorId))
    .where(eq(announcement.courseId, course.id))
    .orderBy(desc(announcement.createdAt), desc(announcement.id))
    .limit(MOST_LISTED);
  const [{ students } = { students: 0 }] = await database()
    .select({ students: count() })
    .from(enrolment)
    .where(and(eq(enrolment.courseId, course.id), eq(enrolment.role, "student")));
  return {
    course,
    students,
    announcements: rows.map(
      ({ announcement: row, author }): AnnouncementView => ({
        id: row.id,
        text: row.text,
        author,
        at: row.createdAt.getTime(),
        shownUntil: instantOf(row.shownUntil),
      }),
    ),
  };
}

/** Whether an announcement stands on Today, for a query that reads announcements. */
export const standsOnToday = () =>
  or(isNull(announcement.shownUntil), gt(announcement.shownUntil, new Date(now())));
