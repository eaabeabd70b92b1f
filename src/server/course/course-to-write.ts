import { type CourseOfPerson, courseOf } from "../access/open-course";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";

/** A course of which this person writes the plan and says something to everyone. @throws Problem "not found" */
export async function courseToWrite(viewer: Viewer, slug: string): Promise<CourseOfPerson> {
  const course = await courseOf(viewer, slug);
  mustMay({ role: course.role, given: false }, "tell");
  return course;
}
