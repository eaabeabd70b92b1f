import type { APIRoute } from "astro";
import { signedIn } from "@/server/access/viewer";
import { marksFile } from "@/server/course-gradebook/marks-file";

/** A course's marks, to keep, to work on in a program for tables, and to bring back in. */
export const GET: APIRoute = async ({ params, locals }) =>
  new Response(await marksFile(signedIn(locals.viewer), params.course ?? ""), {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": 'attachment; filename="marks.csv"',
    },
  });
