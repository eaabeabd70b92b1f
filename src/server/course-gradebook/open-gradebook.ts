import { type CourseOfPerson, courseOf } from "../access/open-course";
import { mustMay } from "../access/tie";
import type { Viewer } from "../access/viewer";

/** The course whose gradebook somebody who teaches it opens. @throws Problem "not found" for everyone else */
export async function openGradebook(viewer: Viewer, slug: string): Promise<CourseOfPerson> {
  const course = await courseOf(viewer, slug);
  mustMay({ role: course.role, given: false }, "adjust");
  return course;
}
