import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { courseTable } from "@/server/course-gradebook/course-table";

/** A course's gradebook, as it is now. */
export const GET: APIRoute = async ({ params, locals }) =>
  json(await courseTable(signedIn(locals.viewer), params.course ?? ""));
