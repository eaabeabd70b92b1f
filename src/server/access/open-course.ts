import { and, eq } from "drizzle-orm";
import type { CourseRole } from "@/core/access/may";
import { database } from "@/data/database";
import { course, enrolment } from "@/data/schema";
import { notFound } from "../base/problems";
import type { Viewer } from "./viewer";

/** A course with what ties one person to it. */
export type CourseOfPerson = typeof course.$inferSelect & {
  readonly role: CourseRole;
  /** When its page was last opened by this person; null: never. */
  readonly visitedAt: Date | null;
};

/** A course by its address, if this person is enrolled in it; else "not found". */
export async function courseOf(viewer: Viewer, slug: string): Promise<CourseOfPerson> {
  const [row] = await database()
    .select({ course, role: enrolment.role, visitedAt: enrolment.visitedAt })
    .from(course)
    .innerJoin(enrolment, and(eq(enrolment.courseId, course.id), eq(enrolment.personId, viewer.id)))
    .where(eq(course.slug, slug));
  if (!row) throw notFound();
  return { ...row.course, role: row.role, visitedAt: row.visitedAt };
}
