import { may } from "@/core/access/may";
import type { CourseOfPerson } from "../access/open-course";

/** Where somebody finds a course's gradebook: their own, or everyone's. */
export const gradebookPath = ({ role, slug }: Pick<CourseOfPerson, "role" | "slug">): string =>
  may({ role, given: false }, "adjust") ? `/courses/${slug}/gradebook` : `/gradebook/${slug}`;
