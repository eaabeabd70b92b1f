import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { json } from "@/server/base/json";
import { cellStory } from "@/server/course-gradebook/cell-story";

/** Everything about one student's mark for one piece of work. */
export const GET: APIRoute = async ({ params, url, locals }) =>
  json(
    await cellStory(signedIn(locals.viewer), params.course ?? "", {
      student: url.searchParams.get("student") ?? undefined,
      item: url.searchParams.get("item") ?? undefined,
    }),
  );
