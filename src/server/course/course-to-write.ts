import { may } from "@/core/access/may";
import { type CourseOfPerson, courseOf } from "../access/open-course";
import type { Viewer } from "../access/viewer";
import { notFound } from "../base/problems";

/** A course of which this person writes the plan and says something to everyone. @throws Problem "not found" */
export async function courseToWrite(viewer: Viewer, slug: string): Promise<CourseOfPerson> {
  const course = await courseOf(viewer, slug);
  if (!may({ role: course.role, given: false }, "tell")) throw notFound();
  return course;
}
